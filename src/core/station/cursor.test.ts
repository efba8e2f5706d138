import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { LAYERS, type Phrase, placePhrases } from '../routine'
import {
  CURSOR,
  loopHere,
  markFrom,
  markStretch,
  moveTo,
  placeAfter,
  pressAt,
  type SheetMove,
} from './cursor'
import { linesOf } from './lines'

const phrase = (length: number, pickUp = false, feel: Phrase['feel'] = 'straight'): Phrase => ({
  length,
  feel,
  pickUp,
})
/** 7 8 as a pick-up, an eight, twelve counts on two lines, an eight in triplets, and six counts. */
const placed = placePhrases({
  phrases: [phrase(2, true), phrase(8), phrase(12), phrase(8, false, 'triplet'), phrase(6)],
  sections: [],
  usual: 8,
})
const lines = linesOf(placed)
const END = 36 * 24
const go = (tick: number, move: SheetMove) => placeAfter(tick, move, lines)

describe('what loops', () => {
  const at = (tick: number, more: Partial<typeof CURSOR> = {}) => ({ ...CURSOR, tick, ...more })
  const row = { from: 48, to: 240 }
  it('is the row at the cursor, or what is marked there; asked for once more, nothing', () => {
    expect(loopHere(at(60), placed, false)).toEqual(row)
    const marked = { from: 72, to: 120, layers: LAYERS }
    for (const tick of [72, 96, 120])
      expect(loopHere(at(tick, { marked }), placed, false)).toEqual({ from: 72, to: 120 })
    for (const tick of [48, 144]) expect(loopHere(at(tick, { marked }), placed, false)).toEqual(row)
    expect(loopHere(at(60, { loop: row }), placed, false)).toBeNull()
  })
  it('takes in what is at the cursor, on either side, where that is asked for', () => {
    const loop = { from: 96, to: 264 }
    expect(loopHere(at(60, { loop }), placed, true)).toEqual({ from: 48, to: 264 })
    expect(loopHere(at(500, { loop }), placed, true)).toEqual({ from: 96, to: 528 })
    expect(loopHere(at(60), placed, true)).toEqual(row)
  })
  it('stays as it is where nothing is counted', () => {
    expect(loopHere(at(60, { loop: row }), [], false)).toEqual(row)
    expect(loopHere(at(0), [], false)).toBeNull()
  })
})

describe('marking counts', () => {
  it('reaches from anchor to cursor, both in it, whichever comes first; a sub-count with the rest of its unit', () => {
    const at24 = moveTo(CURSOR, 24, 'feet')
    const marking = markFrom(at24, { tick: 48, layer: 'arms' })
    expect(marking.marked).toEqual({ from: 24, to: 72, layers: ['feet', 'arms'] })
    const from24 = markFrom(marking, { tick: 24, layer: 'feet' })
    expect(moveTo(from24, 36).marked).toEqual({ from: 24, to: 48, layers: ['feet'] })
    expect(moveTo(from24, 32).marked).toMatchObject({ from: 24, to: 40 })
    expect(moveTo(from24, 30).marked).toMatchObject({ from: 24, to: 36 })
    expect(markFrom(from24, null)).toMatchObject({ marked: null, anchor: null })
  })
  it('said by name is of all layers, and stays when the cursor moves', () => {
    const named = markStretch(CURSOR, { from: 180, to: 288 })
    expect(moveTo(named, 0).marked).toEqual({ from: 180, to: 288, layers: LAYERS })
    expect(markStretch(moveTo(CURSOR, 24), null).marked).toBeNull()
    expect(markStretch(markFrom(CURSOR, { tick: 0, layer: 'feet' }), { from: 0, to: 24 }).anchor).toBeNull()
  })
})

