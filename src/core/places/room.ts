import type { Repeat, Space, Spot } from '../routine'
import type { Stretch } from '../time'
import { type Path, type PathPoint, pathAt } from './path'
import type { Metres } from './ways'

/* How much room a path takes, where to begin in it, and where it leaves the room or the camera's picture. */

/** What arms and legs need around the middle of a dancer. Value from memory. */
export const REACH: Metres = 0.5
/** A wall or an edge of the picture is not missed by less: lengths of steps are known no better. */
const SLACK: Metres = 0.05

/** From least to most, in metres. */
export interface Bounds {
  left: Metres
  right: Metres
  front: Metres
  back: Metres
}

/** Where a path is from one place to another, its beginning there included. @param of all of it where nothing is said */
export function boundsOf(path: Path, of: Stretch | null = null): Bounds & { uncertain: boolean } {
  const inside = of ? path.points.filter((p) => p.at >= of.from && p.at < of.to) : path.points
  const first = of ? pathAt(path, of.from - 1) : { x: 0, y: 0, uncertain: false }
  const all: readonly (Spot & { uncertain: boolean })[] = [first, ...inside]
  const xs = all.map((p) => p.x)
  const ys = all.map((p) => p.y)
  return {
    left: Math.min(...xs),
    right: Math.max(...xs),
    front: Math.min(...ys),
    back: Math.max(...ys),
    uncertain: all.some((p) => p.uncertain),
  }
}

/** How much room a dance takes with arms and legs, and where to begin so that it lies in the middle. */
export interface RoomNeeded {
  width: Metres
  depth: Metres
  /** From the middle of that room, and from its front edge. */
  begin: Spot
  uncertain: boolean
}

export function roomNeeded(path: Path, of: Stretch | null = null): RoomNeeded {
  const { left, right, front, back, uncertain } = boundsOf(path, of)
  const first = of ? pathAt(path, of.from - 1) : { x: 0, y: 0 }
  return {
    width: right - left + 2 * REACH,
    depth: back - front + 2 * REACH,
    begin: { x: first.x - (left + right) / 2, y: first.y - front + REACH },
    uncertain,
  }
}

/** True where a dancer who stands there has a room's walls within reach. */
export function fitsRoom({ x, y }: Spot, { width, depth }: NonNullable<Space['room']>): boolean {
  const across = Math.abs(x) + REACH <= width / 2 + SLACK
  return across && y - REACH >= -SLACK && y + REACH <= depth + SLACK
}

/** True where all of a dancer is in the camera's picture: it stands before the middle of the front edge, and sees wider the further off. */
export function inPicture({ x, y }: Spot, { distance, width }: NonNullable<Space['camera']>): boolean {
  const off = distance + y
  return off > REACH && Math.abs(x) + REACH <= (width * off) / (2 * distance) + SLACK
}

/** Where in a room a path begins: as somebody said, else where it fits best. */
export function beginOf(path: Path, { room, begin }: Pick<Space, 'room' | 'begin'>): Spot {
  if (begin) return begin
  const needed = roomNeeded(path)
  if (!room) return { x: needed.begin.x, y: needed.begin.y }
  // In the middle of the room from front to back, not nearer to its front edge than it has to be.
  return { x: needed.begin.x, y: needed.begin.y + Math.max(0, (room.depth - needed.depth) / 2) }
}

/** What is first left behind. */
export interface Leaving {
  of: 'room' | 'picture'
  point: PathPoint
}

/** The first step that leads out of the room, and the first out of the picture; of what is certain. */
export function leavings(path: Path, space: Space): Leaving[] {
  const begin = beginOf(path, space)
  const certain = path.points.filter((p) => !p.uncertain)
  const first = (holds: (at: Spot) => boolean) =>
    certain.find((p) => !holds({ x: p.x + begin.x, y: p.y + begin.y }))
  const { room, camera } = space
  const outside = room && first((at) => fitsRoom(at, room))
  const unseen = camera && first((at) => inPicture(at, camera))
  return [
    ...(outside ? [{ of: 'room' as const, point: outside }] : []),
    ...(unseen ? [{ of: 'picture' as const, point: unseen }] : []),
  ]
}

/** A part that is danced again and does not come back to where it began. */
export interface Drift {
  of: Stretch
  times: number
  /** Each time, seen from how the dancer faces where it begins the first time. */
  each: Spot
  /** After all of them. */
  whole: Spot
}

/** Less than a foot's length is no drift. */
const FOOT: Metres = 0.3

/** What repeats of one part do to the place, where each of them does the same. */
export function driftsOf(path: Path, repeats: readonly Repeat[], dance: Stretch): Drift[] {
  const parts = new Map<string, { of: Stretch; again: Repeat[] }>()
  for (const r of repeats) {
    const of = { from: r.from, to: r.from + (r.to.to - r.to.from) }
    const key = `${of.from} ${of.to}`
    const part = parts.get(key) ?? { of, again: [] }
    part.again.push(r)
    parts.set(key, part)
  }
  const gone = (s: Stretch): (Spot & { uncertain: boolean }) | null => {
    if (s.from < dance.from || s.to > dance.to) return null
    const [a, b] = [pathAt(path, s.from - 1), pathAt(path, s.to - 1)]
    return { x: b.x - a.x, y: b.y - a.y, uncertain: b.uncertain }
  }
  return [...parts.values()].flatMap(({ of, again }): Drift[] => {
    const all = [of, ...again.map((r) => r.to)].flatMap((s) => gone(s) ?? [])
    const [each] = all
    if (!each || all.length < 2 || all.some((g) => g.uncertain)) return []
    const same = all.every((g) => Math.hypot(g.x - each.x, g.y - each.y) < 0.01)
    if (!same || Math.hypot(each.x, each.y) < FOOT) return []
    return [
      {
        of,
        times: all.length,
        each: { x: each.x, y: each.y },
        whole: { x: each.x * all.length, y: each.y * all.length },
      },
    ]
  })
}
