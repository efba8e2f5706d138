import ical, { ICalCalendarMethod } from 'ical-generator'
import { oneLine } from '../routine/document/text-schema'

/** One lesson as a calendar shows it. */
export interface CalendarLesson {
  /** The same for the same lesson, so that a calendar that knows it changes it. */
  id: string
  /** Day and hour where the class is: no zone. */
  date: string
  minutes: number
  title: string
  /** What is taught. */
  words: string
}

/**
 * Lessons as an iCalendar file (RFC 5545), in the hours of the place where the class is ("floating" times, section 3.3.5).
 * @param made when, as the calendar's stamp
 */
export function printCalendar(name: string, lessons: readonly CalendarLesson[], made: Date): string {
  const calendar = ical({
    name: oneLine(name),
    prodId: { company: 'Azalea', product: 'Azalea', language: 'EN' },
  })
  calendar.method(ICalCalendarMethod.PUBLISH)
  for (const { id, date, minutes, title, words } of lessons) {
    const start = placed(date)
    calendar.createEvent({
      // The library prints it as it is.
      id: `${id.replace(/\s+/g, '-')}.azalea`,
      start,
      end: new Date(start.getTime() + minutes * 60_000),
      stamp: made,
      floating: true,
      summary: oneLine(title),
      description: words,
    })
  }
  // Every line ends with CR and LF, the last one too (RFC 5545, section 3.1).
  return `${calendar.toString().trimEnd()}\r\n`
}

/** A day and an hour as the clock of this machine shows them: printed without a zone, they stay what they are. */
function placed(date: string): Date {
  const [y = 0, m = 1, d = 1, h = 0, min = 0] = date.split(/[-T:]/).map(Number)
  return new Date(y, m - 1, d, h, min)
}
