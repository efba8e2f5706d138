import type { Spot } from '../routine'
import type { Metres } from './ways'

/* How some dancers stand to each other, in the order they are chosen in: new places for the same dancers. */

/** What dancers are arranged to, as they say it. */
export const SHAPES = ['row', 'line', 'V', 'circle', 'windows', 'two rows'] as const
export type Shape = (typeof SHAPES)[number]

/** Between two who stand beside each other. Value from memory: arms half out. */
export const APART: Metres = 1.2

const middleOf = (spots: readonly Spot[]): Spot => ({
  x: spots.reduce((sum, s) => sum + s.x, 0) / spots.length,
  y: spots.reduce((sum, s) => sum + s.y, 0) / spots.length,
})

/** A row of so many, about its middle, from left to right. */
const rowOf = (n: number, y: Metres, apart = APART): Spot[] =>
  Array.from({ length: n }, (_, i) => ({ x: (i - (n - 1) / 2) * apart, y }))

/** A row of windows is no longer than this; more dancers stand in more rows. */
const ROW = 8

/** Rows one behind the other, those behind in the gaps of those in front. */
function windows(n: number): Spot[] {
  const out: Spot[] = []
  let before = 0
  let aside = 0
  for (let row = 0; out.length < n; row++) {
    const left = n - out.length
    // Two rows share their dancers; of more, every second one is shorter by one.
    const length = Math.min(left, n <= 2 * ROW ? (row ? left : Math.ceil(n / 2)) : ROW - (row % 2))
    // As many as in the row before stand in its gaps only when moved by half a gap.
    aside = row && length % 2 === before % 2 ? (aside === 0 ? APART / 2 : 0) : aside
    out.push(...rowOf(length, row * APART).map((s) => ({ ...s, x: s.x + aside })))
    before = length
  }
  return out
}

/** The point to the audience, then one to each side, further back each. */
const vee = (n: number): Spot[] =>
  Array.from({ length: n }, (_, i) => {
    const rank = Math.ceil(i / 2)
    return { x: (i % 2 ? -1 : 1) * rank * APART * 0.8, y: rank * APART * 0.8 }
  })

function circle(n: number): Spot[] {
  const radius = n < 2 ? 0 : Math.max(APART, APART / (2 * Math.sin(Math.PI / n)))
  return Array.from({ length: n }, (_, i) => {
    const angle = (2 * Math.PI * i) / n
    return { x: radius * Math.sin(angle), y: -radius * Math.cos(angle) }
  })
}

const MADE: Record<Shape, (n: number) => Spot[]> = {
  row: (n) => rowOf(n, 0),
  line: (n) => rowOf(n, 0).map(({ x }) => ({ x: 0, y: x })),
  V: vee,
  circle,
  windows,
  'two rows': (n) => [...rowOf(Math.ceil(n / 2), 0), ...rowOf(n - Math.ceil(n / 2), APART)],
}

/** The same dancers in a shape, about the middle of where they stand. */
export function arranged(spots: readonly Spot[], shape: Shape): Spot[] {
  if (!spots.length) return []
  const middle = middleOf(spots)
  const made = MADE[shape](spots.length)
  const own = middleOf(made)
  return made.map((s) => ({ x: s.x - own.x + middle.x, y: s.y - own.y + middle.y }))
}

/**
 * Places given out so that all together go least: two change places as long as that is shorter. Then no two straight ways cross (where
 * two cross, the two that change are shorter: the triangle inequality).
 * @param from where each stands now
 */
export function nearestSpots(from: readonly Spot[], to: readonly Spot[]): Spot[] {
  const out = [...to]
  const far = (i: number, spot: Spot) =>
    Math.hypot((from[i] as Spot).x - spot.x, (from[i] as Spot).y - spot.y)
  for (let better = true; better; ) {
    better = false
    for (let i = 0; i < out.length; i++)
      for (let j = i + 1; j < out.length; j++) {
        const [a, b] = [out[i] as Spot, out[j] as Spot]
        if (far(i, b) + far(j, a) < far(i, a) + far(j, b) - 1e-9) {
          out[i] = b
          out[j] = a
          better = true
        }
      }
  }
  return out
}

/** On the other side of the middle of the room. */
export const mirroredSpots = (spots: readonly Spot[]): Spot[] => spots.map((s) => ({ ...s, x: -s.x }))

/** Turned about their middle, clockwise as seen from above with the audience on top. */
export function turnedSpots(spots: readonly Spot[], eighths: number): Spot[] {
  const middle = middleOf(spots)
  const [sin, cos] = [Math.sin((eighths * Math.PI) / 4), Math.cos((eighths * Math.PI) / 4)]
  return spots.map(({ x, y }) => {
    const [a, b] = [x - middle.x, y - middle.y]
    return { x: middle.x + a * cos - b * sin, y: middle.y + a * sin + b * cos }
  })
}

/** Further apart, or nearer, about their middle. */
export function spreadSpots(spots: readonly Spot[], by: number): Spot[] {
  const middle = middleOf(spots)
  return spots.map(({ x, y }) => ({
    x: middle.x + (x - middle.x) * by,
    y: middle.y + (y - middle.y) * by,
  }))
}

/** Each stands where the next one did; of two, they change places. */
export const exchangedSpots = (spots: readonly Spot[]): Spot[] =>
  spots.map((_, i) => spots[(i + 1) % spots.length] as Spot)

export const movedSpots = (spots: readonly Spot[], by: Spot): Spot[] =>
  spots.map(({ x, y }) => ({ x: x + by.x, y: y + by.y }))

/** To the nearest half metre across and along: the marks of the front edge. */
export const snapped = ({ x, y }: Spot): Spot => ({ x: Math.round(2 * x) / 2, y: Math.round(2 * y) / 2 })

/** A row near the front, for dancers who stand nowhere yet. */
export const firstRow = (n: number): Spot[] => rowOf(n, 2)
