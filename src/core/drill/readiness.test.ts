import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Stretch } from '../time'
import { type CountedRow, counted, type LoggedRepetition, type Mark, practice, Readiness, standing } from '.'

/** Counts of a dance on one grid of 120 a minute, numbered from 1. */
const times = Array.from({ length: 64 }, (_, i) => i * 0.5)
let n = 0
const row = (
  first: number,
  last: number,
  speed: number,
  mark: Mark | 'unmarked',
  what: Partial<LoggedRepetition> = {},
): LoggedRepetition => ({
  id: `row${n++}`,
  doneAt: n,
  kind: 'drill',
  from: (first - 1) * 0.5,
  to: last * 0.5,
  label: `${first} to ${last}`,
  pass: 'all',
  speed,
  seconds: 4,
  mark,
  looped: false,
  slips: [],
  corrects: null,
  ...what,
})
const counts = (first: number, last: number): Stretch => ({ from: (first - 1) * 24, to: last * 24 })
const of = (rows: LoggedRepetition[]) => new Readiness(counted(rows, times))
/** The speed of the pairs from one count on: 1-2, 2-3 ... */
const pairs = (r: Readiness, first: number, last: number) =>
  Array.from({ length: last - first }, (_, i) => r.pair((first - 1 + i) * 24))

// The rows of a table worked out by hand: each builds on the one before.
describe('what sits, count by count', () => {
  const first = [row(1, 8, 0.75, 'clean'), row(1, 8, 0.75, 'clean')]
  const second = [...first, row(5, 12, 0.6, 'clean'), row(5, 12, 0.6, 'clean')]
  const third = [...second, row(1, 8, 1, 'missed', { slips: [1.5] })]
  it('counts 1 to 8 clean twice at 75 %: all their pairs, and the eight', () => {
    const r = of(first)
    expect(pairs(r, 1, 8)).toEqual(Array(7).fill(0.75))
    expect(r.of(counts(1, 8))).toBe(0.75)
    expect(r.of(counts(2, 5))).toBe(0.75)
    expect(r.of(counts(1, 9))).toBe(0)
  })
  it('then 5 to 12 clean twice at 60 %: the others stay, the new ones sit at 60 %', () => {
    const r = of(second)
    expect(pairs(r, 1, 8)).toEqual(Array(7).fill(0.75))
    expect(pairs(r, 8, 12)).toEqual(Array(4).fill(0.6))
    expect(r.of(counts(1, 12))).toBe(0.6)
  })
  it('then 1 to 8 missed at 100 %, slipped on 4 only: 3-4 and 4-5 missed last, the others clean once at 100 %', () => {
    const again = of([...third, row(1, 8, 1, 'clean')])
    // One more clean makes two for all but the pairs at the slip.
    expect(pairs(again, 1, 8)).toEqual([1, 1, 0.75, 0.75, 1, 1, 1])
    expect(pairs(of(third), 1, 8)).toEqual(Array(7).fill(0.75))
    expect(pairs(of([...third, row(1, 8, 1, 'clean'), row(1, 8, 1, 'clean')]), 1, 8)).toEqual(
      Array(7).fill(1),
    )
  })
  it('1 to 8 and 9 to 16 apart, both at 100 % twice: the whole does not sit, nobody danced through the join', () => {
    const apart = [
      row(1, 8, 1, 'clean'),
      row(9, 16, 1, 'clean'),
      row(1, 8, 1, 'clean'),
      row(9, 16, 1, 'clean'),
    ]
    expect(of(apart).of(counts(1, 16))).toBe(0)
    expect(of([...apart, row(7, 10, 1, 'clean'), row(7, 10, 1, 'clean')]).of(counts(1, 16))).toBe(1)
  })
})

