import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { mirrorText, OPTIONS, SIDES } from '..'
import { Refused } from '../gate/refused'
import type { LineCue, LinePhrase } from './line'
import { printLine } from './line-print'
import { type Elsewhere, footHint } from './line-runs'
import { parseLine } from './shorthand'

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
      { move: 'Vitamin “R”; please', side: 'none' },
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
    [`1 step #${'x'.repeat(25)}`, '24 letters at most'],
    ['1 step #""', 'letters at most'],
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
/** Words and signs that mean something in a line. */
const SIGNS =
  'as|other side|mirrored|the|to|x2|L|R|LR|R/L|l|1|1-4|3&|a|&|#|@|[|]|"|\\|;|+|*|,|chorus|walk|“L”'.split('|')
const spoken = fc
  .array(fc.tuple(fc.constantFrom(...SIGNS), fc.constantFrom(' ', ' ', '', '  ')), {
    minLength: 1,
    maxLength: 4,
  })
  .map((said) => said.flat().join(''))
const move = fc
  .oneof(words, spoken)
  .map((s) => s.trim())
  .filter((s) => s.length > 0)
const cuesIn = (p: LinePhrase) =>
  fc.uniqueArray(
    fc.record({
      at: fc.integer({ min: 0, max: p.length * 24 - 1 }),
      length: fc.integer({ min: 1, max: 24 * 40 }),
      move,
      side: fc.constantFrom(...SIDES),
      call: fc.oneof(fc.constant(''), fc.string({ minLength: 1, maxLength: 8 })),
      role: fc.oneof(fc.constant(''), fc.string({ minLength: 1, maxLength: 8 })),
      option: fc.constantFrom(null, ...OPTIONS, 'Erwachsene', 'for kids', 'A&B', 'stufe-2'),
    }) as fc.Arbitrary<LineCue>,
    { maxLength: 8, selector: (c) => c.at },
  )

