import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  emptyRoutine,
  type PlacedPhrase,
  phraseAt,
  pieceOf,
  placePhrases,
  type Routine,
  readStretch,
  SECTION_KINDS,
  sectionTitles,
  stretchName,
  tickName,
} from '..'

const eights = (n: number, more: Partial<Routine> = {}): Routine => ({
  ...emptyRoutine('x'),
  phrases: Array.from({ length: n }, () => ({ length: 8, feel: 'straight' as const, pickUp: false })),
  ...more,
})
const section = (at: number, kind: Routine['sections'][0]['kind'], name = '') => ({
  id: `s${at}`,
  at: at * 192,
  name,
  kind,
  letter: 'A',
})
const song = placePhrases(
  eights(8, {
    sections: [section(0, 'verse'), section(2, 'chorus'), section(4, 'verse'), section(6, 'chorus')],
  }),
)
const counts = (from: number, to: number) => ({ from: from * 24, to: to * 24 })
const name = (from: number, to: number) => stretchName(song, counts(from, to))
const read = (text: string, at = 0) => {
  const { from, to } = readStretch(song, text, phraseAt(song, at * 24))
  return [from / 24, to / 24]
}

describe('the name of a stretch', () => {
  it('is what people call its phrases, the second chorus told from the first', () => {
    expect(name(16, 24)).toBe('Chorus, eight 1')
    expect(name(48, 56)).toBe('Chorus, 2nd, eight 1')
    expect(name(16, 32)).toBe('Chorus')
    expect(name(8, 24)).toBe('Verse, eight 2 to Chorus, eight 1')
  })
  it('names counts and sub-counts, over the end of an eight too', () => {
    expect(name(18, 24)).toBe('Chorus, eight 1, 3 to 8')
    expect(name(18, 19)).toBe('Chorus, eight 1, 3')
    expect(name(22, 25)).toBe('Chorus, eight 1, 7 to eight 2, 1')
    expect(name(15.5, 20)).toBe('Verse, eight 2, 8& to Chorus, eight 1, 4')
    expect(name(15.5, 16)).toBe('Verse, eight 2, 8&')
    expect(name(18, 19.5)).toBe('Chorus, eight 1, 3 until 4&')
    expect(tickName(song, 19.25 * 24)).toBe('Chorus, eight 1, 4e')
  })
})

describe('a stretch that is typed', () => {
  it.each([
    ['3 to 8', 16, [18, 24]],
    ['3-8', 16, [18, 24]],
    ['3 to 8&', 16, [18, 24]],
    ['7 8 and the 1 after', 16, [22, 25]],
    ['7 to 2', 16, [22, 26]],
    ['1 to 4 with the 8& before', 16, [15.5, 20]],
    ['5', 16, [20, 21]],
    ['chorus', 0, [16, 32]],
    ['Chorus, 2nd', 0, [48, 64]],
    ['Chorus, 2nd, eight 2, 1 2 3', 0, [56, 59]],
    ['eight 2', 20, [24, 32]],
    ['Verse, eight 2, 8& to Chorus, eight 1, 4', 40, [15.5, 20]],
    ['Verse to Chorus, eight 1', 40, [0, 24]],
  ])('“%s” is read, from where one is', (text, at, expected) => {
    expect(read(text, at)).toEqual(expected)
  })
  it.each([
    ['', 'Say which counts'],
    ['next week', '“next week” names no place'],
    ['Chorus, eight 9', 'There is no “eight 9” in Chorus.'],
    ['3 to never', '“never” is no count'],
    ['3 to 8 please', '“please” was not understood'],
    ['5 until 5', 'ends before it begins'],
    ['1 with the 9 before', 'There is no 9 before'],
  ])('“%s” is refused with the reason', (text, why) => {
    expect(() => read(text, 16)).toThrow(why)
  })
})

const phrase = fc.record({
  length: fc.integer({ min: 1, max: 12 }),
  feel: fc.constantFrom<'straight' | 'triplet'>('straight', 'triplet'),
  pickUp: fc.boolean(),
})
/** Names as people give them, and as nobody should. */
const title = fc.oneof(
  fc.constantFrom(
    '',
    'Chorus',
    'chorus',
    'Hook, loud',
    'Eight 1',
    'Opening',
    '3 to 8',
    'pick-up',
    'with the 8 before',
    '“Q”',
    'to',
    'Schluß',
    'サビ',
  ),
  fc.string({ maxLength: 12 }),
)
const breath = fc.record({ lean: fc.constantFrom(0, 12, 24, 36), resolve: fc.constantFrom(0, 0, 24, 36) })
const pages = fc
  .record({
    phrases: fc.array(phrase, { minLength: 1, maxLength: 10 }),
    usual: fc.constantFrom(8, 6, 3, 4),
    begins: fc.array(fc.record({ i: fc.nat(9), kind: fc.constantFrom(...SECTION_KINDS), name: title }), {
      maxLength: 6,
    }),
    usualBorder: breath,
    borders: fc.array(fc.record({ i: fc.nat(9), breath }), { maxLength: 3 }),
  })
  .map(({ phrases, usual, begins, usualBorder, borders: some }) => {
    const blank = placePhrases({ phrases, usual, sections: [] })
    const sections = [...new Map(begins.map((b) => [blank[b.i % blank.length]?.start ?? 0, b]))]
      .sort(([a], [b]) => a - b)
      .map(([at, { kind, name: called }], k) => ({
        id: `s${k}`,
        at,
        kind,
        name: called.trim(),
        letter: String.fromCharCode(65 + k),
      }))
    const borders = some.map((b) => ({ at: blank[b.i % blank.length]?.start ?? 0, ...b.breath }))
    return placePhrases({ phrases, usual, sections, usualBorder, borders })
  })

describe('always', () => {
  it('a printed name is read back as the same stretch, wherever one is', () => {
    fc.assert(
      fc.property(
        pages,
        fc.integer({ min: -60, max: 1500 }),
        fc.integer({ min: 1, max: 700 }),
        fc.nat(9),
        (placed, from, length, i) => {
          const stretch = { from, to: from + length }
          const printed = stretchName(placed, stretch)
          // A page without a section names its phrases alone: one is somewhere on it.
          const here = placed[i % placed.length] as PlacedPhrase
          expect({ printed, ...readStretch(placed, printed, here) }).toEqual({ printed, ...stretch })
        },
      ),
      { numRuns: 2000 },
    )
  })
  it('so is the name of a piece', () => {
    fc.assert(
      fc.property(pages, fc.nat(9), fc.nat(9), fc.nat(9), (placed, a, b, i) => {
        const [first, last] = [Math.min(a, b), Math.max(a, b)].map(
          (n) => placed[n % placed.length] as PlacedPhrase,
        )
        if (!first || !last || last.end <= first.start) return
        const stretch = pieceOf(placed, { from: first.start, to: last.end })
        const printed = stretchName(placed, stretch)
        const here = placed[i % placed.length] as PlacedPhrase
        expect({ printed, ...readStretch(placed, printed, here) }).toEqual({ printed, ...stretch })
      }),
      { numRuns: 2000 },
    )
  })
  it('no two sections share a title', () => {
    fc.assert(
      fc.property(fc.array(title, { maxLength: 12 }), (names) => {
        const sections = names.map((n, k) => ({
          id: `${k}`,
          at: k,
          name: n,
          kind: 'chorus' as const,
          letter: 'A',
        }))
        const titles = [...sectionTitles(sections).values()].map((t) => t.toLowerCase())
        expect(new Set(titles).size).toBe(titles.length)
      }),
    )
  })
})
