import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import { printCalendar } from './icalendar'

const MADE = new Date(Date.UTC(2026, 10, 26, 12))
const lesson = (n: number, date: string, words = 'New: Chorus') => ({
  ...{ id: `course-1-${n}`, date, minutes: 90, title: `Thursday, lesson ${n}`, words },
})
/** Read by a parser that is not ours. */
const read = (text: string) => {
  const component = new ICAL.Component(ICAL.parse(text))
  return { component, events: component.getAllSubcomponents('vevent').map((e) => new ICAL.Event(e)) }
}

// RFC 5545, Internet Calendaring and Scheduling Core Object Specification, read back by the ical.js parser.
describe('lessons as iCalendar', () => {
  it('have their day and hour where the class is, their length, title and words', () => {
    const text = printCalendar(
      'Marmalade',
      [lesson(1, '2026-12-03T18:30'), lesson(2, '2027-01-07T18:30')],
      MADE,
    )
    const { component, events } = read(text)
    expect(component.getFirstPropertyValue('version')).toBe('2.0')
    expect(component.getFirstPropertyValue('prodid')).toContain('Azalea')
    expect(
      events.map((e) => [e.startDate.toString(), e.duration.toString(), e.summary, e.description]),
    ).toEqual([
      ['2026-12-03T18:30:00', 'PT1H30M', 'Thursday, lesson 1', 'New: Chorus'],
      ['2027-01-07T18:30:00', 'PT1H30M', 'Thursday, lesson 2', 'New: Chorus'],
    ])
    // Floating: neither UTC nor a zone (3.3.5, form 1).
    expect(events[0]?.startDate.zone).toBe(ICAL.Timezone.localTimezone)
    expect(text).not.toMatch(/DTSTART[^\r\n]*(?:Z|TZID)/)
    expect(new Set(events.map((e) => e.uid)).size).toBe(2)
    expect([text.endsWith('END:VCALENDAR\r\n'), /[^\r]\n/.test(text)]).toEqual([true, false])
  })

  it('fold long lines at 75 octets and end them with CRLF (3.1), in any script', () => {
    const long = 'Припев: шаг, поворот; «на месте», サビ, '.repeat(12)
    const text = printCalendar('Новый курс', [lesson(1, '2026-12-03T18:30', long)], MADE)
    const lines = text.split('\r\n')
    expect(text.replace(/\r\n/g, '')).not.toMatch(/[\r\n]/)
    for (const line of lines) expect(Buffer.byteLength(line, 'utf8')).toBeLessThanOrEqual(75)
    expect(read(text).events[0]?.description).toBe(long)
  })

  it('keep what has a meaning in the format as text (3.3.11)', () => {
    const odd = 'a;b,c\\d\nBEGIN:VEVENT'
    const { events } = read(printCalendar('x', [lesson(1, '2026-12-03T18:30', odd)], MADE))
    expect(events.map((e) => e.description)).toEqual([odd])
  })
})
