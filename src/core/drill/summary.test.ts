import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { page } from '../routine/hand.test-tools'
import { counted, type LoggedRepetition, type Mark } from './log'
import { nextSpeed, nextUp } from './overview'
import { practice } from './practice'
import { dueAt, practiceSummary } from './summary'

const times = Array.from({ length: 65 }, (_, i) => i * 0.5)
const DAY = 24 * 3600 * 1000
const NOW = Date.UTC(2026, 10, 26)
const row = (n: number, phrase: number, speed: number, mark: Mark, daysAgo: number): LoggedRepetition =>
  ({
    ...{
      id: `repetition-${n}`,
      doneAt: NOW - daysAgo * DAY,
      kind: 'drill',
      from: phrase * 4,
      to: phrase * 4 + 4,
    },
    ...{ label: `Eight ${phrase + 1}`, pass: 'all', speed, seconds: 4, mark, looped: false, slips: [] },
    ...{ corrects: null, group: '' },
  }) as unknown as LoggedRepetition

describe('what is kept of a log for the shelf', () => {
  it('says at any time what the whole log says then', () => {
    const rows = fc.array(
      fc.tuple(
        fc.nat(7),
        fc.constantFrom(0.6, 0.75, 1),
        fc.constantFrom<Mark>('clean', 'shaky', 'missed'),
        fc.nat(60),
      ),
      { maxLength: 30 },
    )
    fc.assert(
      fc.property(rows, fc.integer({ min: -90, max: 400 }), (list, later) => {
        const log = list.map(([p, s, m, d], i) => row(i, p, s, m, d)).sort((a, b) => a.doneAt - b.doneAt)
        const now = NOW + later * DAY + 12_345
        const lines = practice(counted(log, times))
        const due = nextUp(lines, now)
        const { due: named, more } = dueAt(practiceSummary(page(8, []), times, log), now)
        expect(named.length + more).toBe(due.length)
        expect(named.map((d) => d.speed)).toEqual(due.slice(0, 2).map(nextSpeed))
      }),
      // Two that need it alike, but for the last digit of what is worked out.
      {
        examples: [
          [
            [
              [1, 0.6, 'clean', 31],
              [2, 0.6, 'clean', 3],
              [1, 0.6, 'clean', 31],
            ],
            0,
          ],
        ],
      },
    )
  })
  it('names what was danced last, and what sits', () => {
    const log = [0, 1, 2, 3].map((i) => row(i, 0, 1, 'clean', 9 - i))
    const s = practiceSummary(page(2, []), times, [...log, row(9, 1, 0.6, 'missed', 1)])
    expect(s.rows).toBe(5)
    expect(s.last).toMatchObject({ speed: 0.6, mark: 'missed' })
    expect(s.sits).toMatchObject({ whole: 0, atTempo: 1, phrases: 2 })
    expect(practiceSummary(page(2, []), times, [])).toMatchObject({
      rows: 0,
      last: null,
      due: [],
      dueFrom: [],
    })
  })
})
