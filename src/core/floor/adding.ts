import { borderOfEnd, type PlacedPhrase, phraseAt, pieceOf } from '../routine'
import { type Stretch, TICKS_PER_COUNT, type Ticks } from '../time'

/** How much is taken in at once: counts, or the rest of the phrase. */
export const ADDED = ['2', '4', '8', 'phrase'] as const
export type Added = (typeof ADDED)[number]

/** What is danced when more was taken in: all from the top, the last two pieces, or their join alone. */
export const ADD_WAYS = ['top', 'last two', 'join'] as const
export type AddWay = (typeof ADD_WAYS)[number]

/** A dance that is added up, by its pieces as they are danced, in order; never none. */
export interface Adding {
  pieces: readonly Stretch[]
}

/** Counts on either side of a join. */
const JOIN: Ticks = 2 * TICKS_PER_COUNT

/** The first piece of what is drilled. */
export const addingFrom = (stretch: Stretch): Adding => ({ pieces: [stretch] })

/** The next piece, with the pick-up it begins with; null where nothing is left of the dance. */
export function nextPiece(
  { pieces }: Adding,
  size: Added,
  dance: Stretch,
  placed: readonly PlacedPhrase[],
): Stretch | null {
  const last = pieces.at(-1)?.to ?? dance.from
  // Counted on from the border, where the last one ended before or after it.
  const border = borderOfEnd(placed, last)
  const counted =
    size === 'phrase' ? (phraseAt(placed, border)?.end ?? dance.to) : border + Number(size) * TICKS_PER_COUNT
  const { from, to } = pieceOf(placed, { from: border, to: Math.max(counted, border + 1) })
  const end = counted >= dance.to ? dance.to : Math.min(dance.to, to)
  return end > last ? { from: Math.max(dance.from, from), to: end } : null
}

/** With one piece more. */
export const taken = ({ pieces }: Adding, piece: Stretch): Adding => ({ pieces: [...pieces, piece] })

/** Without the last piece; the first one stays. */
export const fallenBack = (adding: Adding): Adding =>
  adding.pieces.length > 1 ? { pieces: adding.pieces.slice(0, -1) } : adding

/** What is danced of it. */
export function stretchOf({ pieces }: Adding, way: AddWay): Stretch {
  const [first, last, before] = [pieces[0], pieces.at(-1), pieces.at(-2)] as [Stretch, Stretch, ...Stretch[]]
  if (way === 'top' || before === undefined) return { from: first.from, to: last.to }
  if (way === 'last two') return { from: before.from, to: last.to }
  return { from: Math.max(first.from, before.to - JOIN), to: Math.min(last.to, before.to + JOIN) }
}
