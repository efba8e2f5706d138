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

/** Who stands behind whom, seen from a place: nearer to the line of sight than a head is wide. In the order of their distance. */
export function hiddenFrom(eye: Spot, spots: readonly (Spot & { dancer: string })[]): Hidden[] {
  // This is asked for each formation. Looking at every two of sixty takes less time than putting them in order by angle.
  const n = spots.length
  const xs = new Float64Array(n)
  const ys = new Float64Array(n)
  const offs = new Float64Array(n)
  for (let i = 0; i < n; i++) {
    const { x, y } = spots[i] as Spot
    xs[i] = x - eye.x
    ys[i] = y - eye.y
    offs[i] = Math.sqrt((x - eye.x) ** 2 + (y - eye.y) ** 2)
  }
  const out: { far: number; by: number }[] = []
  for (let far = 0; far < n; far++) {
    const by = hidingOne(xs, ys, offs, far)
    if (by >= 0) out.push({ far, by })
  }
  const name = (i: number) => (spots[i] as { dancer: string }).dancer
  return out
    .sort((a, b) => (offs[a.far] as number) - (offs[b.far] as number))
    .map(({ far, by }) => ({ dancer: name(far), by: name(by) }))
}

/** Of those who hide one, who is nearest to the eye; -1 for nobody. @param offs metres from the eye */
function hidingOne(xs: Float64Array, ys: Float64Array, offs: Float64Array, far: number): number {
  const x = xs[far] as number
  const y = ys[far] as number
  const off = offs[far] as number
  let by = -1
  let least = off - 0.01
  for (let i = 0; i < offs.length; i++) {
    const its = offs[i] as number
    if (its >= least) continue
    const nx = xs[i] as number
    const ny = ys[i] as number
    if (Math.abs(nx * y - ny * x) >= HEAD * off || nx * x + ny * y <= 0) continue
    by = i
    least = its
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