describe('readiness', () => {
  it('goes by the latest attempts; clean at a speed is clean at every lower one, a miss only at its own', () => {
    const rows = [
      row(1, 4, 0.6, 'clean'),
      row(1, 4, 0.6, 'clean'),
      row(1, 4, 0.75, 'clean'),
      row(1, 4, 0.75, 'shaky'),
    ]
    expect(of(rows).of(counts(1, 4))).toBe(0.6)
    expect(of([...rows, row(1, 4, 0.75, 'clean')]).of(counts(1, 4))).toBe(0.6)
    expect(of([...rows, row(1, 4, 0.75, 'clean'), row(1, 4, 0.75, 'clean')]).of(counts(1, 4))).toBe(0.75)
    expect(of([row(1, 4, 1, 'clean'), row(1, 4, 0.75, 'clean')]).of(counts(1, 4))).toBe(0.75)
    expect(of([...rows, row(1, 4, 0.6, 'missed')]).of(counts(1, 4))).toBe(0)
  })
  it('in a loop asks for the way from the last count to the first as well', () => {
    const twice = (looped: boolean) => [
      row(1, 4, 1, 'clean'),
      row(1, 4, 1, 'clean', { looped }),
      row(1, 4, 1, 'clean', { looped }),
    ]
    expect([
      of(twice(false)).of(counts(1, 4), 'all', true),
      of(twice(true)).of(counts(1, 4), 'all', true),
    ]).toEqual([0, 1])
  })
  it('is told apart by what of the body was danced, and says nothing of rows nobody marked', () => {
    const r = of([
      row(1, 4, 1, 'clean', { pass: 'feet' }),
      row(1, 4, 1, 'clean', { pass: 'feet' }),
      row(1, 4, 1, 'unmarked'),
    ])
    expect([r.of(counts(1, 4), 'feet'), r.of(counts(1, 4), 'arms'), r.of(counts(1, 4))]).toEqual([1, 0, 0])
  })
  it('of a single count comes from what leads into it or out of it, or from a drill of its own', () => {
    expect(of([row(1, 4, 1, 'clean'), row(1, 4, 1, 'clean')]).of(counts(4, 4))).toBe(1)
    expect(of([row(9, 9, 1, 'clean'), row(9, 9, 1, 'clean')]).of(counts(9, 9))).toBe(1)
  })
  it('survives a repair of the counts: rows know seconds of the song', () => {
    const rows = [row(1, 8, 1, 'clean'), row(1, 8, 1, 'clean')]
    const twice = Array.from({ length: 128 }, (_, i) => i * 0.25)
    expect(new Readiness(counted(rows, twice)).of({ from: 0, to: 16 * 24 })).toBe(1)
    const later = times.map((t) => t + 0.03)
    expect(new Readiness(counted(rows, later)).of(counts(1, 8))).toBe(1)
  })
  it('never rises by a miss, and a stretch never sits better than a part of it', () => {
    const marks = fc.constantFrom<Mark>('clean', 'shaky', 'missed')
    const some = fc.array(
      fc.record({
        a: fc.integer({ min: 1, max: 16 }),
        l: fc.integer({ min: 1, max: 8 }),
        mark: marks,
        speed: fc.constantFrom(0.6, 0.75, 1),
      }),
      { maxLength: 30 },
    )
    fc.assert(
      fc.property(some, fc.integer({ min: 1, max: 16 }), fc.integer({ min: 1, max: 6 }), (list, a, l) => {
        const rows = list.map((x) => row(x.a, x.a + x.l, x.speed, x.mark))
        const r = of(rows)
        const whole = r.of(counts(a, a + l))
        for (let c = a; c < a + l; c++) expect(r.of(counts(c, c + 1))).toBeGreaterThanOrEqual(whole)
        expect(of([...rows, row(a, a + l, 1, 'missed')]).of(counts(a, a + l))).toBeLessThanOrEqual(whole)
      }),
    )
  })
})

