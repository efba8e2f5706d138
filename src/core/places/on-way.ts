import type { Spot } from '../routine'
import { countWhile, type Ticks } from '../time'
import type { Metres } from './ways'

/* A way from one formation to the next: its shape, its length, and where on it somebody is. */

/** A dancer's way to a formation: they leave, and are there. Ticks; a place on the way is the share of the time that has gone. */
export interface Travel {
  dancer: string
  formation: string
  from: Spot
  to: Spot
  through: Spot | null
  leaves: Ticks
  arrives: Ticks
  facing: number | null
}

/** The share of a way that has gone at a moment. */
const gone = ({ leaves, arrives }: Travel, tick: number) =>
  arrives > leaves ? Math.min(1, Math.max(0, (tick - leaves) / (arrives - leaves))) : tick < arrives ? 0 : 1

/** A place on a way: straight, or along the curve that passes through its bend half-way. @param share 0 to 1 */
export function onWay({ from, to, through }: Pick<Travel, 'from' | 'to' | 'through'>, share: number): Spot {
  if (!through) return { x: from.x + (to.x - from.x) * share, y: from.y + (to.y - from.y) * share }
  const bend = (a: number, m: number, b: number) => {
    const control = 2 * m - (a + b) / 2
    const left = 1 - share
    return left * left * a + 2 * left * share * control + share * share * b
  }
  return { x: bend(from.x, through.x, to.x), y: bend(from.y, through.y, to.y) }
}

const PIECES = 24

/** How long a way is. */
export function lengthOf(way: Pick<Travel, 'from' | 'to' | 'through'>): Metres {
  if (!way.through) return Math.sqrt((way.to.x - way.from.x) ** 2 + (way.to.y - way.from.y) ** 2)
  let length = 0
  let before = way.from
  for (let i = 1; i <= PIECES; i++) {
    const next = onWay(way, i / PIECES)
    length += Math.hypot(next.x - before.x, next.y - before.y)
    before = next
  }
  return length
}

/** The way a dancer is on, or came by last, at a moment. */
export function wayAt(ways: readonly Travel[], tick: number): Travel | null {
  return ways[countWhile(ways, (w) => w.leaves <= tick) - 1] ?? null
}

/** Where on a way a dancer is at a moment: at its beginning before it, at its end after it. */
export const spotOn = (way: Travel, tick: number): Spot => onWay(way, gone(way, tick))
