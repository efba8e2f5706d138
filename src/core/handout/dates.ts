import { type CalendarLesson, printCalendar } from '../formats/icalendar'
import type { LaidCourse } from '../lesson'
import { type Course, type PlacedPhrase, stretchName } from '../routine'
import { joined, type Stretch } from '../time'

/** Stretches by their names, those that follow one another as one. */
export const stretchNames = (placed: readonly PlacedPhrase[], list: readonly Stretch[]): string =>
  joined(list)
    .map((s) => stretchName(placed, s))
    .join('; ')

/** What a lesson of a course says of itself, a line each: what is new, what comes back. */
export function lessonWords(lesson: LaidCourse['lessons'][0], placed: readonly PlacedPhrase[]): string[] {
  return [
    lesson.fresh.length ? `New: ${stretchNames(placed, lesson.fresh)}` : 'Nothing new: it is run.',
    ...(lesson.again.length ? [`Again: ${stretchNames(placed, lesson.again)}`] : []),
  ]
}

/** The dates of a course as an iCalendar file. @param made when, as the calendar's stamp */
export function courseCalendar(
  course: Course,
  laid: LaidCourse,
  title: string,
  placed: readonly PlacedPhrase[],
  made: Date,
): string {
  const lessons = laid.lessons.map(
    (l, i): CalendarLesson => ({
      id: `${course.id}-${i + 1}`,
      date: l.date,
      minutes: course.minutes,
      title: `${course.group || title}, lesson ${i + 1}`,
      words: [title, ...lessonWords(l, placed)].join('\n'),
    }),
  )
  return printCalendar(title, lessons, made)
}