describe('the log', () => {
  it('a correction stands in for what it corrects, also twice, and a circle of them ends', () => {
    const [a, b] = [row(1, 4, 1, 'clean', { id: 'a' }), row(1, 4, 1, 'clean', { id: 'b' })]
    const c = row(1, 4, 1, 'missed', { id: 'c', corrects: 'b' })
    const d = row(1, 4, 1, 'shaky', { id: 'd', corrects: 'c' })
    expect(standing([a, b, c, d]).map((r) => [r.id, r.mark, r.doneAt])).toEqual([
      ['a', 'clean', a.doneAt],
      ['b', 'shaky', b.doneAt],
    ])
    const round = [a, { ...b, corrects: 'c' }, c]
    expect(standing(round).map((r) => r.id)).toEqual(['a'])
  })
  it('adds up per stretch and pass; rows on counts that are gone stay under the name they had', () => {
    const gone = { from: null, to: null, label: 'Bridge, eight 2' }
    const rows = counted(
      [row(1, 8, 0.75, 'clean'), row(1, 8, 0.75, 'clean'), row(1, 8, 1, 'shaky', gone)],
      times,
    )
    expect(practice(rows).map((l) => [l.label, l.stretch, l.repetitions, l.ready, l.lastMark])).toEqual([
      ['Bridge, eight 2', null, 1, 0, 'shaky'],
      ['1 to 8', counts(1, 8), 2, 0.75, 'clean'],
    ])
  })
  it('places rows on the counts and sub-counts people name', () => {
    const at = (from: number, to: number): CountedRow | undefined =>
      counted([row(1, 1, 1, 'clean', { from, to })], times)[0]
    expect(at(0.26, 2.01)?.stretch).toEqual({ from: 12, to: 96 })
    expect(at(1 / 6, 0.5)?.stretch).toEqual({ from: 8, to: 24 })
  })
})

describe('any log', () => {
  /** The rule row by row, oldest first, without any shortcut. */
  const plainly = (rows: readonly CountedRow[], pair: number): number => {
    const marked = rows.filter((r) => r.row.mark !== 'unmarked')
    const speeds = [...new Set(marked.map((r) => r.row.speed))]
    const streak = new Map(speeds.map((s) => [s, 0]))
    for (const { row: r, stretch, slips } of rows) {
      if (!stretch || r.mark === 'unmarked') continue
      const [a, b] = [stretch.from / 24, (stretch.to - 1) / 24]
      if (pair < Math.floor(a) || pair + 1 > Math.floor(b)) continue
      const slipped = slips.some((t) => Math.floor(t / 24) === pair || Math.floor(t / 24) === pair + 1)
      const rest = slips.length && r.mark === 'missed' ? 'clean' : r.mark
      if (!slipped && rest === 'clean')
        for (const s of speeds) if (s <= r.speed) streak.set(s, (streak.get(s) ?? 0) + 1)
      if (slipped || rest !== 'clean') streak.set(r.speed, 0)
    }
    return Math.max(0, ...[...streak].flatMap(([s, n]) => (n >= 2 ? [s] : [])))
  }
  it('is judged as by the rule read row by row', () => {
    const any = fc.record({
      first: fc.integer({ min: 1, max: 12 }),
      length: fc.integer({ min: 1, max: 9 }),
      speed: fc.constantFrom(0.6, 0.75, 1),
      mark: fc.constantFrom<Mark | 'unmarked'>('clean', 'clean', 'clean', 'shaky', 'missed', 'unmarked'),
      slip: fc.option(fc.nat(8)),
    })
    fc.assert(
      fc.property(fc.array(any, { maxLength: 25 }), (list) => {
        const rows = counted(
          list.map(({ first, length, speed, mark, slip }) =>
            row(first, first + length - 1, speed, mark, {
              slips: slip === null || slip >= length ? [] : [(first - 1 + slip) * 0.5],
            }),
          ),
          times,
        )
        const r = new Readiness(rows)
        for (let pair = 0; pair < 22; pair++) expect(r.pair(pair * 24)).toBe(plainly(rows, pair))
      }),
      { numRuns: 400 },
    )
  })
})
