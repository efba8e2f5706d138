import { type CalendarLesson, printCalendar } from '../formats/icalendar'
import type { LaidCourse } from '../lesson'
import type { Course, PlacedPhrase } from '../routine'
import { lessonWords } from './dates'

/** The dates of a course as an iCalendar file. @param routine its id: no two routines, on whatever machines, have lessons of one name @param made when, as the calendar's stamp */
export function courseCalendar(
  course: Course,
  laid: LaidCourse,
  title: string,
  placed: readonly PlacedPhrase[],
  made: Date,
  routine: string,
): string {
  const lessons = laid.lessons.map(
    (l, i): CalendarLesson => ({
      id: `${course.id}-${i + 1}@${routine}`,
      date: l.date,
      minutes: course.minutes,
      title: `${course.group || title}, lesson ${i + 1}`,
      words: [title, ...lessonWords(l, placed)].join('\n'),
    }),
  )
  return printCalendar(title, lessons, made)
}
