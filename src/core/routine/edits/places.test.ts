import { describe, expect, it } from 'vitest'
import { byPlace, cuesIn, cueText, placePhrases } from '../counts/layout'
import { marksIn, snappedTime, tickNear } from '../counts/marks'
import { nextPartName, partAt } from '../counts/parts'
import { sectionBands } from '../counts/section-bands'
import type { Cue } from '../document/cue-schema'
import type { SongMark } from '../document/song-schema'
import { ids, page } from '../hand.test-tools'
import { beginSection, moveSectionByCounts } from './section-edits'

const TIMES = Array.from({ length: 24 }, (_, k) => 1 + k * 0.5)
const cue = (id: string, what: Partial<Cue> = {}): Cue => ({
  ...{ id, at: 0, length: 24, layer: 'feet', move: 'step', side: 'none', call: '' },
  ...what,
})
const section = (count: number, name: string, letter: string) => ({
  ...{ id: `s${count}`, at: 24 * count, name, kind: 'part' as const, letter },
})

describe('cues on the page', () => {
  it('stand by place, then from the feet up, then by id, however they came', () => {
    const sorted = [
      cue('a'),
      cue('b'),
      cue('arms', { layer: 'arms' }),
      cue('head', { layer: 'head' }),
      cue('0', { at: 24 }),
    ]
    for (const mixed of [
      [4, 3, 2, 1, 0],
      [2, 4, 1, 0, 3],
    ])
      expect(mixed.map((i) => sorted[i] as Cue).sort(byPlace)).toEqual(sorted)
    expect(byPlace(cue('a'), cue('a'))).toBe(0)
    expect(cuesIn([...sorted].reverse(), { from: 0, to: 24 }).map((c) => c.id)).toEqual([
      'a',
      'b',
      'arms',
      'head',
    ])
  })
  it('are written with their side, seen in the mirror with the other', () => {
    expect(cueText(cue('a', { side: 'left' }))).toBe('step L')
    expect(cueText(cue('a', { side: 'left' }), true)).toBe('step R')
    expect(cueText(cue('a', { side: 'both' }))).toBe('step')
    expect(cueText({ move: 'turn left', side: 'none' }, true)).toBe('turn right')
  })
})

describe('places near a time', () => {
  const placed = placePhrases({
    ...page(3),
    phrases: page(3).phrases.map((p, i) => (i === 1 ? { ...p, feel: 'triplet' } : p)),
  })
  it('are halves and quarters of a count, or thirds where the phrase is felt so', () => {
    // Half a second a count: a quarter of one is 125 ms, a third 167 ms.
    expect(tickNear(TIMES, placed, 1.12)).toBe(6)
    expect(tickNear(TIMES, placed, 1.26)).toBe(12)
    expect(tickNear(TIMES, placed, 5.16)).toBe(200)
    expect(snappedTime(TIMES, placed, 5.16)).toBe(5.167)
    expect(tickNear(TIMES, [], 1.26)).toBe(12)
  })
  it('hold the marks that begin in them, from their beginning up to their end', () => {
    const mark = (at: number): SongMark => ({ id: `m${at}`, kind: 'lyric', at, end: null, text: 'la' })
    expect(marksIn([mark(0.9), mark(1), mark(1.9), mark(2)], 1, 2).map((m) => m.at)).toEqual([1, 1.9])
  })
  it('lie in the part that began last', () => {
    const parts = [
      { id: 'b', at: 192, name: 'Part 2' },
      { id: 'a', at: 0, name: 'Part 1' },
    ]
    const named = (tick: number) => partAt(parts, tick)?.id ?? null
    expect([-1, 0, 191, 192, 999].map(named)).toEqual([null, 'a', 'a', 'b', 'b'])
    expect(partAt([...parts].reverse(), 999)?.id).toBe('b')
    expect(nextPartName(parts)).toBe('Part 3')
    expect(nextPartName([])).toBe('Part 1')
  })
})

describe('bands of sections in the song', () => {
  const routine = { ...page(3), sections: [section(8, 'Verse', 'A'), section(16, '', 'B')] }
  it('run from section to section, what is before the first without a name', () => {
    expect(sectionBands(placePhrases(routine), TIMES, 60)).toEqual([
      { letter: '', name: '', from: 1, to: 5 },
      { letter: 'A', name: 'Verse', from: 5, to: 9 },
      { letter: 'B', name: expect.any(String), from: 9, to: 13 },
    ])
  })
  it('join the phrases of one section, and stay inside the song', () => {
    const one = { ...page(3), sections: [section(0, 'Verse', 'A')] }
    const early = TIMES.map((t) => t - 2)
    expect(sectionBands(placePhrases(one), early, 7)).toEqual([
      { letter: 'A', name: 'Verse', from: 0, to: 7 },
    ])
    expect(sectionBands(placePhrases(one), [1], 7)).toEqual([])
    expect(sectionBands(placePhrases(one), [1, 2], 60)).toHaveLength(1)
  })
})

describe('where a section begins', () => {
  const routine = beginSection(page(3), 192, { name: 'Verse', kind: 'verse', letter: 'A' }, ids())
  const id = routine.sections[0]?.id ?? ''
  const moved = (by: number) => {
    const next = moveSectionByCounts(routine, id, by)
    return [...next.phrases.map((p) => p.length), next.sections[0]?.at]
  }
  it('moves by counts, the phrases beside it give and take', () => {
    expect(moved(2)).toEqual([10, 6, 8, 240])
    expect(moved(-2)).toEqual([6, 10, 8, 144])
    expect(moved(7)).toEqual([15, 1, 8, 360])
    expect(moved(-7)).toEqual([1, 15, 8, 24])
  })
  it('no further than they have counts, and no phrase grows beyond 32', () => {
    for (const by of [8, -8]) expect(() => moved(by)).toThrow('has no more counts to give')
    const long = { ...routine, phrases: routine.phrases.map((p, i) => (i === 1 ? { ...p, length: 30 } : p)) }
    expect(moveSectionByCounts(long, id, -2).phrases.map((p) => p.length)).toEqual([6, 32, 8])
    expect(() => moveSectionByCounts(long, id, -3)).toThrow('has no more counts to give')
    expect(moveSectionByCounts(routine, 'none', 1)).toBe(routine)
  })
})
