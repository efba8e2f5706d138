import type { Space, Spot } from '../routine'
import type { Stretch } from '../time'
import { TICKS_PER_COUNT } from '../time'
import { type Standing, standingIn } from './standing'
import type { Metres } from './ways'

/* Who is seen by the audience and by the camera, and who has been in front for how long. */

/** A head is so wide that who stands behind it is not seen. Value from memory. */
const HEAD: Metres = 0.25
/** The middle of an audience is so far before the front edge. Value from memory. */
export const AUDIENCE: Spot = { x: 0, y: -5 }

/** Where the camera stands. */
export const cameraAt = ({ distance }: NonNullable<Space['camera']>): Spot => ({ x: 0, y: -distance })

export interface Hidden {
  dancer: string
  by: string
}

/** Who stands behind whom, seen from a place: nearer to the line of sight than a head is wide. */
export function hiddenFrom(eye: Spot, spots: readonly (Spot & { dancer: string })[]): Hidden[] {
  const seen = spots
    .map(({ dancer, x, y }) => ({
      dancer,
      x: x - eye.x,
      y: y - eye.y,
      off: Math.hypot(x - eye.x, y - eye.y),
    }))
    .sort((a, b) => a.off - b.off)
  return seen.flatMap((far, i): Hidden[] => {
    const { x, y, off } = far
    // Only those who are nearer, and not a shoulder's breadth beside the line of sight.
    for (let k = 0; k < i; k++) {
      const near = seen[k] as (typeof seen)[number]
      if (near.off >= off - 0.01) break
      const ahead = near.x * x + near.y * y > 0
      if (ahead && Math.abs(near.x * y - near.y * x) < HEAD * off)
        return [{ dancer: far.dancer, by: near.dancer }]
    }
    return []
  })
}

/** Who stands no further back than this behind the foremost is in front. */
const FRONT: Metres = 0.5

/** Counts each dancer stands in front in a dance, formation by formation. */
export function countsInFront(standing: Standing, dance: Stretch): ReadonlyMap<string, number> {
  const counts = new Map([...standing.first.keys()].map((id) => [id, 0]))
  for (const [i, formation] of standing.formations.entries()) {
    const from = i === 0 ? dance.from : Math.max(dance.from, formation.at)
    const to = Math.min(dance.to, standing.formations[i + 1]?.at ?? dance.to)
    if (to <= from) continue
    const spots = standingIn(standing, formation)
    const foremost = Math.min(...spots.map((s) => s.y))
    for (const s of spots)
      if (s.y <= foremost + FRONT)
        counts.set(s.dancer, (counts.get(s.dancer) ?? 0) + Math.round((to - from) / TICKS_PER_COUNT))
  }
  return counts
}
