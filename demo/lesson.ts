/* A lesson plan for the demo routine, and two evenings on which it was drilled. */
import { moveBook, STARTING_MOVES } from '../src/core/choreo'
import { layLesson } from '../src/core/lesson'
import { type LessonPlan, placeName, placePhrases, type Routine, USUAL } from '../src/core/routine'
import type { NewRepetition } from '../src/server/routines'

/** An hour and a half for beginners, both parts. */
export function demoPlan(routine: Routine, beats: readonly number[]): LessonPlan {
  const settings = { ...USUAL, minutes: 60 }
  const { steps } = layLesson(routine, beats, moveBook(STARTING_MOVES), settings, () => 0)
  return { id: 'demo-plan', name: 'Thursday, one hour', settings, steps, gone: [] }
}

const DAY = 24 * 3600 * 1000

/** Phrase of the dance (0 is the first whole one), speed, and how each repetition went. */
type Drilled = readonly [number, number, string]

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
      [3, 0.6, 'ssc'],
      [3, 0.7, 'scc'],
      [4, 0.6, 'scc'],
      [4, 0.75, 'cc'],
    ],
  },
]

const MARKS = { c: 'clean', s: 'shaky', m: 'missed' } as const

/** Rows of the log of two past evenings. */
export function demoLog(routine: Routine, now: number): (NewRepetition & { doneAt: Date })[] {
  const start = routine.excerpt?.start ?? 0
  const placed = placePhrases(routine).filter((p) => p.start >= start)
  return EVENINGS.flatMap(({ daysAgo, drilled }) => {
    let at = now - daysAgo * DAY
    return drilled.flatMap(([i, speed, marks]) => {
      const p = placed[i]
      if (!p) return []
      return [...marks].map((m) => {
        const seconds = Math.round((4.44 / speed) * 10) / 10
        at += (seconds + 6) * 1000
        return {
          kind: 'drill' as const,
          firstPhrase: p.phrase.id,
          lastPhrase: p.phrase.id,
          label: placeName(p),
          speed,
          sound: 'both' as const,
          seconds,
          mark: MARKS[m as keyof typeof MARKS],
          corrects: null,
          doneAt: new Date(at),
        }
      })
    })
  })
}
