import { expect, it } from 'vitest'
import { placePhrases } from '../routine'
import { page } from '../routine/hand.test-tools'
import { courseCalendar } from './calendar'

it('has a lesson each with a name of its own, and what is new and comes back in it', () => {
  const placed = placePhrases(page(3, []))
  const lesson = (date: string, fresh: object[], again: object[]) => ({
    date,
    fresh,
    again,
    steps: [],
    total: 0,
  })
  const first = { from: 0, to: 192 }
  const next = { from: 192, to: 384 }
  const laid = {
    lessons: [lesson('2026-12-03T18:30', [first], []), lesson('2026-12-10T18:30', [], [first, next])],
    left: [],
  }
  const course = { id: 'c1', group: 'Mondays', minutes: 60, dates: [], stands: null }
  const text = courseCalendar(course as never, laid as never, 'A dance', placed, new Date(0), 'r1').replace(
    /\r\n /g,
    '',
  )
  expect(text.match(/^UID:.*$/gm)?.map((l) => l.trim())).toEqual(['UID:c1-1@r1.azalea', 'UID:c1-2@r1.azalea'])
  expect(text).toContain('SUMMARY:Mondays\\, lesson 2')
  const words = text.match(/^DESCRIPTION:.*$/gm) ?? []
  expect(words[0]).toMatch(/A dance\\nNew: .*eight 1/i)
  // What follows on is said as one.
  expect(words[1]).toMatch(/Nothing new: it is run\.\\nAgain: [^;]*eight 1[^;]*eight 2/i)
})
