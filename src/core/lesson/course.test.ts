import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { moveBook, STARTING_MOVES } from '../choreo'
import { counted } from '../drill'
import { type Course, USUAL } from '../routine'
import { cuesOf, page } from '../routine/hand.test-tools'
import { covered, joined } from '../time'
import { layCourse, weekly, withDate } from '.'

const book = moveBook(STARTING_MOVES)
const EIGHT = '1 step R; 2 touch L; 3 step L; 4 touch R; 5 step R; 6 touch L; 7 step L; 8 touch R'
const times = Array.from({ length: 200 }, (_, i) => i * 0.6)
const dance = (eights: number) => page(eights, cuesOf(Array(eights).fill(EIGHT)))
const course = (what: Partial<Course> = {}): Course => ({
  ...{ id: 'c', group: 'G', dates: weekly('2026-12-03T18:30', 6), minutes: 60, standsBy: null },
  ...what,
})
const lay = (eights: number, what: Partial<Course> = {}) =>
  layCourse(dance(eights), times, book, { ...USUAL, order: 'whole body' }, course(what), [])
const eights = (list: readonly { from: number }[]) => list.map((s) => s.from / 192)

describe('a course', () => {
  it('spreads new material evenly, and has nothing new in the lesson in which it must stand', () => {
    const { lessons, left } = lay(10)
    expect(lessons.map((l) => eights(l.fresh))).toEqual([[0, 1], [2, 3], [4, 5], [6, 7], [8, 9], []])
    expect(left).toEqual([])
  })

  it('brings what was learned back after one, two and four lessons', () => {
    const { lessons } = lay(5, { dates: weekly('2026-12-03T18:30', 7) })
    const back = (eight: number) =>
      lessons.flatMap((l, i) =>
        l.again.some((s) => s.from <= eight * 192 && s.to >= (eight + 1) * 192) ? [i] : [],
      )
    const first = lessons.findIndex((l) => eights(l.fresh).includes(0))
    expect(first).toBe(0)
    expect(back(0)).toEqual([1, 2, 4])
  })

  it('says on the day it is planned that it cannot stand, and what is left', () => {
    const { lessons, left } = lay(30, { dates: weekly('2026-12-03T18:30', 3), minutes: 45 })
    expect(lessons).toHaveLength(3)
    expect(left.length).toBeGreaterThan(0)
    expect(lessons.at(-1)?.fresh).toEqual([])
    expect(eights(lessons.flatMap((l) => l.fresh)).concat(eights(left))).toEqual([...Array(30).keys()])
  })

  it('must stand by a day: from then on nothing new', () => {
    const { lessons } = lay(6, { standsBy: '2026-12-20' })
    expect(lessons.map((l) => l.fresh.length)).toEqual([3, 3, 0, 0, 0, 0])
  })

  it('goes on from what its class danced already', () => {
    const row = {
      ...{ id: 'r', doneAt: 1, kind: 'drill' as const, from: 0, to: 9.6, label: 'x', pass: 'all' as const },
      ...{ speed: 0.75, seconds: 5, mark: 'clean' as const, looped: false, slips: [], corrects: null },
    }
    const { lessons } = layCourse(dance(4), times, book, USUAL, course(), counted([row], times))
    expect(eights(lessons.flatMap((l) => l.fresh))).toEqual([2, 3])
  })

  it('exceeds no budget, forgets nothing, and teaches nothing twice', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 8 }),
        fc.integer({ min: 20, max: 90 }),
        (n, count, minutes) => {
          const { lessons, left } = lay(n, { dates: weekly('2026-12-03T18:30', count), minutes })
          const fresh = lessons.flatMap((l) => l.fresh)
          expect(eights(fresh).concat(eights(left))).toEqual([...Array(n).keys()])
          for (const l of lessons) if (l.fresh.length) expect(l.seconds).toBeLessThanOrEqual(minutes * 60)
          // What is learned comes back in the next lesson, where there is one and time for it.
          lessons.forEach((l, i) => {
            const again = lessons[i + 1]?.again
            if (again && l.fresh.length === 1 && minutes >= 60)
              expect(covered(l.fresh[0] as never, joined(again))).toBe(true)
          })
        },
      ),
      { numRuns: 12 },
    )
  })
})

describe('a date of a course', () => {
  const dates = ['2026-12-03T18:30', '2026-12-10T18:30']
  it('goes to another day, in order; falls out; and one stays', () => {
    expect(withDate(dates, '2026-12-03T18:30', '2026-12-17T19:00')).toEqual([
      '2026-12-10T18:30',
      '2026-12-17T19:00',
    ])
    expect(withDate(dates, '2026-12-10T18:30', '2026-12-01T18:30')).toEqual([
      ...['2026-12-01T18:30', '2026-12-03T18:30'],
    ])
    expect(withDate(dates, '2026-12-03T18:30', '2026-12-10T18:30')).toEqual(['2026-12-10T18:30'])
    expect(withDate(dates, '2026-12-10T18:30', null)).toEqual(['2026-12-03T18:30'])
    expect(withDate(['2026-12-03T18:30'], '2026-12-03T18:30', null)).toEqual(['2026-12-03T18:30'])
  })
})

describe('weekly', () => {
  it('keeps the hour over months, years and summer time', () => {
    expect(weekly('2027-03-18T18:30', 3)).toEqual([
      '2027-03-18T18:30',
      '2027-03-25T18:30',
      '2027-04-01T18:30',
    ])
    expect(weekly('2026-12-24T09:05', 2)).toEqual(['2026-12-24T09:05', '2026-12-31T09:05'])
  })
})
