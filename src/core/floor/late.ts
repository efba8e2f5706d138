import { type LessonStep, stepKey } from '../routine'
import { common, type Seconds, type Stretch, sameStretch } from '../time'
import type { FloorLesson } from './lesson'
import type { FloorState } from './state'

/*
 * A lesson that is late: by how much, and what to leave out of what is left, as a teacher would: rungs between slow and tempo
 * first, then what is taken apart and danced again, then what is taught last.
 */

/** When the lesson began, from the first step that is left or danced: a floor that was opened early is not late. */
export function begunAt({ begunAt: begun, lesson, going }: FloorState, now: number): number | null {
  if (begun !== null || !lesson || !going) return begun
  return now - Math.min(now - going.shown, (lesson.planned[going.index] ?? 0) * 1000)
}

/** How much later it is than planned; what is left of the step that is shown is still to come. Below zero it is early. */
export function lateBy({ lesson, going, begunAt: begun }: FloorState, now: number): Seconds {
  if (!lesson || !going || begun === null || going.index >= lesson.steps.length) return 0
  const before = lesson.planned.slice(0, going.index).reduce((a, b) => a + b, 0)
  const here = Math.min(lesson.planned[going.index] ?? 0, (now - going.shown) / 1000)
  return (now - begun) / 1000 - before - here
}

type Numbered = readonly [LessonStep, number]

/** Rungs that are neither the slowest nor the fastest of theirs. */
function betweenRungs(left: readonly Numbered[]): number[] {
  const rungs = left.filter(([s]) => s.kind === 'drill' && s.pass === 'all' && s.stretch)
  return rungs.flatMap(([s, i]) => {
    const speeds = rungs.flatMap(([o]) =>
      o.stretch && s.stretch && sameStretch(o.stretch, s.stretch) ? [o.speed] : [],
    )
    return s.speed > Math.min(...speeds) && s.speed < Math.max(...speeds) ? [i] : []
  })
}

const takenApart = ([s]: Numbered) => s.kind === 'drill' && s.pass !== 'all'
const again = ([s]: Numbered) =>
  /^(again|up slow|other|closing|review|preview|run back)\b/.test(s.made.what) ||
  s.kind === 'checkpoint' ||
  s.kind === 'rest'

/** What is taught last and not begun yet: all steps about it. */
function lastTaught(left: readonly Numbered[]): { steps: number[]; stretch: Stretch } | null {
  const explained = left.findLast(([s]) => s.kind === 'break down' && s.stretch)
  const [step] = explained ?? []
  const key = step?.made.about[0]
  if (!step?.stretch || key === undefined) return null
  const steps = left.flatMap(([s, i]) => {
    const about = s.kind === 'show' || s.kind === 'break down' || s.kind === 'drill' || s.kind === 'join'
    return about && s.made.about.includes(key) ? [i] : []
  })
  return { steps, stretch: step.stretch }
}

/** A step without what is not taught today, where it lies at one of its ends. */
function without(step: LessonStep, gone: Stretch): LessonStep {
  const { stretch } = step
  if (!stretch || !common(stretch, gone)) return step
  if (gone.to >= stretch.to && gone.from > stretch.from)
    return { ...step, stretch: { from: stretch.from, to: gone.from } }
  if (gone.from <= stretch.from && gone.to < stretch.to)
    return { ...step, stretch: { from: gone.to, to: stretch.to } }
  return step
}

/** A lesson with less left to do. */
export interface Shortened {
  lesson: FloorLesson
  /** What is left out, and what is not taught today. */
  gone: readonly LessonStep[]
  untaught: readonly Stretch[]
  seconds: Seconds
}

/**
 * Leaves out so much of the steps after the one that is shown that the lesson ends as planned, or as near as it goes: never what
 * is begun, the last run and the cool-down.
 * @param seconds by how much it is late
 */
export function leaveOut(lesson: FloorLesson, index: number, seconds: Seconds): Shortened {
  const gone = new Set<number>()
  const untaught: Stretch[] = []
  let spared = 0
  const left = (): Numbered[] =>
    lesson.steps.flatMap((s, i): Numbered[] => (i > index && !gone.has(i) && !s.own ? [[s, i]] : []))
  const take = (i: number) => {
    gone.add(i)
    spared += lesson.planned[i] ?? 0
  }
  const some = (list: readonly number[]) => {
    for (const i of [...list].sort((a, b) => (lesson.planned[b] ?? 0) - (lesson.planned[a] ?? 0)))
      if (spared < seconds) take(i)
  }
  some(betweenRungs(left()))
  some(left().flatMap((n) => (takenApart(n) ? [n[1]] : [])))
  some(left().flatMap((n) => (again(n) ? [n[1]] : [])))
  for (let last = lastTaught(left()); last && spared < seconds; last = lastTaught(left())) {
    for (const i of last.steps) take(i)
    untaught.push(last.stretch)
  }
  const kept = lesson.steps.flatMap((s, i) =>
    gone.has(i) ? [] : [[i > index ? untaught.reduce(without, s) : s, lesson.planned[i] ?? 0] as const],
  )
  return {
    lesson: {
      ...lesson,
      steps: kept.map(([s]) => s),
      planned: kept.map(([, p]) => p),
      whole: lesson.whole ?? { steps: lesson.steps, planned: lesson.planned },
    },
    gone: [...gone].sort((a, b) => a - b).map((i) => lesson.steps[i] as LessonStep),
    untaught,
    seconds: spared,
  }
}

/** The lesson as it was planned, and where the step is that is shown. */
export function putBack(lesson: FloorLesson, index: number): { lesson: FloorLesson; index: number } {
  const { whole, ...rest } = lesson
  if (!whole) return { lesson, index }
  const here = lesson.steps[index]
  const at = here ? whole.steps.findIndex((s) => stepKey(s) === stepKey(here)) : whole.steps.length
  return { lesson: { ...rest, ...whole }, index: at < 0 ? index : at }
}
