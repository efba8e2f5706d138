import { describe, expect, it } from 'vitest'
import { commit, emptyRoutine } from '../routine'
import { ids } from '../routine/hand.test-tools'
import {
  linesIn,
  nextLine,
  type SongWordsEffect,
  type SongWordsEvent,
  type SongWordsState,
  songWordsAtFirst,
  stepSongWords,
} from './song-words'

const TEXT = 'one lamp\n\n  two lamps \nthree lamps\n'
const tap = (at: number | null): SongWordsEvent => ({ kind: 'tap', at })
const key = (key: 'tap' | 'Escape', at: number | null = 1, repeat = false): SongWordsEvent => ({
  kind: 'key',
  key,
  repeat,
  at,
})

/** What a row of events leads to. */
function follow(...events: readonly SongWordsEvent[]) {
  let state: SongWordsState = songWordsAtFirst(TEXT)
  const effects: SongWordsEffect[] = []
  for (const event of events) {
    const next = stepSongWords(state, event, ids())
    state = next.state
    effects.push(...next.effects)
  }
  return { state, effects, kinds: effects.map((e) => e.kind) }
}

/** The routine after the edits that were asked for, and what they are called. */
function edited(effects: readonly SongWordsEffect[]) {
  let routine = { ...emptyRoutine('x'), lyrics: TEXT }
  const did: string[] = []
  for (const e of effects) {
    if (e.kind !== 'edit') continue
    const done = commit(routine, e.change)
    if (!done.done) throw new Error(done.why)
    routine = done.routine
    did.push(e.did)
  }
  return { did, lyrics: routine.lyrics, marks: routine.marks.map((m) => [m.kind, m.at, m.end, m.text]) }
}

describe('tapping words in', () => {
  it('takes the lines that hold words', () => {
    expect(linesIn(TEXT)).toEqual(['one lamp', 'two lamps', 'three lamps'])
    expect(linesIn(' \n\n')).toEqual([])
  })
  it('gives each tap to the line that is next, and takes no more taps than lines', () => {
    expect(nextLine(follow().state)).toBe('one lamp')
    expect(nextLine(follow(tap(2)).state)).toBe('two lamps')
    const all = follow(tap(2), key('tap', 4), tap(6), tap(8)).state
    expect([all.tapped, nextLine(all)]).toEqual([[2, 4, 6], null])
  })
  it('takes no tap where the song does not play, and none from a key held down', () => {
    expect(follow(tap(null), key('tap', null), key('tap', 3, true)).state.tapped).toEqual([])
  })
  it('takes the last tap back', () => {
    expect(follow(tap(2), tap(3), { kind: 'back' }, tap(4)).state.tapped).toEqual([2, 4])
    expect(follow({ kind: 'back' }).state.tapped).toEqual([])
  })
  it('keeps what was tapped in one step when it is left, and the rest to be tapped in', () => {
    const { kinds, effects } = follow(tap(2), tap(4.5), key('Escape'))
    expect(kinds).toEqual(['stop', 'edit', 'close'])
    expect(edited(effects)).toEqual({
      did: ['tap in 2 lines'],
      lyrics: 'three lamps',
      marks: [
        ['lyric', 2, null, 'one lamp'],
        ['lyric', 4.5, null, 'two lamps'],
      ],
    })
    expect(edited(follow(tap(2), { kind: 'leave' }).effects).did).toEqual(['tap in one line'])
  })
  it('changes nothing where nothing was tapped', () => {
    expect(follow({ kind: 'leave' }).kinds).toEqual(['stop', 'close'])
  })
  it('is over once it was left: nothing is kept twice, no tap comes after', () => {
    const { state, kinds } = follow(tap(2), { kind: 'leave' }, { kind: 'leave' }, tap(5), key('Escape'))
    expect([state.tapped, kinds]).toEqual([[2], ['stop', 'edit', 'close']])
  })
})
