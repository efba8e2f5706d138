import type { Cue, Layer } from '../routine'
import { type Ratio, type Seconds, type Stretch, type Times, timeOfTick } from '../time'
import { factsOf } from './effects'
import type { MoveBook } from './moves'

/** How fast some cues follow one another, at a speed. */
export interface Pace {
  actions: number
  /** Seconds between the starts of the two nearest actions; null with fewer than two. */
  leastGap: Seconds | null
  perSecond: number
  /** Where the least gap is: the two cues. */
  tightest: readonly [Cue, Cue] | null
}

/**
 * Pace of cues in one stretch. Holds and open counts are no actions; two actions at one time are one.
 * @param layer only this layer, or all together when null
 */
export function paceOf(
  cues: readonly Cue[],
  times: Times,
  span: Stretch,
  layer: Layer | null,
  speed: Ratio,
  book: MoveBook,
): Pace {
  let before: Cue | null = null
  let leastGap: Seconds | null = null
  let tightest: readonly [Cue, Cue] | null = null
  let actions = 0
  for (const c of cues) {
    if (c.at < span.from || c.at >= span.to || (layer && c.layer !== layer) || !factsOf(c, book).action)
      continue
    if (before && c.at === before.at) continue
    actions++
    if (before) {
      const gap = (timeOfTick(times, c.at) - timeOfTick(times, before.at)) / speed
      if (leastGap === null || gap < leastGap) {
        leastGap = gap
        tightest = [before, c]
      }
    }
    before = c
  }
  const seconds = (timeOfTick(times, span.to) - timeOfTick(times, span.from)) / speed
  return { actions, leastGap, perSecond: seconds > 0 ? actions / seconds : 0, tightest }
}

/**
 * The speed at which the least gap becomes what a learner needs: gap over wanted, down to 5 %, within 40 to 100 %.
 * @param gap least gap at full tempo, seconds
 */
export function firstSpeed(gap: Seconds, wanted: Seconds): Ratio {
  const steps = Math.floor((gap / wanted) * 20 + 1e-9)
  return Math.min(20, Math.max(8, steps)) / 20
}
