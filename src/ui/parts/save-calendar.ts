import type { LaidCourse } from '@/core/lesson'
import type { Course, PlacedPhrase } from '@/core/routine'
import { fileName, saveFile } from './save-file'

/** Saves the dates of a course for any calendar. @param name of the file @param title of the routine */
export async function saveCalendar(
  name: string,
  title: string,
  { course, laid, placed }: { course: Course; laid: LaidCourse; placed: readonly PlacedPhrase[] },
): Promise<void> {
  // What writes calendars is large, and asked for once in a course.
  const { courseCalendar } = await import('@/core/handout/calendar')
  const routine = /\/r\/([^/]+)/.exec(location.pathname)?.[1] ?? ''
  const text = courseCalendar(course, laid, title, placed, new Date(), routine)
  saveFile(`${fileName(name)}.ics`, text, 'text/calendar')
}
