/* A lesson plan for the demo routine, and two evenings on which it was drilled. */
import { moveBook, STARTING_MOVES } from '../src/core/choreo'
import { layLesson, secondsOf, spanOf, weekly } from '../src/core/lesson'
import {
  type Course,
  type Learner,
  type LessonPlan,
  type PlacedPhrase,
  placeName,
  placePhrases,
  type Routine,
  stretchName,
  USUAL,
} from '../src/core/routine'
import { type Seconds, TICKS_PER_COUNT, timeOfTick } from '../src/core/time'
import type { NewLessonStep } from '../src/server/lessons'
import type { NewRepetition } from '../src/server/routines'
import type { NewTiming } from '../src/server/timings'

/** The class it is for. */
const GROUP = 'Thursday beginners'

/** An hour and a half for beginners, both parts. */
export function demoPlan(routine: Routine, beats: readonly number[]): LessonPlan {
  const settings = { ...USUAL, minutes: 60 }
  const { steps } = layLesson(routine, beats, moveBook(STARTING_MOVES), settings, () => 0)
  return {
    id: 'demo-plan',
    name: 'Thursday, one hour',
    settings,
    steps,
    group: GROUP,
    goesOn: null,
    heads: null,
    gone: [],
  }
}

const DAY = 24 * 3600 * 1000

/** Four more Thursdays for the class, from the next one on. */
export function demoCourse(now: number): Course {
  const today = new Date(now)
  const ahead = (4 - today.getUTCDay() + 6) % 7
  const first = new Date(now + (ahead + 1) * DAY).toISOString().slice(0, 10)
  return { id: 'demo-course', group: GROUP, dates: weekly(`${first}T18:30`, 4), minutes: 60, standsBy: null }
}

/** Phrase of the dance (0 is the first whole one), speed, how each repetition went, and what was danced. */
type Drilled = readonly [number, number, string, ('feet' | 'arms')?]

const EVENINGS: readonly { daysAgo: number; drilled: readonly Drilled[] }[] = [
  {
    daysAgo: 7,
    drilled: [
      [0, 0.6, 'scc'],
      [0, 0.75, 'scc'],
      [0, 1, 'msc'],
      [1, 0.6, 'msscc'],
      [1, 0.75, 'sms'],
    ],
  },
  {
    daysAgo: 2,
    drilled: [
      [0, 1, 'cc'],
      [1, 0.75, 'scc'],
      [1, 0.85, 'cc'],
      [3, 0.6, 'scc', 'feet'],
      [3, 0.6, 'ssc'],
      [3, 0.7, 'scc'],
      [4, 0.6, 'scc'],
      [4, 0.75, 'cc'],
    ],
  },
]

const MARKS = { c: 'clean', s: 'shaky', m: 'missed' } as const

const songTimes = (p: PlacedPhrase, beats: readonly Seconds[]) => {
  const time = (tick: number) => Math.round(timeOfTick(beats, tick) * 1000) / 1000
  return { from: time(p.start), to: time(p.end) }
}

/** Rows of the log of two past evenings. */
export function demoLog(routine: Routine, beats: readonly Seconds[], now: number): NewRepetition[] {
  const start = routine.excerpt?.from ?? 0
  const placed = placePhrases(routine).filter((p) => p.start >= start)
  return EVENINGS.flatMap(({ daysAgo, drilled }) => {
    let at = now - daysAgo * DAY
    return drilled.flatMap(([i, speed, marks, pass], n) => {
      const p = placed[i]
      if (!p) return []
      return [...marks].map((m, k) => {
        const seconds = Math.round((4.44 / speed) * 10) / 10
        at += (seconds + 6) * 1000
        return {
          id: `demo-rep-${daysAgo}-${n}-${k}`,
          doneAt: Math.round(at),
          kind: 'drill' as const,
          ...songTimes(p, beats),
          label: placeName(p),
          pass: pass ?? ('all' as const),
          speed,
          sound: 'both' as const,
          seconds,
          mark: MARKS[m as keyof typeof MARKS],
          looped: k > 0,
          slips: [],
          corrects: null,
          group: GROUP,
        }
      })
    })
  })
}

/** How much longer than planned the steps of each kind took, and which steps of the plan were held. */
const HELD = [
  {
    daysAgo: 7,
    from: 0,
    to: 14,
    talk: 1.35,
    rest: 1.1,
    note: 'Floor slippery at the back: rosin next time.',
  },
  { daysAgo: 2, from: 0, to: 22, talk: 1.15, rest: 1, note: 'Arms before feet worked better in the chorus.' },
] as const