describe('the cursor', () => {
  it('keeps its layer where none is said, and means the first cue where none is named', () => {
    const there = moveTo(CURSOR, 48, 'arms', 'c1')
    expect(there).toMatchObject({ tick: 48, layer: 'arms', cue: 'c1' })
    expect(moveTo(there, 72)).toMatchObject({ tick: 72, layer: 'arms', cue: null })
  })
  it('pressed with shift marks up to there, from where it stood; again, from where marking began', () => {
    const one = pressAt(moveTo(CURSOR, 24, 'feet'), 96, 'arms', true)
    expect(one).toMatchObject({ tick: 96, layer: 'arms', marked: { from: 24, to: 120 } })
    expect(one.anchor).toEqual({ tick: 24, layer: 'feet', pulled: true })
    expect(pressAt(one, 48, 'feet', true).marked).toEqual({ from: 24, to: 72, layers: ['feet'] })
  })
  it('pressed without it ends what was pulled or said by name, and not what is being marked by keys', () => {
    const pulled = pressAt(CURSOR, 96, 'feet', true)
    expect(pressAt(pulled, 0, 'feet', false)).toMatchObject({ marked: null, anchor: null, tick: 0 })
    expect(pressAt(markStretch(CURSOR, { from: 0, to: 48 }), 0, 'feet', false).marked).toBeNull()
    const byKeys = markFrom(CURSOR, { tick: 0, layer: 'feet' })
    expect(pressAt(byKeys, 48, 'feet', false).marked).toMatchObject({ from: 0, to: 72 })
    // Over the sound no lane is pressed: shift marks nothing there.
    expect(pressAt(CURSOR, 48, undefined, true)).toMatchObject({ tick: 48, layer: 'feet', marked: null })
    expect(pressAt(CURSOR, 48, 'arms', false, 'c7').cue).toBe('c7')
  })
})

describe('keys over the sheet', () => {
  it('go by counts, first to the whole one', () => {
    expect([go(48, 'countOn'), go(60, 'countOn'), go(48, 'countBack'), go(60, 'countBack')]).toEqual([
      72, 72, 24, 48,
    ])
  })
  it('go by half counts, in triplets by thirds, and stop at both ends', () => {
    const triplet = (2 + 8 + 12) * 24
    expect([go(48, 'subOn'), go(48, 'subBack'), go(triplet, 'subOn'), go(triplet, 'subBack')]).toEqual([
      60,
      36,
      triplet + 8,
      triplet - 8,
    ])
    expect([go(0, 'countBack'), go(0, 'subBack'), go(END - 12, 'subOn'), go(END - 24, 'countOn')]).toEqual([
      0,
      0,
      END - 12,
      END - 12,
    ])
  })
  it('go to the same number on another line, also from a pick-up and in a long phrase', () => {
    const [eight, twelve] = [48, 48 + 192]
    // 7 of the pick-up is above 7 of the eight.
    expect([go(0, 'down'), go(eight + 6 * 24, 'up'), go(eight, 'up')]).toEqual([eight + 144, 0, 0])
    // Below one another in a long phrase; its second line has four counts.
    expect([go(twelve + 24, 'down'), go(twelve + 192 + 24, 'up')]).toEqual([twelve + 216, twelve + 24])
    expect(go(twelve + 7 * 24, 'down')).toBe(twelve + 192 + 3 * 24)
    expect([go(0, 'up'), go(END - 24, 'down')]).toEqual([0, END - 24])
  })
  it('go by phrases, over the second line of a long one', () => {
    const twelve = 48 + 192
    expect([go(48, 'phraseOn'), go(twelve, 'phraseOn'), go(twelve + 12 * 24, 'phraseBack')]).toEqual([
      twelve,
      twelve + 288,
      twelve,
    ])
    expect([go(200, 'toFirst'), go(0, 'toLast')]).toEqual([0, END - 6 * 24])
  })
  it('go to a numbered count of the phrase, where it has one', () => {
    const twelve = 48 + 192
    expect([go(60, { count: 3 }), go(twelve + 30, { count: 8 }), go(twelve + 220, { count: 1 })]).toEqual([
      96,
      twelve + 168,
      twelve,
    ])
    // A pick-up has 7 and 8; six counts have no 7.
    expect([go(0, { count: 8 }), go(0, { count: 1 }), go(END - 24, { count: 7 })]).toEqual([24, 0, END - 24])
  })
  it('lead to places of the sheet, whatever is pressed, and nowhere without counts', () => {
    const moves: SheetMove[] = [
      ...(['countBack', 'countOn', 'subBack', 'subOn', 'up', 'down'] as const),
      ...(['phraseBack', 'phraseOn', 'toFirst', 'toLast'] as const),
      { count: 5 },
    ]
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...moves)), (pressed) => {
        let tick = 0
        for (const m of pressed) tick = go(tick, m)
        expect(tick >= 0 && tick < END).toBe(true)
      }),
    )
    for (const m of moves) expect(placeAfter(0, m, [])).toBe(0)
  })
})
