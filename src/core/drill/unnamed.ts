import { danced, type Routine, type VoicePiece } from '../routine'
import { type Stretch, snapTick, TICKS_PER_COUNT, type Ticks } from '../time'
import { meant } from './own-calls'

/** Something that was said in one's own voice where no move stands yet. */
export interface Unnamed {
  /** A named place between counts. */
  at: Ticks
  /** Up to what is said or danced next, no longer than four counts. */
  length: Ticks
  /** Which recording, and which piece of it. */
  voice: string
  piece: VoicePiece
}

/** A cue this near to what was said is what was said. */
const NEAR: Ticks = 6
/** A move that was said lasts no longer than this until somebody says so. */
const LONGEST: Ticks = 4 * TICKS_PER_COUNT

/**
 * What was said and has no move yet, in order: what one names when the dance was spoken once.
 * @param within only what was said there; null for all
 */
export function unnamed(
  routine: Pick<Routine, 'voices' | 'cues' | 'repeats'>,
  within: Stretch | null = null,
): Unnamed[] {
  const cues = danced(routine)
  const places = routine.voices
    .flatMap(({ id, pieces, exact }) =>
      pieces.map((piece) => ({ voice: id, piece, at: snapTick(exact ? piece.at : meant(piece.at)) })),
    )
    .sort((a, b) => a.at - b.at)
  const all = [...places.map((p) => p.at), ...cues.map((c) => c.at)]
  const once = places.filter((p, i) => p.at !== places[i - 1]?.at)
  return once.flatMap((p): Unnamed[] => {
    const outside = within !== null && (p.at < within.from || p.at >= within.to)
    if (outside || cues.some((c) => Math.abs(c.at - p.at) < NEAR)) return []
    const next = Math.min(...all.filter((at) => at > p.at), p.at + LONGEST)
    return [{ ...p, length: next - p.at }]
  })
}