/** The same two evenings as lessons: step by step, what was planned and what it took. */
export function demoLessons(
  plan: LessonPlan,
  routine: Routine,
  beats: readonly number[],
  now: number,
): NewLessonStep[] {
  const placed = placePhrases(routine)
  const round = (x: number) => Math.round(x * 10) / 10
  return HELD.flatMap(({ daysAgo, from, to, talk, rest, note }, evening) => {
    let at = now - daysAgo * DAY
    const shared = { lesson: `demo-${evening}`, plan: plan.name, group: GROUP }
    const steps = plan.steps.slice(from, to).map((step, k) => {
      const planned = secondsOf(step, { routine, times: beats, settings: plan.settings })
      const seconds = round(planned * (step.kind === 'break down' ? talk : rest))
      const span = spanOf(step, routine)
      const kind = `${step.kind[0]?.toUpperCase()}${step.kind.slice(1)}`
      at += seconds * 1000
      return {
        ...shared,
        id: `demo-step-${evening}-${k}`,
        doneAt: Math.round(at),
        kind: step.kind,
        label: step.stretch ? `${kind}: ${stretchName(placed, step.stretch)}` : kind,
        eights: span ? (span.to - span.from) / 192 : 0,
        repetitions: step.repetitions,
        planned: round(planned),
        seconds,
        danced: step.repetitions ? round(Math.max(0, planned - step.talk - 3 * step.repetitions)) : 0,
        note: '',
      }
    })
    const nothing = { label: '', eights: 0, repetitions: 0, planned: 0, seconds: 0, danced: 0 }
    const written = { id: `demo-note-${evening}`, doneAt: Math.round(at) + 60_000 }
    return [...steps, { ...shared, ...written, kind: 'note', ...nothing, note }]
  })
}

/** Phrase of the dance, speed, how it was told, moves matched, mean and spread in milliseconds, and the worst count. */
const TIMED: readonly (readonly [
  number,
  number,
  number,
  'tap' | 'clap',
  number,
  number,
  number,
  string,
  number,
])[] = [
  [7, 0, 0.75, 'tap', 48, 41.3, 38.2, '4&', 92.4],
  [7, 1, 0.75, 'tap', 36, -22.6, 31.5, '7', -48.8],
  [2, 0, 0.75, 'tap', 64, 18.9, 27.4, '4&', 55.1],
  [2, 0, 0.9, 'clap', 40, 11.2, 24.9, '', 0],
  [2, 1, 0.75, 'tap', 48, -9.5, 26.3, '', 0],
]

/** Goes at the timing trainer on the same evenings. */
export function demoTimings(routine: Routine, beats: readonly Seconds[], now: number): NewTiming[] {
  const start = routine.excerpt?.from ?? 0
  const placed = placePhrases(routine).filter((p) => p.start >= start)
  return TIMED.flatMap(([daysAgo, i, speed, by, n, mean, spread, worst, worstMs], k) => {
    const p = placed[i]
    if (!p) return []
    const doneAt = now - daysAgo * DAY + (40 + 2 * k) * 60_000
    const what = { id: `demo-timing-${k}`, doneAt, ...songTimes(p, beats), label: placeName(p) }
    return [{ ...what, speed, by, n, mean, spread, worst, worstMs }]
  })
}

/** What two learners sent back from their practice pages: the turn at the end of the chorus does not sit yet. */
export function demoLearners(routine: Routine, now: number): Learner[] {
  const named = (title: string) => placePhrases(routine).filter((p) => p.title === title && !p.phrase.pickUp)
  const [first, second] = named('Chorus')
  const verse = named('Verse, 2nd')[0]
  if (!first || !second || !verse) return []
  const at = new Date(now - 26 * 3600e3).toISOString()
  const mark = (from: number, to: number, sits: boolean) => ({ stretch: { from, to }, sits, at })
  const end = { from: second.end - 4 * TICKS_PER_COUNT, to: second.end }
  return [
    {
      ...{ id: 'learner-1', name: 'Ilka', made: at },
      marks: [mark(first.start, first.end, true), mark(end.from, end.to, false)],
    },
    {
      ...{ id: 'learner-2', name: 'Bo', made: at },
      marks: [
        mark(first.start, first.end, true),
        mark(end.from, end.to, false),
        mark(verse.start, verse.end, false),
      ],
    },
  ]
}
