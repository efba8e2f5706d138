import { describe, expect, it } from 'vitest'
import type { Hearing, Peaks } from '../hear'
import { commit, emptyRoutine, everyEight, layOut, type Routine, repairedBeats } from '../routine'
import { ids } from '../routine/hand.test-tools'
import {
  otherTapped,
  stepTapping,
  TAPPING_AT_FIRST,
  type TappingEvent,
  type TappingSeen,
  tapped,
} from './tapping'

const BEATS = Array.from({ length: 64 }, (_, k) => 1 + k * 0.5)
const hearing = (steady = true) =>
  ({
    beats: BEATS,
    tempi: [{ bpm: 60, factor: 0.5, shift: 0, weight: 0.2, one: 1, bar: 4 }],
    bar: 4,
    steady,
  }) as unknown as Hearing
const peaks: Peaks = { levels: [], frameRate: 100, onset: new Uint8Array(4000) }
const heard = (steady = true) => ({ hearing: hearing(steady), peaks })
const SEEN: TappingSeen = { times: BEATS, duration: 40, heard: heard(), newId: ids() }
const laid = layOut(emptyRoutine('x'), { counts: 64, starts: everyEight(0, 64), sections: [] }, ids('p'))
const from = (first: number, period: number, n: number) =>
  Array.from({ length: n }, (_, k) => first + k * period)
const withTaps = (taps: readonly number[]) => ({ taps, running: true })
const run = (taps: readonly number[], event: TappingEvent, seen = SEEN) =>
  stepTapping(withTaps(taps), event, seen)
const editOf = (taps: readonly number[], event: TappingEvent, seen = SEEN, routine: Routine = laid) => {
  const edit = run(taps, event, seen).effects.find((e) => e.kind === 'edit')
  if (edit?.kind !== 'edit') throw new Error('no edit')
  const done = commit(routine, edit.change)
  if (!done.done) throw new Error(done.why)
  return { did: edit.did, routine: done.routine }
}
const kinds = (taps: readonly number[], event: TappingEvent, seen = SEEN) =>
  run(taps, event, seen).effects.map((e) => e.kind)

describe('tapping', () => {
  it('counts taps while the song plays; none before it is heard, none once it is stopped, none of a held key', () => {
    let state = TAPPING_AT_FIRST
    for (const at of [1, null, 1.5]) state = stepTapping(state, { kind: 'tap', at }, SEEN).state
    expect(state.taps).toEqual([1, 1.5])
    const key = { kind: 'key', key: 'tap', at: 2 } as const
    expect(stepTapping(state, { ...key, repeat: false }, SEEN).state.taps).toEqual([1, 1.5, 2])
    expect(stepTapping(state, { ...key, repeat: true }, SEEN).state).toBe(state)
    expect(stepTapping({ ...state, running: false }, { kind: 'tap', at: 2 }, SEEN).state.taps).toEqual([
      1, 1.5,
    ])
  })
  it('begins again with nothing tapped, and is left with nothing changed', () => {
    expect(run([1, 2], { kind: 'again' })).toEqual({ state: TAPPING_AT_FIRST, effects: [{ kind: 'play' }] })
    const leave = run([1, 2], { kind: 'key', key: 'Escape', repeat: false, at: null })
    expect([leave.state.running, leave.effects.map((e) => e.kind)]).toEqual([false, ['stop', 'close']])
    expect(kinds([], { kind: 'leave' })).toEqual(['stop', 'close'])
  })
  it('says which of the ways that were heard is meant, from two taps on', () => {
    expect(otherTapped(tapped(withTaps(from(1, 1, 4)), SEEN))?.name).toMatch(/^Half as fast/)
    expect(tapped(withTaps(from(1, 0.5, 4)), SEEN).way).toBe('as counted')
    expect(otherTapped(tapped(withTaps(from(1, 0.5, 4)), SEEN))).toBeNull()
    expect(tapped(withTaps(from(1, 1, 4)), { ...SEEN, heard: null }).way).toBeNull()
  })
  it('takes with T what was meant; where the taps say nothing, it is tapped again', () => {
    const t = { kind: 'key', key: 't', repeat: false, at: null } as const
    expect(kinds([], t)).toEqual(['play'])
    expect(kinds(from(1, 1, 4), t)).toEqual(['stop', 'edit', 'close'])
    const half = editOf(from(1, 1, 8), { kind: 'take' })
    expect([half.did, half.routine.repairs[0]?.kind]).toEqual([
      expect.stringMatching(/^half as fast/),
      'halve',
    ])
    // The taps themselves, where those are asked for.
    const own = editOf(from(1, 1, 8), { kind: 'take taps' })
    expect([own.did, own.routine.repairs[0]?.kind]).toEqual(['take the tapped beat', 'grid'])
    expect(kinds([1], { kind: 'take taps' })).toEqual(['stop', 'close'])
    expect(kinds(from(1, 0.7, 8), { kind: 'take' }, { ...SEEN, heard: null })).toEqual(['stop', 'close'])
  })
  it('lays a steady beat over the whole of a steady song', () => {
    const { routine } = editOf(from(1.2, 0.7, 8), { kind: 'take taps' })
    const beats = repairedBeats(BEATS, routine.repairs)
    expect(beats.every((b, i) => i === 0 || Math.abs(b - (beats[i - 1] as number) - 0.7) < 1e-6)).toBe(true)
    expect(beats.length).toBeGreaterThan(50)
  })
  it('lays only what was tapped where the song moves, and what is nearer than half a beat gives way', () => {
    const seen = { ...SEEN, heard: heard(false) }
    const { routine } = editOf(from(10.1, 0.7, 8), { kind: 'take taps' }, seen)
    const beats = repairedBeats(BEATS, routine.repairs)
    expect(beats.filter((b) => b < 9.7)).toEqual(BEATS.filter((b) => b < 9.7))
    expect(beats.filter((b) => b > 10 && b < 15.1)).toHaveLength(8)
    expect(beats.at(-1)).toBe(BEATS.at(-1))
  })
  it('takes the first tap for a 1 where nothing was counted before', () => {
    const seen = { ...SEEN, times: [], heard: { hearing: { ...hearing(), beats: [], tempi: [] }, peaks } }
    const { routine } = editOf(from(3, 0.5, 8), { kind: 'take taps' }, seen as TappingSeen, emptyRoutine('x'))
    const beats = repairedBeats([], routine.repairs)
    const first = routine.phrases[0]
    const one = first?.pickUp ? first.length : 0
    expect(beats[one % 8]).toBeCloseTo((beats[0] as number) + 0.5 * (one % 8), 3)
    expect(beats.some((b) => Math.abs(b - 3) < 0.02)).toBe(true)
    const at = beats.findIndex((b) => Math.abs(b - 3) < 0.02)
    expect((at - one) % 8).toBe(0)
  })
})
