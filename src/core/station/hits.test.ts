import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { commit, danced, lineOf, placePhrases, printLine, type Routine, setRepeat } from '../routine'
import { cuesOf, ids, page, phrase } from '../routine/hand.test-tools'
import {
  HITS_AT_FIRST,
  type HitsEvent,
  type HitsSeen,
  type HitsState,
  placeMeant,
  stepHits,
  unnamedCues,
} from './hits'
import { linesOf } from './lines'

const blank = page(2)
const seenOf = (r: Routine, what: Partial<HitsSeen> = {}): HitsSeen => ({
  lines: linesOf(placePhrases(r)),
  loop: null,
  layer: 'feet',
  newId: ids('n'),
  ...what,
})
const press = (at: number | null): HitsEvent => ({ kind: 'press', at })

/** What a row of events leads to, and the routine after it. */
function follow(events: readonly HitsEvent[], r: Routine = blank, seen = seenOf(r)) {
  let state: HitsState = HITS_AT_FIRST
  let routine = r
  const did: string[] = []
  for (const event of events) {
    const next = stepHits(state, event, seen)
    state = next.state
    for (const e of next.effects) {
      did.push(e.kind === 'edit' ? e.did : e.kind === 'close' ? `close ${e.from}` : e.kind)
      if (e.kind !== 'edit') continue
      const done = commit(routine, e.change)
      if (!done.done) throw new Error(done.why)
      routine = done.routine
    }
  }
  return { state, did, cues: danced(routine).map((c) => [c.at, c.length, c.move]), routine }
}
const LEAVE: HitsEvent = { kind: 'leave', name: true }

describe('pressing on each hit', () => {
  it('means the nearest half count, or third where counts divide in threes', () => {
    const seen = seenOf(blank)
    expect([-7, -3, 0, 5.9, 6, 18, 29.9, 30].map((at) => placeMeant(at, seen))).toEqual([
      null,
      0,
      0,
      0,
      12,
      24,
      24,
      36,
    ])
    expect(placeMeant(383.5, seen)).toBeNull()
    expect(placeMeant(400, seen)).toBeNull()
    const threes = { ...blank, phrases: blank.phrases.map((p) => ({ ...p, feel: 'triplet' as const })) }
    expect([3, 5, 11, 13].map((at) => placeMeant(at, seenOf(threes)))).toEqual([0, 8, 8, 16])
  })
  it('means the beginning of a loop shortly before it turns', () => {
    const seen = seenOf(blank, { loop: { from: 96, to: 192 } })
    expect(placeMeant(187, seen)).toBe(96)
    expect(placeMeant(185, seen)).toBe(180)
    expect(placeMeant(200, seen)).toBe(204)
  })
  it('lays one cue a place, in one step, and goes on to naming the first', () => {
    const { did, cues } = follow([
      press(49),
      press(1),
      press(2),
      press(13),
      press(190),
      LEAVE,
      press(96),
      LEAVE,
    ])
    expect(did).toEqual(['stop', 'press 4 hits', 'close 0'])
    expect(cues).toEqual([
      [0, 12, '?'],
      [12, 12, '?'],
      [48, 24, '?'],
      [192, 24, '?'],
    ])
  })
  it('leaves what stands there as it is, also where a repeat brings it', () => {
    const dance = page(2, cuesOf('1 step L; 3 touch'))
    const repeated = setRepeat(
      dance,
      { id: 'again', from: 0, to: { from: 192, to: 384 }, mirrored: false },
      ids('r'),
    )
    expect(repeated.repeats.length).toBe(1)
    const { cues } = follow([press(0), press(36), press(192), press(228), LEAVE], repeated)
    expect(cues.filter(([, , move]) => move === '?')).toEqual([
      [36, 12, '?'],
      [228, 12, '?'],
    ])
    expect(follow([press(0), LEAVE], dance, seenOf(dance, { layer: 'arms' })).cues[0]).toEqual([
      0,
      24,
      'step',
    ])
  })
  it('takes presses back, and all of them half a count earlier or later, but not off the page', () => {
    const back: HitsEvent = { kind: 'key', key: 'back', repeat: true, at: null }
    expect(follow([press(0), press(24), back, press(48)]).state.places).toEqual([0, 48])
    const by = (by: 1 | -1): HitsEvent => ({ kind: 'shift', by })
    expect(follow([press(12), press(48), by(-1)]).state.places).toEqual([0, 36])
    expect(follow([press(12), press(48), by(-1), by(-1)]).state.places).toEqual([0, 36])
    expect(follow([press(372), by(1)]).state.places).toEqual([372])
    expect(follow([press(180), by(1)]).state.places).toEqual([192])
  })
  it('counts keys once however long they are held, and nothing while nothing plays', () => {
    const key = (at: number | null, repeat = false): HitsEvent => ({ kind: 'key', key: 'tap', repeat, at })
    expect(follow([key(0), key(24, true), key(null), key(48)]).state.places).toEqual([0, 48])
    expect(follow([{ kind: 'key', key: 'Escape', repeat: false, at: null }]).did).toEqual([
      'stop',
      'close null',
    ])
    expect(follow([key(0), { kind: 'leave', name: false }]).did).toEqual([
      'stop',
      'press one hit',
      'close null',
    ])
  })
  it('writes what a line of the page can hold and read again', () => {
    const { routine } = follow([press(0), press(36), press(48), LEAVE])
    const line = printLine(lineOf(routine, phrase(routine, 0), 'feet'), {
      ...phrase(routine, 0).phrase,
      first: 1,
    })
    expect(cuesOf(line).map((c) => [c.at, c.length, c.move])).toEqual(
      unnamedCues(routine.cues).map((c) => [c.at, c.length, c.move]),
    )
  })
  it('lays no cue over another, whatever is pressed', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 383, noNaN: true }), { maxLength: 40 }), (at) => {
        const { cues, state } = follow([...at.map(press), LEAVE])
        expect(cues.length).toBe(state.places.length)
        for (const [i, [from, length]] of cues.entries()) {
          const next = cues[i + 1]?.[0] ?? 384
          expect(Number(from) + Number(length)).toBeLessThanOrEqual(Number(next))
        }
      }),
    )
  })
})
