import { calledVoices, type DancedCue, danced, type PlacedPhrase, type Routine } from '../routine'
import { TICKS_PER_COUNT, type Ticks } from '../time'

/** A border of a phrase over which something is danced or called that nobody said belongs to what follows. */
export interface Leaning {
  /** Where the phrase begins that it belongs to. */
  at: Ticks
  /** How long before it begins. */
  lean: Ticks
  /** The move that begins there; '' for what is called. */
  move: string
}

/** What begins no further before a border than this may belong to what follows: the last count. */
const NEAR: Ticks = TICKS_PER_COUNT

/**
 * Borders where a move begins within the last count before them, off the beat, and lasts over them; or where a recording of calls
 * begins there. Those of which it is said already are left out.
 * @param placed all phrases of the page, in order
 */
export function leanings(
  routine: Pick<Routine, 'cues' | 'repeats' | 'voices'>,
  placed: readonly PlacedPhrase[],
): Leaning[] {
  const cues = danced(routine).filter((c) => c.at % TICKS_PER_COUNT !== 0)
  const called = calledVoices(routine)
  return placed.flatMap((p): Leaning[] => {
    if (p.index === 0 || p.resolve > 0) return []
    const leads = (at: Ticks, to: Ticks) => at >= p.start - NEAR && at < p.start && to > p.start
    const first = cues.reduce<DancedCue | null>(
      (found, c) => (leads(c.at, c.at + c.length) && (!found || c.at < found.at) ? c : found),
      null,
    )
    const voice = called.find(({ stretch: { from, to } }) => from > p.start - NEAR && leads(from, to))
    const at = Math.min(first?.at ?? p.start, voice?.stretch.from ?? p.start)
    if (p.start - at <= p.lean) return []
    return [{ at: p.start, lean: p.start - at, move: first?.at === at ? first.move : '' }]
  })
}
