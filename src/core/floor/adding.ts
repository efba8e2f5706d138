import { type PlacedPhrase, phraseAt } from '../routine'
import { type Stretch, TICKS_PER_COUNT, type Ticks } from '../time'

/** How much is taken in at once: counts, or the rest of the phrase. */
export const ADDED = ['2', '4', '8', 'phrase'] as const
export type Added = (typeof ADDED)[number]

/** What is danced when more was taken in: all from the top, the last two pieces, or their join alone. */
export const ADD_WAYS = ['top', 'last two', 'join'] as const
export type AddWay = (typeof ADD_WAYS)[number]

/** A dance that is added up: where it began, and where each piece so far ends. */
export interface Adding {
  top: Ticks
  ends: readonly Ticks[]
}

/** Counts on either side of a join. */
const JOIN: Ticks = 2 * TICKS_PER_COUNT

/** The first piece of what is drilled. */
export const addingFrom = ({ from, to }: Stretch): Adding => ({ top: from, ends: [to] })

/** Where the next piece ends; null where nothing is left of the dance. */
export function nextEnd(
  { ends }: Adding,
  size: Added,
  dance: Stretch,
  placed: readonly PlacedPhrase[],
): Ticks | null {
  const last = ends.at(-1) ?? dance.from
  if (last >= dance.to) return null
  const phrase = phraseAt(placed, last)
  const to = size === 'phrase' ? (phrase?.end ?? dance.to) : last + Number(size) * TICKS_PER_COUNT
  return Math.min(dance.to, Math.max(to, last + 1))
}

/** With one piece more. */
export const taken = (adding: Adding, to: Ticks): Adding => ({ ...adding, ends: [...adding.ends, to] })

/** Without the last piece; the first one stays. */
export const fallenBack = (adding: Adding): Adding =>
  adding.ends.length > 1 ? { ...adding, ends: adding.ends.slice(0, -1) } : adding

/** What is danced of it. */
export function stretchOf({ top, ends }: Adding, way: AddWay): Stretch {
  const [last = top + 1, before, earlier] = [...ends].reverse()
  if (way === 'top' || before === undefined) return { from: top, to: last }
  if (way === 'last two') return { from: earlier ?? top, to: last }
  return { from: Math.max(top, before - JOIN), to: Math.min(last, before + JOIN) }
}
