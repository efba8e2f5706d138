import { describe, expect, it } from 'vitest'
import { placePhrases } from '../counts/layout'
import { emptyRoutine, type Routine } from '../document/schema'
import type { Phrase } from '../document/song-schema'
import {
  countBy,
  countByInSection,
  everyEight,
  fitTo,
  insertPhrase,
  joinPhrase,
  layOut,
  leadOf,
  oneFromHere,
  oneHere,
  proposedSections,
  setFeel,
  setPhraseLength,
  shiftPhrases,
  splitPhrase,
} from './phrase-edits'

const ids = () => {
  let n = 0
  return () => `s${n++}`
}
/** Phrases as numbers of counts, a pick-up below zero. */
const phrases = (list: readonly number[]): Phrase[] =>
  list.map((n) => ({ length: Math.abs(n), feel: 'straight', pickUp: n < 0 }))
const shown = (list: readonly Phrase[]) => list.map((p) => (p.pickUp ? -p.length : p.length))
/** A page of such phrases, sections A, B ... at some counts. */
const page = (list: readonly number[], sections: readonly number[] = []): Routine => ({
  ...emptyRoutine('x'),
  phrases: phrases(list),
  sections: sections.map((count, i) => ({
    ...{ id: `s${i}`, at: 24 * count, name: '', kind: 'part' as const },
    letter: 'ABC'[i] as string,
  })),
})
const told = (r: Routine) => ({ phrases: shown(r.phrases), sections: r.sections.map((s) => s.at / 24) })
const EIGHTS = page([8, 8, 8], [0, 16])
const PICKED_UP = page([-3, 8, 8, 5], [3, 19])

describe('a page laid out', () => {
  it('begins phrases where it is told, with usual ones between and a pick-up before', () => {
    const out = (counts: number, starts: number[]) =>
      shown(layOut(emptyRoutine('x'), { counts, starts, sections: [] }, ids()).phrases)
    expect(out(24, [0, 8, 16])).toEqual([8, 8, 8])
    expect(out(24, [3, 11, 19])).toEqual([-3, 8, 8, 5])
    expect(out(30, [0, 20])).toEqual([8, 8, 4, 8, 2])
    expect(out(20, [])).toEqual([8, 8, 4])
    expect(out(10, [0, 8, 16])).toEqual([8, 2])
    expect(out(20, [11])).toEqual([-3, 8, 8, 1])
    expect(out(3, [0])).toEqual([3])
  })
  it('counts in another length where that is usual', () => {
    const six = layOut(emptyRoutine('x'), { counts: 20, starts: [2], usual: 6, sections: [] }, ids())
    expect([six.usual, ...shown(six.phrases)]).toEqual([6, -2, 6, 6, 6])
  })
  it('has a section once a phrase, at its beginning, in order; letters are cut', () => {
    const heard = [
      { count: 17, letter: 'B' },
      { count: 2, letter: 'AAAA', kind: 'verse' as const },
      { count: 5, letter: 'C' },
      { count: 99, letter: 'D' },
    ]
    expect(proposedSections(phrases([8, 8, 8]), heard, ids()).map((s) => [s.at, s.letter, s.kind])).toEqual([
      [0, 'AAA', 'verse'],
      [384, 'B', 'part'],
    ])
  })
  it('has a 1 every so many counts through one of them', () => {
    expect(everyEight(3, 20)).toEqual([3, 11, 19])
    expect(everyEight(11, 20)).toEqual([3, 11, 19])
    expect(everyEight(-1, 20)).toEqual([7, 15])
    expect(everyEight(1, 8, 3)).toEqual([1, 4, 7])
  })
  it('has a pick-up in front of whole phrases', () => {
    expect([0, 3, 8, 9, 16, 19].map((n) => shown(leadOf(n, 8)))).toEqual([
      ...[[], [-3], [-8], [-1, 8], [8, 8], [-3, 8, 8]],
    ])
  })
})

describe('the end of the song', () => {
  it.each([
    [[8, 8], 16, [8, 8]],
    [[8, 8], 11, [8, 3]],
    [[8, 8], 8, [8]],
    [[8, 5], 16, [8, 8]],
    [[8, 5], 20, [8, 8, 4]],
    [[8, -5], 15, [8, -5, 2]],
    [[8, 12], 22, [8, 12, 2]],
  ])('%j over %i counts are %j', (list, total, fitted) => {
    expect(shown(fitTo(phrases(list), total, 8))).toEqual(fitted)
  })
})

describe('moving every 1', () => {
  it.each([
    [EIGHTS, 3, [-3, 8, 8, 5], [3, 19]],
    [EIGHTS, -3, [-5, 8, 8, 3], [0, 13]],
    [EIGHTS, 8, [-8, 8, 8], [8, 24]],
    [EIGHTS, 0, [8, 8, 8], [0, 16]],
    [EIGHTS, 24, [8, 8, 8], [0, 16]],
    [EIGHTS, -24, [8, 8, 8], [0, 16]],
    [PICKED_UP, 2, [-5, 8, 8, 3], [5, 21]],
    [PICKED_UP, 7, [-2, 8, 8, 6], [10, 26]],
    [PICKED_UP, -2, [-1, 8, 8, 7], [1, 17]],
    [PICKED_UP, -3, [8, 8, 8], [0, 16]],
  ])('%#: by %i', (r, by, lengths, sections) => {
    expect(told(shiftPhrases(r, by))).toEqual({ phrases: lengths, sections })
  })
  it('goes to the nearer boundary; in a pick-up the next phrase comes', () => {
    expect(told(oneHere(EIGHTS, 12)).phrases).toEqual([-4, 8, 8, 4])
    expect(told(oneHere(EIGHTS, 13)).phrases).toEqual([-5, 8, 8, 3])
    expect(told(oneHere(EIGHTS, 11)).phrases).toEqual([-3, 8, 8, 5])
    expect(told(oneHere(PICKED_UP, 1)).phrases).toEqual([-1, 8, 8, 7])
    expect(told(oneHere(PICKED_UP, 0)).phrases).toEqual([8, 8, 8])
    expect(oneHere(EIGHTS, 8)).toBe(EIGHTS)
    expect(oneHere(EIGHTS, 99)).toBe(EIGHTS)
  })
  it('from one count on cuts the phrase there', () => {
    expect(told(oneFromHere(EIGHTS, 10))).toEqual({ phrases: [8, 2, 8, 6], sections: [0, 10] })
    expect(told(oneFromHere(EIGHTS, 3))).toEqual({ phrases: [3, 8, 8, 5], sections: [0, 11] })
    expect(oneFromHere(EIGHTS, 8)).toBe(EIGHTS)
    expect(oneFromHere(EIGHTS, 99)).toBe(EIGHTS)
  })
})

