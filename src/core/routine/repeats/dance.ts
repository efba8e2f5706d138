import { type Stretch, TICKS_PER_COUNT } from '../../time'
import { wholeOf } from '../counts/layout'
import type { Routine } from '../document/schema'
import { danced } from './repeats'

/** A first cue this near to the end of its phrase leads into the next: the dance begins with it, not with its phrase. */
const LEAD = 4 * TICKS_PER_COUNT

/**
 * Where the dance begins and ends: as it was set; else the phrases that have cues; before there are any, all that is
 * counted.
 */
export function danceOf(routine: Pick<Routine, 'excerpt' | 'phrases' | 'cues' | 'repeats'>): Stretch {
  let found = known.get(routine)
  if (!found) {
    found = workedOut(routine)
    known.set(routine, found)
  }
  return found
}

/** A document never changes: what it dances is worked out once. */
const known = new WeakMap<object, Stretch>()

function workedOut(routine: Pick<Routine, 'excerpt' | 'phrases' | 'cues' | 'repeats'>): Stretch {
  const whole = wholeOf(routine) ?? { from: 0, to: TICKS_PER_COUNT }
  if (routine.excerpt) return routine.excerpt
  const cues = danced(routine)
  const [first, last] = [cues[0], cues.at(-1)]
  if (!first || !last) return whole
  let [from, to, start] = [whole.from, whole.to, 0]
  for (const p of routine.phrases) {
    const end = start + p.length * TICKS_PER_COUNT
    if (first.at >= start && first.at < end) {
      const leads = end - first.at <= LEAD && last.at >= end
      from = leads ? Math.floor(first.at / TICKS_PER_COUNT) * TICKS_PER_COUNT : start
    }
    if (last.at >= start && last.at < end) to = end
    start = end
  }
  return { from, to }
}
