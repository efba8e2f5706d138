import { common, contains, type Stretch, type Ticks } from '../../time'
import { type PlacedPhrase, phraseAt } from './layout'

/*
 * A phrase is where the music counts, a piece is where the dance breathes. They differ at the borders: a lean (the 8& before a
 * border) belongs to what follows, and a resolve (the 1 after it) still belongs to what came before. Pieces meet where there is
 * a lean; where there is a resolve they overlap by it, and it is danced in both.
 */

type Placed = Pick<PlacedPhrase, 'start' | 'end' | 'lean' | 'resolve'>

/** The phrase that begins exactly there; null for none. */
const beginningAt = <T extends Placed>(placed: readonly T[], tick: Ticks): T | null => {
  const p = phraseAt(placed, tick)
  return p?.start === tick ? p : null
}

/** Where the piece before the border of a phrase ends. */
const endBefore = ({ start, lean, resolve }: Placed): Ticks => (resolve > 0 ? start + resolve : start - lean)

/** The stretch widened and narrowed at its ends, which may leave nothing of it. */
function breathing(placed: readonly Placed[], { from, to }: Stretch): Stretch {
  const [begin, after] = [beginningAt(placed, from), beginningAt(placed, to)]
  return { from: begin ? from - begin.lean : from, to: after ? endBefore(after) : to }
}

/**
 * What is danced where a stretch of whole phrases, or a part of one, is meant: widened and narrowed at those of its two ends that
 * are borders of phrases. A stretch of which nothing would be left stays as it is.
 * @param placed all phrases of the page
 */
export function pieceOf(placed: readonly Placed[], stretch: Stretch): Stretch {
  const piece = breathing(placed, stretch)
  return piece.to > piece.from ? piece : stretch
}

/**
 * What is danced where some phrases are meant, as far as it lies in what is danced at all. Where that begins or ends at a border,
 * so does the piece.
 * @returns null where none of it does
 */
export function pieceWithin(placed: readonly Placed[], phrases: Stretch, within: Stretch): Stretch | null {
  if (!common(phrases, within)) return null
  const piece = breathing(placed, phrases)
  const to = phrases.to >= within.to ? within.to : piece.to
  return to > piece.from ? common({ from: piece.from, to }, within) : null
}

/** A phrase with what of it is danced as one piece. */
export interface PieceRow {
  placed: PlacedPhrase
  /** Its own counts as far as they are danced. */
  core: Stretch
  /** What is danced: with its pick-up and the 1 it lands on, without what belongs to others. */
  row: Stretch
}

/** The phrases of what is danced, each with its piece; what is all danced with the phrase before is none. */
export function pieceRows(placed: readonly PlacedPhrase[], within: Stretch): PieceRow[] {
  const out: PieceRow[] = []
  for (const p of placed) {
    const phrase = { from: p.start, to: p.end }
    const core = common(phrase, within)
    const row = pieceWithin(placed, phrase, within)
    const before = out.at(-1)?.row
    if (core && row && !(before && contains(before, row))) out.push({ placed: p, core, row })
  }
  return out
}

/** True where a stretch holds some of a phrase that belongs to no other. */
export function isMeant(placed: readonly PlacedPhrase[], p: PlacedPhrase, stretch: Stretch): boolean {
  const own = { from: p.start + p.resolve, to: p.end - (placed[p.index + 1]?.lean ?? 0) }
  return common(own.to > own.from ? own : { from: p.start, to: p.end }, stretch) !== null
}

/** The border a piece ends at by its lean or resolve; the end itself where it ends at none. */
export function borderOfEnd(placed: readonly Placed[], to: Ticks): Ticks {
  if (beginningAt(placed, to)) return to
  const at = phraseAt(placed, to)
  const near = at ? [at, placed[placed.indexOf(at) + 1]] : []
  return near.find((p) => p && endBefore(p) === to)?.start ?? to
}

/** The border a piece begins at by its lean; the beginning itself where it begins at none. */
export function borderOfBeginning(placed: readonly Placed[], from: Ticks): Ticks {
  if (beginningAt(placed, from)) return from
  const at = phraseAt(placed, from)
  const next = at && placed[placed.indexOf(at) + 1]
  return next && next.lean > 0 && next.start - next.lean === from ? next.start : from
}
