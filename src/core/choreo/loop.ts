import type { DancedCue } from '../routine'
import type { Stretch, Ticks } from '../time'
import { type BodyStep, joinNeeds } from './body'
import { isFooted, subSteps } from './effects'
import type { MoveBook } from './moves'

/** The state of the body at a place: the last step at or before it; null before the first. */
export function stepAt(steps: readonly BodyStep[], tick: Ticks): BodyStep | null {
  return steps.findLast((s) => s.at <= tick) ?? null
}

/**
 * What a dancer needs to dance a stretch again right after itself; empty where it loops as it is.
 * @param steps of the whole dance, by time
 */
export function loopNeeds(
  cues: readonly DancedCue[],
  steps: readonly BodyStep[],
  { from, to }: Stretch,
  book: MoveBook,
): string[] {
  const first = cues.find((c) => c.at >= from && c.at < to && isFooted(c))
  const end = stepAt(steps, to - 1)
  if (!first || !end) return []
  const begun = stepAt(steps, from - 1)?.facing ?? 0
  const sub = subSteps(first, book)[0]
  const foot = sub?.kind === 'weight' || sub?.kind === 'free' ? sub.foot : null
  return joinNeeds(end, {
    foot,
    facing: begun === 'unknown' ? (end.facing === 'unknown' ? 0 : end.facing) : begun,
  })
}
