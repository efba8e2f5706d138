import type { MoveBook } from '../choreo'
import { type CountedRow, Readiness } from '../drill'
import {
  type Course,
  type LessonSettings,
  type LessonStep,
  madeAs,
  plainStep,
  type Routine,
} from '../routine'
import { joined, type Seconds, type Stretch, type Times } from '../time'
import { layLesson } from './lesson'
import { taughtIn } from './next-lesson'
import { secondsOf } from './plan'

/** Lessons after which something learned comes back: growing gaps. Common practice, no published source. */
const GAPS = [1, 2, 4, 8]
/** Share of a lesson that may go to what comes back. */
const REVIEW = 0.4

/** One lesson of a course: what is new in it, and what comes back. */
export interface CourseLesson {
  /** Day and hour where the class is, "2026-12-03T18:30". */
  date: string
  fresh: Stretch[]
  again: Stretch[]
  /** What it takes, the run of the whole dance included. */
  seconds: Seconds
}

/** A course laid out over its dates. */
export interface LaidCourse {
  lessons: CourseLesson[]
  /** What is left when it must stand, phrase by phrase; empty where it can stand. */
  left: Stretch[]
}

/**
 * Spreads a dance over the dates of a course: new material as evenly as the minutes let it, what was learned back after one,
 * two, four and eight lessons, and nothing new in the lesson in which it must stand.
 * @param settings of the lessons; their minutes are the course's
 * @param rows the log of the class
 */
export function layCourse(
  routine: Routine,
  times: Times,
  book: MoveBook,
  usual: LessonSettings,
  course: Course,
  rows: readonly CountedRow[],
): LaidCourse {
  const settings = { ...usual, minutes: course.minutes }
  const readiness = new Readiness(rows)
  const ready = (s: Stretch) => readiness.of(s)
  const lay = (taught: readonly Stretch[], steps: readonly LessonStep[] = []) =>
    layLesson(routine, times, book, { ...settings, minutes: course.minutes }, ready, { steps, taught })
  const taught = taughtIn(rows)
  /** Everything there is to learn, in order: what no lesson of any length leaves out. */
  const all = layLesson(routine, times, book, { ...settings, minutes: 0 }, ready, { steps: [], taught }).left
  const learned: { stretch: Stretch; at: number }[] = []
  const dates = [...course.dates].sort()
  const stands = standsAt(course, dates)
  const lessons: CourseLesson[] = []
  let left = all
  dates.forEach((date, i) => {
    const steps = reviewOf(learned, i, settings, (s) => secondsOf(s, { routine, times, settings }))
    const known = [...taught, ...learned.map((l) => l.stretch)]
    let fresh: Stretch[] = []
    if (i < stands && left.length) {
      const share = Math.ceil(left.length / (stands - i))
      const fits = left.length - lay(known, steps).left.length
      fresh = left.slice(0, Math.max(0, Math.min(share, fits)))
      left = left.slice(fresh.length)
    }
    // Exactly these: the rest is taken for known.
    const { seconds } = lay([...known, ...left], steps)
    lessons.push({ date, fresh, again: steps.flatMap((s) => s.stretch ?? []), seconds })
    for (const stretch of fresh) learned.push({ stretch, at: i })
  })
  return { lessons, left }
}

/** The lesson by which it must stand: the last one on or before its day, else the last of all. */
function standsAt({ standsBy }: Course, dates: readonly string[]): number {
  const last = standsBy ? dates.findLastIndex((d) => d.slice(0, 10) <= standsBy) : dates.length - 1
  return Math.max(0, last)
}

/** What comes back in a lesson, the latest learned first, as far as there is time for it. */
function reviewOf(
  learned: readonly { stretch: Stretch; at: number }[],
  lesson: number,
  settings: LessonSettings,
  seconds: (s: LessonStep) => Seconds,
): LessonStep[] {
  const due = learned.filter((l) => GAPS.includes(lesson - l.at)).sort((a, b) => b.at - a.at)
  const out: LessonStep[] = []
  let spent = 0
  for (const stretch of joined(due.map((d) => d.stretch))) {
    const step = plainStep({
      ...{ made: madeAs('review course', stretch.from, stretch.to), kind: 'drill', stretch, speed: 0.85 },
      ...{ view: settings.view, repetitions: 2 },
    })
    const long = seconds(step)
    if (spent + long > REVIEW * settings.minutes * 60) break
    spent += long
    out.push(step)
  }
  return out
}

/** Dates a week apart. @param first "2026-12-03T18:30" */
export function weekly(first: string, lessons: number): string[] {
  const [day = '', hour = '00:00'] = first.split('T')
  const [y = 0, m = 1, d = 1] = day.split('-').map(Number)
  return Array.from({ length: lessons }, (_, i) => {
    // Days are counted without clocks: a summer time does not move a lesson.
    const date = new Date(Date.UTC(y, m - 1, d + 7 * i))
    return `${date.toISOString().slice(0, 10)}T${hour}`
  })
}

/** The dates of a course with one of them on another day, or none; in order, each once. A course keeps a date at least. */
export function withDate(dates: readonly string[], old: string, date: string | null): string[] {
  const rest = dates.filter((d) => d !== old)
  const next = date === null ? rest : [...new Set([...rest, date])].sort()
  return next.length ? next : [...dates]
}
