import { readdirSync } from 'node:fs'
import path from 'node:path'
import { describe, expect, it } from 'vitest'
import { STARTING_MOVES } from '@/core/choreo'
import { readWav } from '@/core/formats/wav'
import { loopTrack } from '../../e2e/sounds'
import { openMoves, saveMoves } from './moves'
import { ownData } from './own-data.test-tools'
import { copyRoutine, logOf, logRepetition, openRoutine, saveRoutine } from './routines'
import { takeIn } from './songs'
import { spoken } from './speech'

const dir = ownData()

describe('the move list', () => {
  it('begins with the starting moves, and is saved on its revision', async () => {
    expect(await openMoves()).toMatchObject({ revision: 0, moves: [...STARTING_MOVES] })
    const own = STARTING_MOVES.map((m) => (m.name === 'step' ? { ...m, call: 'walk it' } : m))
    const save = (n: number, revision = 0) => ({ revision, writer: 'one-window', save: n })
    expect(await saveMoves(save(1), own)).toBe(1)
    expect(await saveMoves(save(1), own)).toBe(1)
    expect((await openMoves()).moves.find((m) => m.name === 'step')?.call).toBe('walk it')
    expect(await saveMoves(save(2, 1), own.slice(1))).toBe(2)
  })
  it('is not overwritten from an old revision', async () => {
    await expect(saveMoves({ revision: 0, writer: 'other-window', save: 1 }, [])).rejects.toMatchObject({
      status: 409,
    })
    expect((await openMoves()).moves).toHaveLength(STARTING_MOVES.length - 1)
  })
})

describe('a copy of a routine', () => {
  it('has the same dance, a name of its own, and an empty log', async () => {
    async function* bytes() {
      yield loopTrack(103, 6)
    }
    const { routines } = await takeIn(bytes(), 'Copied.wav')
    const id = routines[0]?.id as string
    const open = await openRoutine(id)
    const cue = { id: 'c', at: 0, length: 24, layer: 'feet', move: 'step', side: 'left', call: '' } as const
    await saveRoutine(
      id,
      { revision: open.revision, writer: 'one-window', save: 1 },
      {
        ...open.routine,
        cues: [cue],
        learners: [{ id: 'x', name: 'Ina', made: '2026-11-20T10:00:00.000Z', marks: [] }],
      },
    )
    await logRepetition(id, {
      id: 'repetition-1',
      doneAt: Date.UTC(2026, 10, 1),
      kind: 'drill',
      from: 0,
      to: 4,
      label: 'x',
      pass: 'all',
      looped: false,
      slips: [],
      speed: 1,
      sound: 'both',
      seconds: 4,
      mark: 'clean',
      corrects: null,
      group: '',
    })
    const copy = await openRoutine(await copyRoutine(id))
    expect(copy.routine.title).toBe('Copied (copy)')
    expect(copy.routine.cues).toEqual([cue])
    expect(copy.routine.learners).toEqual([])
    expect(copy.song.id).toBe(open.song.id)
    expect(await logOf([copy.id])).toEqual([])
    await expect(copyRoutine('there-is-none')).rejects.toMatchObject({ status: 404 })
    // Asked again after a lost answer, it is the same one, as it is by then.
    const mine = await copyRoutine(id, 'chosen-here')
    const changed = { ...(await openRoutine(mine)).routine, title: 'Renamed' }
    await saveRoutine(mine, { revision: 0, writer: 'a-window', save: 1 }, changed)
    expect(await copyRoutine(id, 'chosen-here')).toBe(mine)
    expect((await openRoutine(mine)).routine.title).toBe('Renamed')
  })
})

describe('spoken words', () => {
  it('are made once, are sound, and name where their stress falls', async () => {
    const first = await spoken('step R')
    const { sampleRate, channels } = readWav(first.wav)
    const loudest = Math.max(...(channels[0] as Float32Array).map(Math.abs))
    expect(loudest).toBeGreaterThan(0.5)
    expect(first.stress).toBeGreaterThanOrEqual(0)
    expect(first.stress).toBeLessThan(first.wav.length / 2 / sampleRate)
    const made = readdirSync(path.join(dir, 'voice'))
    expect(await spoken('STEP  r'.replace('r', 'R'))).toEqual(first)
    expect(readdirSync(path.join(dir, 'voice'))).toEqual(made)
  })
  it('are said by either voice of the app, of which the warm one is lower', async () => {
    const pitch = async (voice: 'clear' | 'warm') => {
      const { sampleRate, channels } = readWav((await spoken('one', voice)).wav)
      const x = channels[0] as Float32Array
      /** How alike the sound is to itself so many samples later. */
      const alike = (lag: number) => {
        let sum = 0
        for (let i = 0; i + 400 < x.length; i++) sum += (x[i] as number) * (x[i + lag] as number)
        return sum
      }
      const lags = Array.from({ length: 200 }, (_, k) => 40 + k)
      return sampleRate / lags.reduce((a, b) => (alike(b) > alike(a) ? b : a))
    }
    expect(await pitch('warm')).toBeLessThan((await pitch('clear')) * 0.8)
  })
  it('of nothing that can be said are refused', async () => {
    await expect(spoken('???')).rejects.toMatchObject({ status: 422 })
  })
})
