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

/** One who stands somewhere, seen from the eye: metres from it, and the angle in radians, 0 straight up the stage. */
interface Seen {
  index: number
  x: number
  y: number
  off: Metres
  angle: number
}

/** Who stands behind whom, seen from a place: nearer to the line of sight than a head is wide. In the order of their distance. */
export function hiddenFrom(eye: Spot, spots: readonly (Spot & { dancer: string })[]): Hidden[] {
  // This is asked for each formation. By angle, whoever may hide one stands beside them in the list.
  const around = spots.map((s, index): Seen => {
    const x = s.x - eye.x
    const y = s.y - eye.y
    return { index, x, y, off: Math.sqrt(x * x + y * y), angle: Math.atan2(x, y) }
  })
  around.sort((a, b) => a.angle - b.angle)
  let nearest = Number.POSITIVE_INFINITY
  for (const { off } of around) nearest = Math.min(nearest, off)
  const wide = nearest > HEAD ? Math.asin(HEAD / nearest) : Math.PI
  const name = ({ index }: Seen) => (spots[index] as { dancer: string }).dancer
  const out: { far: Seen; by: Seen }[] = []
  for (let i = 0; i < around.length; i++) {
    const by = hidingOne(around, i, wide)
    if (by) out.push({ far: around[i] as Seen, by })
  }
  return out.sort((a, b) => a.far.off - b.far.off).map(({ far, by }) => ({ dancer: name(far), by: name(by) }))
}

/** Of those who hide one, who is nearest to the eye. @param around all in the order of their angles @param wide how far beside, in radians, somebody who hides may stand */
function hidingOne(around: readonly Seen[], i: number, wide: number): Seen | null {
  const far = around[i] as Seen
  let by: Seen | null = null
  for (const way of [1, -1])
    for (let step = 1; step < around.length; step++) {
      const near = around[(i + way * step + around.length) % around.length] as Seen
      const apart = Math.abs(near.angle - far.angle)
      if (Math.min(apart, 2 * Math.PI - apart) > wide) break
      if (near.off >= far.off - 0.01 || (by && near.off >= by.off)) continue
      const beside = Math.abs(near.x * far.y - near.y * far.x)
      if (beside < HEAD * far.off && near.x * far.x + near.y * far.y > 0) by = near
    }
  return by
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
