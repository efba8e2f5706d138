import { nanoid } from 'nanoid'
import { type DrillPlan, stretchOfPhrases } from '@/core/drill'
import type { FloorLesson } from '@/core/floor'
import { secondsOf } from '@/core/lesson'
import { danceOf, PASSES, type Routine } from '@/core/routine'
import { clampSpeed, type Stretch, TICKS_PER_COUNT } from '@/core/time'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'

/** What a first drill is about: the counts of the address, what is marked, or the first phrase of the dance. */
export function proposedStretch(page: Page, routine: Routine, query: URLSearchParams): Stretch {
  const [from, to] = [query.get('from'), query.get('to')].map(Number)
  if (
    query.has('from') &&
    Number.isInteger(from) &&
    Number.isInteger(to) &&
    (to as number) > (from as number)
  )
    return { from: from as number, to: to as number }
  const { marked } = useCursor.getState()
  if (marked) return { from: marked.from, to: marked.to }
  const dance = danceOf(routine)
  const opening = page.placed.findIndex((p) => p.end > dance.from)
  const first = page.placed[Math.max(0, opening)]
  if (!first) return dance
  // A pick-up alone is no drill: the phrase it leads into comes with it.
  const short = first.end - dance.from < 4 * TICKS_PER_COUNT
  return stretchOfPhrases(routine, page.placed, first, (short && page.placed[first.index + 1]) || first)
}

/** Where the address points, or a first proposal at 75 %. */
export function proposed(page: Page, routine: Routine, query: URLSearchParams): DrillPlan {
  const speed = Number(query.get('speed'))
  return {
    kind: 'drill',
    stretch: proposedStretch(page, routine, query),
    speed: clampSpeed(Number.isFinite(speed) && speed > 0 ? speed : 0.75),
    sound: 'both',
    countIn: 4,
    countInEach: false,
    pass: PASSES.find((p) => p === query.get('pass')) ?? 'all',
  }
}

/** The lesson of the address, as the floor runs it. */
export function lessonOf(page: Page, routine: Routine, id: string | null): FloorLesson | null {
  const plan = routine.plans.find((p) => p.id === id)
  if (!plan) return null
  const { settings, steps, name } = plan
  return {
    evening: nanoid(12),
    name,
    steps,
    planned: steps.map((s) => secondsOf(s, { routine, times: page.times, settings })),
    countIn: settings.countIn,
    group: plan.group,
    heads: plan.heads,
  }
}
