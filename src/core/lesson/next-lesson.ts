import type { MoveBook } from '../choreo'
import { type CountedRow, nextSpeed, nextUp, practice, Readiness } from '../drill'
import {
  type LessonPlan,
  type LessonSettings,
  type LessonStep,
  madeAs,
  plainStep,
  type Routine,
} from '../routine'
import type { Seconds, Stretch, Times } from '../time'
import { type Lesson, layLesson } from './lesson'
import { called, secondsOf } from './plan'

/** Share of a lesson that may go to what is known from the last one. Common practice, no published source. */
const REVIEW = 0.4
/** Danced again at most, so that there is time for something new. */
const MOST = 6

/** What a class danced: every stretch that was drilled with it, whole or by parts of the body. */
export const taughtIn = (rows: readonly CountedRow[]): Stretch[] =>
  rows.flatMap(({ stretch, row }) => (stretch && row.kind === 'drill' ? [stretch] : []))

/**
 * A lesson as a plan asks for it: one of its own, or one that goes on from what its class had danced when it was made.
 */
export function lessonOf(
  routine: Routine,
  times: Times,
  book: MoveBook,
  { settings, goesOn }: Pick<LessonPlan, 'settings' | 'goesOn'>,
  rows: readonly CountedRow[],
): Lesson {
  if (goesOn === null) {
    const readiness = new Readiness(rows)
    return layLesson(routine, times, book, settings, (s) => readiness.of(s))
  }
  const before = rows.filter(({ row }) => row.doneAt < goesOn)
  return nextLesson(routine, times, book, settings, before, goesOn)
}

/**
 * The lesson after those in a log: it begins with what sat least and what was left longest, each at the speed that comes
 * next, and goes on with what was not taught yet, as far as the minutes go. What does not fit is named, for another day.
 * @param rows the log of the class, on the counts of the page
 * @param now milliseconds
 */
export function nextLesson(
  routine: Routine,
  times: Times,
  book: MoveBook,
  settings: LessonSettings,
  rows: readonly CountedRow[],
  now: number,
): Lesson {
  const readiness = new Readiness(rows)
  const budget: Seconds = REVIEW * settings.minutes * 60
  const steps: LessonStep[] = []
  let spent = 0
  for (const line of nextUp(practice(rows, readiness), now)) {
    if (!line.stretch || steps.length >= MOST) continue
    const speed = nextSpeed(line)
    const { from, to } = line.stretch
    const plain = plainStep({
      ...{
        made: madeAs(`review ${line.pass}`, from, to),
        kind: 'drill',
        stretch: line.stretch,
        pass: line.pass,
      },
      ...{ speed, sound: speed < 0.9 ? 'counts' : 'both', view: settings.view, repetitions: 2 },
      why: line.ready ? `It sat at ${Math.round(line.ready * 100)} %.` : 'It did not sit yet.',
    })
    const step = called(plain, { routine, times, settings }, line.ready >= 1)
    const seconds = secondsOf(step, { routine, times, settings })
    if (spent + seconds > budget) continue
    spent += seconds
    steps.push(step)
  }
  const ready = (s: Stretch) => readiness.of(s)
  return layLesson(routine, times, book, settings, ready, { steps, taught: taughtIn(rows) })
}