describe('the length of a phrase', () => {
  it('moves what comes after; the end of the song gives or takes', () => {
    expect(told(setPhraseLength(EIGHTS, 0, 10))).toEqual({ phrases: [10, 8, 6], sections: [0, 18] })
    expect(told(setPhraseLength(EIGHTS, 1, 4))).toEqual({ phrases: [8, 4, 8, 4], sections: [0, 12] })
    expect(told(setPhraseLength(EIGHTS, 1, 1)).phrases).toEqual([8, 1, 8, 7])
    expect(told(setPhraseLength(page([8, 8, 8, 8, 8]), 0, 32)).phrases).toEqual([32, 8])
    expect(setPhraseLength(EIGHTS, 1, 8)).toBe(EIGHTS)
    expect(setPhraseLength(EIGHTS, 9, 4)).toBe(EIGHTS)
  })
  it.each([0, -1, 33, 2.5, Number.NaN])('cannot be %d', (length) => {
    expect(() => setPhraseLength(EIGHTS, 1, length)).toThrow('A phrase has 1 to 32 counts.')
    expect(() => countBy(EIGHTS, length, null)).toThrow('A phrase has 1 to 32 counts.')
  })
})

describe('cutting and joining', () => {
  it('moves nothing else', () => {
    expect(told(splitPhrase(EIGHTS, 10))).toEqual({ phrases: [8, 2, 6, 8], sections: [0, 16] })
    expect(told(splitPhrase(PICKED_UP, 1))).toEqual({ phrases: [-1, 2, 8, 8, 5], sections: [3, 19] })
    for (const count of [0, 8, 99]) expect(splitPhrase(EIGHTS, count)).toBe(EIGHTS)
  })
  it('joins two, and the section of the second is gone', () => {
    expect(told(joinPhrase(EIGHTS, 1).routine)).toEqual({ phrases: [8, 16], sections: [0] })
    expect(told(joinPhrase(EIGHTS, 0).routine)).toEqual({ phrases: [16, 8], sections: [0, 16] })
    expect(told(joinPhrase(PICKED_UP, 0).routine)).toEqual({ phrases: [11, 8, 5], sections: [19] })
    expect(told(joinPhrase(page([24, 8]), 0).routine).phrases).toEqual([32])
    expect(() => joinPhrase(EIGHTS, 2)).toThrow('There is no phrase after this one.')
    expect(() => joinPhrase(page([25, 8]), 0)).toThrow(
      'Together they would have 33 counts; a phrase has 32 at most.',
    )
  })
  it('puts one between; what follows moves on', () => {
    expect(told(insertPhrase(EIGHTS, 1, 4))).toEqual({ phrases: [8, 4, 8, 4], sections: [0, 20] })
    expect(told(insertPhrase(EIGHTS, 0, 4))).toEqual({ phrases: [4, 8, 8, 4], sections: [4, 20] })
    for (const length of [0, 33]) expect(insertPhrase(EIGHTS, 1, length)).toBe(EIGHTS)
    expect(insertPhrase(EIGHTS, 9, 4)).toBe(EIGHTS)
  })
})

describe('counting in other lengths', () => {
  it('goes from a phrase on, or from the first 1', () => {
    expect(told(countBy(PICKED_UP, 6, null)).phrases).toEqual([-3, 6, 6, 6, 3])
    expect(told(countBy(PICKED_UP, 4, 2)).phrases).toEqual([-3, 8, 4, 4, 4, 1])
    expect(countBy(PICKED_UP, 6, null).usual).toBe(6)
    expect(countBy(EIGHTS, 6, 9)).toBe(EIGHTS)
  })
  it('to the end of its section, and what follows stays, with what is usual', () => {
    const sixes = countByInSection(EIGHTS, 6, 0)
    expect([told(sixes).phrases, sixes.usual]).toEqual([[6, 6, 4, 8], 8])
    expect(told(sixes).sections).toEqual([0, 16])
    expect(told(countByInSection(EIGHTS, 3, 1)).phrases).toEqual([8, 3, 3, 2, 8])
    expect(told(countByInSection(EIGHTS, 3, 2)).phrases).toEqual([8, 8, 3, 3, 2])
    expect(countByInSection(EIGHTS, 6, 9)).toBe(EIGHTS)
  })
  it('in threes is the feel of one phrase alone', () => {
    expect(setFeel(EIGHTS, 1, 'triplet').phrases.map((p) => p.feel)).toEqual([
      'straight',
      'triplet',
      'straight',
    ])
    expect(placePhrases(setFeel(EIGHTS, 1, 'triplet'))[1]?.phrase.length).toBe(8)
  })
})
