import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { OPTIONS, SIDES } from '../routine'
import { type LineCue, type LinePhrase, parseLine, printLine } from './shorthand'

const eight: LinePhrase = { length: 8, feel: 'straight', first: 1 }
const simple = (line: string, phrase = eight) =>
  parseLine(line, phrase).map((c) => [c.at, c.length, c.move, c.side])

describe('a line', () => {
  it('is read as dancers write it', () => {
    expect(simple('1 step R; 2 hold; 3& ball-change L; 5-6 slow roll; 7& 8 clap x2')).toEqual([
      [0, 24, 'step', 'right'],
      [24, 24, 'hold', 'none'],
      [60, 12, 'ball-change', 'left'],
      [96, 48, 'slow roll', 'none'],
      [156, 12, 'clap', 'none'],
      [168, 24, 'clap', 'none'],
    ])
  })
  it('knows halves, quarters and threes by the feel, and what a pick-up counts', () => {
    expect(simple('1e tap R; 1a tap L')).toEqual([
      [6, 6, 'tap', 'right'],
      [18, 6, 'tap', 'left'],
    ])
    expect(simple('1& step L; 1a step R', { ...eight, feel: 'triplet' })).toEqual([
      [8, 8, 'step', 'left'],
      [16, 8, 'step', 'right'],
    ])
    expect(simple('8 step L', { length: 1, feel: 'straight', first: 8 })).toEqual([[0, 24, 'step', 'left']])
  })
  it('carries call, role and option, and takes quotes letter by letter', () => {
    expect(parseLine('3 cross behind L [back] @rows #easier; 4 "Vitamin R; please"', eight)).toMatchObject([
      { move: 'cross behind', side: 'left', call: 'back', role: 'rows', option: 'easier' },
      { move: 'Vitamin R; please', side: 'none' },
    ])
    expect(simple('1*1/2 tap R; 2-3& sway; 5 2 step turn')).toEqual(
      [
        [0, 12, 'tap', 'right'],
        [24, 48, 'sway', 'none'],
        [96, 24, 'step turn', 'none'],
        [24, 24, 'step turn', 'none'],
      ].sort((a, b) => Number(a[0]) - Number(b[0])),
    )
  })
  it.each([
    ['1 step R; x hold', 'Character 11: expected a count, as in 3 or 3&'],
    ['9 step', 'Character 1: this phrase has the counts 1 to 8'],
    ['6-5 roll', 'Character 1: this ends before it begins'],
    ['7 8 clap x3', 'x3, but 2 counts are named'],
    ['1', 'expected a move after the count'],
    ['1 step; 2', 'Character 10: expected a move after the count'],
    ['1step', 'Character 2: expected a blank after the count'],
    ['1 "step', 'these quotes are not closed'],
    ['1 step #lighter', '#lighter is none of #base'],
    ['1*1/7 step', 'counts divide into 24 parts'],
  ])('%j is refused: %s', (line, why) => {
    expect(() => parseLine(line, eight)).toThrow(why)
  })
  it('that is empty holds nothing', () => {
    expect(parseLine(' ; ', eight)).toEqual([])
  })
})

const phrases = fc.record({
  length: fc.integer({ min: 1, max: 32 }),
  feel: fc.constantFrom('straight' as const, 'triplet' as const),
  first: fc.constantFrom(1, 1, 5),
})
const words = fc.oneof(
  fc.string({ minLength: 1, maxLength: 20 }),
  fc.constantFrom(
    'step R',
    'x2',
    'clap x2',
    '8 counts',
    'L',
    'roll [slow]',
    '#easier',
    '@rows',
    'a; b',
    '"',
    '\\',
  ),
)
const move = words.map((s) => s.trim()).filter((s) => s.length > 0)
const cuesIn = (p: LinePhrase) =>
  fc.uniqueArray(
    fc.record({
      at: fc.integer({ min: 0, max: p.length * 24 - 1 }),
      length: fc.integer({ min: 1, max: 24 * 40 }),
      move,
      side: fc.constantFrom(...SIDES),
      call: fc.oneof(fc.constant(''), fc.string({ minLength: 1, maxLength: 8 })),
      role: fc.oneof(fc.constant(''), fc.string({ minLength: 1, maxLength: 8 })),
      option: fc.constantFrom(null, ...OPTIONS),
    }) as fc.Arbitrary<LineCue>,
    { maxLength: 8, selector: (c) => c.at },
  )

describe('printing and reading', () => {
  it('are inverse: what is printed is read back exactly', () => {
    fc.assert(
      fc.property(
        phrases.chain((p) => fc.tuple(fc.constant(p), cuesIn(p))),
        ([p, cues]) => {
          const sorted = [...cues].sort((a, b) => a.at - b.at)
          expect(parseLine(printLine(cues, p), p)).toEqual(sorted)
        },
      ),
      { numRuns: 400 },
    )
  })
  it.each([
    ['step R', '"step R"'],
    ['Rise', 'Rise'],
    ['vitamin #hook it', '"vitamin #hook it"'],
    ['step #x', '"step #x"'],
    ['step @rows', '"step @rows"'],
    ['step [now]', '"step [now]"'],
    ['[]', '"[]"'],
    ['clap x12', '"clap x12"'],
    ['clap x2', '"clap x2"'],
    ['clap xx', 'clap xx'],
    ['x2 clap', 'x2 clap'],
    ['step 3 back', 'step 3 back'],
    ['3 steps', '"3 steps"'],
  ])('the move %j is printed %s', (move, printed) => {
    const one = parseLine('1 step', eight).map((c) => ({ ...c, move }))
    expect(printLine(one, eight)).toBe(`1 ${printed}`)
    expect(parseLine(printLine(one, eight), eight)).toEqual(one)
  })
  it('name where quotes were opened', () => {
    expect(() => parseLine('1 step; 2 "hold', eight)).toThrow('Character 11: these quotes are not closed')
  })
  it('make one form of every line', () => {
    for (const line of [
      '1 step R; 2 hold;3&   ball-change L ; 7& 8 clap x2',
      '8 step; 1 touch L',
      '1-1& a; 2*1 b',
    ])
      expect(printLine(parseLine(printLine(parseLine(line, eight), eight), eight), eight)).toBe(
        printLine(parseLine(line, eight), eight),
      )
    expect(printLine(parseLine('7& 8 clap x2', eight), eight)).toBe('7& clap; 8 clap')
  })
})
