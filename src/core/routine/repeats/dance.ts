import { common, type Stretch, TICKS_PER_COUNT } from '../../time'
import { placePhrases, wholeOf } from '../counts/layout'
import { type PieceRow, pieceRows } from '../counts/pieces'
import type { Routine } from '../document/schema'
import { danced } from './repeats'

/** A first cue this near to the end of its phrase leads into the next: the dance begins with it, not with its phrase. */
const LEAD = 4 * TICKS_PER_COUNT

/** What of a routine says where its dance begins and ends. */
export type Dance = Pick<
  Routine,
  'excerpt' | 'phrases' | 'cues' | 'repeats' | 'usual' | 'sections' | 'borders' | 'usualBorder'
>

/**
 * Where the dance begins and ends: as it was set; else the phrases that have cues; before there are any, all that is
 * counted.
 */
export function danceOf(routine: Dance): Stretch {
  let found = known.get(routine)
  if (!found) {
    found = workedOut(routine)
    known.set(routine, found)
  }
  return found
}

/** A document never changes: what it dances is worked out once. */
const known = new WeakMap<object, Stretch>()

function workedOut(routine: Dance): Stretch {
  const whole = wholeOf(routine) ?? { from: 0, to: TICKS_PER_COUNT }
  if (routine.excerpt) return routine.excerpt
  const cues = danced(routine)
  const [first, last] = [cues[0], cues.at(-1)]
  if (!first || !last) return whole
  let { from, to } = whole
  for (const { start, end, resolve } of placePhrases(routine)) {
    if (first.at >= start && first.at < end) {
      const leads = end - first.at <= LEAD && last.at >= end
      from = leads ? Math.floor(first.at / TICKS_PER_COUNT) * TICKS_PER_COUNT : start
    }
    // The last cue may be the 1 that what came before lands on.
    if (last.at >= start && last.at < end) to = last.at < start + resolve ? start + resolve : end
  }
  return { from, to }
}

/** The phrases of the dance, each with its piece. */
export const danceRows = (routine: Dance): PieceRow[] => pieceRows(placePhrases(routine), danceOf(routine))

/** A stretch with the counts before it that lead in, as far as they lie in the dance; it begins on a count then. */
export function withRunUp(routine: Dance, stretch: Stretch, runUp: number): Stretch {
  if (runUp <= 0) return stretch
  const dance = danceOf(routine)
  const earliest = common(stretch, dance) ? Math.min(stretch.from, dance.from) : stretch.from
  const from = Math.floor(stretch.from / TICKS_PER_COUNT - runUp) * TICKS_PER_COUNT
  return { from: Math.max(earliest, from), to: stretch.to }
}