describe('a run', () => {
  const steps = (line: string, phrase = eight) =>
    parseLine(line, phrase).map((c) => [c.at / 24, c.length, c.move, c.side])
  it('goes over counts with the sides in turn, one a count or one a half', () => {
    expect(steps('1-4 walk R/L')).toEqual([
      [0, 24, 'walk', 'right'],
      [1, 24, 'walk', 'left'],
      [2, 24, 'walk', 'right'],
      [3, 24, 'walk', 'left'],
    ])
    expect(steps('5-6& run L/R').map(([at, length, , side]) => [at, length, side])).toEqual([
      [4, 12, 'left'],
      [4.5, 12, 'right'],
      [5, 12, 'left'],
      [5.5, 12, 'right'],
    ])
    expect(steps('1 3& 4 tap R/L [tip]').map(([at, , , side]) => [at, side])).toEqual([
      [0, 'right'],
      [2.5, 'left'],
      [3, 'right'],
    ])
    expect(steps('1-2& run R/L', { ...eight, feel: 'triplet' }).map(([at]) => at)).toHaveLength(3 * 1 + 2)
  })
  it('is the same once more, or to the other side', () => {
    expect(steps('5-8 as 1-4; 1 step R; 2& kick L; 3-4 roll left')).toEqual([
      [0, 24, 'step', 'right'],
      [1.5, 12, 'kick', 'left'],
      [2, 48, 'roll left', 'none'],
      [4, 24, 'step', 'right'],
      [5.5, 12, 'kick', 'left'],
      [6, 48, 'roll left', 'none'],
    ])
    expect(steps('1-2 walk R/L; 3-4 as 1-2 other side; 5 as 1-4').map(([, , , side]) => side)).toEqual([
      ...['right', 'left', 'left', 'right'],
      ...['right', 'left', 'left', 'right'],
    ])
    expect(steps('1-2 roll left; 3-4 as 1-2 to the other side')[1]?.[2]).toBe('roll right')
  })
  describe('as another place', () => {
    const asked: string[] = []
    const elsewhere: Elsewhere = (place) => {
      asked.push(place)
      if (place === 'nowhere') throw new Refused('There is no nowhere.')
      return { length: place === 'two' ? 48 : 192, cues: parseLine('1 step R; 3 kick L; 6 roll left', eight) }
    }
    const there = (line: string) => parseLine(line, eight, elsewhere).map((c) => [c.at / 24, c.move, c.side])
    it('takes its beginning as far as the counts go', () => {
      expect(there('5-8 as chorus 2, first four; 1 hop L')).toEqual([
        [0, 'hop', 'left'],
        [4, 'step', 'right'],
        [6, 'kick', 'left'],
      ])
      expect(asked.at(-1)).toBe('chorus 2, first four')
      expect(there('5 as verse, to the other side')).toEqual([
        [4, 'step', 'left'],
        [6, 'kick', 'right'],
      ])
      expect(asked.at(-1)).toBe('verse')
    })
    it('is the whole line where no counts are said', () => {
      expect(there('as chorus, eight 3 mirrored')).toEqual([
        [0, 'step', 'left'],
        [2, 'kick', 'right'],
        [5, 'roll right', 'none'],
      ])
    })
    it.each([
      ['as nowhere', 'There is no nowhere (a move that begins with “as” stands in quotes)'],
      ['1-4 as two', '4 counts cannot be danced as 2 counts'],
    ])('%j is refused', (line, why) => {
      expect(() => parseLine(line, eight, elsewhere)).toThrow(new RegExp(why.replace(/[()]/g, '.')))
    })
    it('knows no other place without a page', () => {
      expect(() => parseLine('5-8 as chorus 2', eight)).toThrow('no other place can be named here')
    })
  })
  it.each([
    ['1 walk R/L', 'sides in turn go over several counts'],
    ['5-8 as 1-2; 1 step', '4 counts cannot be danced as 2 counts'],
    ['5-8 as 1-4', 'nothing stands there in this line'],
    ['6-9 as 1-4; 1 step', 'this phrase has the counts 1 to 8'],
    ['7 as 1-4; 1 step', 'past the end of the phrase'],
    ['5-8 as 1-x; 1 step', 'say it as in 5-8 as 1-4'],
  ])('%j is refused: %s', (line, why) => {
    expect(() => parseLine(line, eight)).toThrow(why)
  })
  it.each([
    ['7 x2 clap', '7 8 clap x2'],
    ['1 3 x4  clap', '1 3 4 5 clap x4'],
    ['1  2 3& x2 clap', '1 2 clap x2'],
    ['3&  x2 tap R', '3& 4 tap R x2'],
    ['1 - 4 roll', '1-4 roll'],
    ['5 & tap R', '5& tap R'],
    ['1,2 clap', '1 2 clap'],
    ['1 and 2 clap', '1 2 clap'],
    ['1. step R', '1 step R'],
    ['3: hold', '3 hold'],
    ['1step R', '1 step R'],
    ['step 1 R', '1 step R'],
    ['clap on 8', '8 clap'],
    ['1 step r', '1 step R'],
  ])('%j is refused with what was probably meant: %s', (line, meant) => {
    expect(() => parseLine(line, eight)).toThrow(`Perhaps “${meant}”?`)
    expect(parseLine(meant, eight).length).toBeGreaterThan(0)
    expect(() => parseLine(`1 jump; ${line}`, eight)).toThrow(`Perhaps “${meant}”?`)
  })
  it('says what becomes of one side over several counts', () => {
    const hint = (line: string) => footHint(parseLine(line, eight))
    expect(hint('1-4 walk R')).toBe('One “walk” that lasts 4 counts, R. One a count, sides in turn: R/L')
    expect(hint('1 2 3 walk L')).toBe('“walk” 3 times, each L. Sides in turn: L/R')
    for (const line of ['1-4 walk R/L', '1 step R', '1-4 roll', '1-4 clap LR', '1 step R; 2 touch R', ''])
      expect(hint(line)).toBe('')
  })
  it('leaves what cannot be guessed with its reason alone', () => {
    expect(() => parseLine('x hold', eight)).toThrow(/as in 3 or 3&$/)
    expect(() => parseLine('99 step', eight)).toThrow(/has the counts 1 to 8$/)
    for (const line of ['a x4 clap', '1 x clap', 'so 1 x2 clap'])
      expect(() => parseLine(line, eight)).not.toThrow(/Perhaps “[^”]*x\d/)
  })
})

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
    ['step R', String.raw`"step \R"`],
    ['an “L” with the arms', 'an “L” with the arms'],
    ['Rise', 'Rise'],
    ['vitamin #hook it', '"vitamin #hook it"'],
    ['step #x', '"step #x"'],
    ['step @rows', '"step @rows"'],
    ['step [now]', '"step [now]"'],
    ['[]', '"[]"'],
    ['clap x12', '"clap x12"'],
    ['clap x2', '"clap x2"'],
    ['clap xx', 'clap xx'],
    ['x2 clap', '"x2 clap"'],
    ['walk R/L', String.raw`"walk \R/\L"`],
    ['as 1-4', '"as 1-4"'],
    ['as if asleep', '"as if asleep"'],
    ['as', '"as"'],
    ['ask', 'ask'],
    ['turn l', '"turn l"'],
    ['step 3 back', 'step 3 back'],
    ['3 steps', '"3 steps"'],
  ])('the move %j is printed %s', (move, printed) => {
    const one = parseLine('1 step', eight).map((c) => ({ ...c, move }))
    expect(printLine(one, eight)).toBe(`1 ${printed}`)
    expect(parseLine(printLine(one, eight), eight)).toEqual(one)
  })
  it('take a quoted letter for a shape: to the other side it is the same', () => {
    const [one] = parseLine('1 "an L with the arms" R', eight)
    expect([one?.move, one?.side]).toEqual(['an “L” with the arms', 'right'])
    expect(mirrorText(one?.move ?? '')).toBe('an “L” with the arms')
    expect(mirrorText('an L with the arms')).toBe('an R with the arms')
    expect(mirrorText('"L" left')).toBe('"L" right')
  })
  it('say that something is held or free in one version alone', () => {
    const [one, two] = parseLine('1-4 wait #easier #hold; 5-8 what you like #open #easier', eight)
    expect([one?.option, one?.step, two?.option, two?.step]).toEqual(['easier', 'hold', 'easier', 'open'])
    expect(printLine([one as LineCue, two as LineCue], eight)).toBe(
      '1-4 wait #hold #easier; 5-8 what you like #open #easier',
    )
    expect(parseLine('1 wait #hold', eight)[0]).toMatchObject({ option: 'hold' })
    expect(parseLine('1 wait #hold', eight)[0]).not.toHaveProperty('step')
    expect(() => parseLine('1 x #easier #harder', eight)).toThrow('a cue is of one version')
    expect(() => parseLine('1 x #hold #open', eight)).toThrow('a cue is of one version')
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
