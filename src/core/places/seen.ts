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
  // Numbers side by side: this is asked for each formation, of each two.
  const [x, y, off]: [number[], number[], number[]] = [[], [], []]
  const away = spots.map((s) => Math.hypot(s.x - eye.x, s.y - eye.y))
  const order = spots.map((_, i) => i).sort((a, b) => (away[a] as number) - (away[b] as number))
  const out: Hidden[] = []
  for (const [i, index] of order.entries()) {
    const far = spots[index] as Spot & { dancer: string }
    const [fx, fy, fo] = [far.x - eye.x, far.y - eye.y, away[index] as number]
    x[i] = fx
    y[i] = fy
    off[i] = fo
    // Only those who are nearer, and not a shoulder's breadth beside the line of sight.
    for (let k = 0; k < i && (off[k] as number) < fo - 0.01; k++) {
      const [nx, ny] = [x[k] as number, y[k] as number]
      if (Math.abs(nx * fy - ny * fx) >= HEAD * fo || nx * fx + ny * fy <= 0) continue
      out.push({ dancer: far.dancer, by: (spots[order[k] as number] as { dancer: string }).dancer })
      break
    }
  }
  return out
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
