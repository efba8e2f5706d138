import type { Seconds } from '../time'
import { BARS, type Bar } from './hearing'
import { HOP, type LagPicture, nearest } from './pulse'
import { FRAME_RATE } from './spectrum'

/** How like itself music is so many bars later, -1..1, by the beats of a bar. */
export type BarLikeness = Readonly<Record<Bar, number>>

/** How many beats later music in bars of this size is alike: a bar and two of them later, in fours half a bar too; each with its share. */
const LAGS: Readonly<Record<Bar, readonly (readonly [number, number])[]>> = {
  3: [
    [3, 1 / 2],
    [6, 1 / 2],
  ],
  4: [
    [2, 1 / 4],
    [4, 1 / 2],
    [8, 1 / 4],
  ],
  5: [
    [5, 1 / 2],
    [10, 1 / 2],
  ],
  7: [
    [7, 1 / 2],
    [14, 1 / 2],
  ],
}

/** How like itself music is at bars of each size: more so one and two of its own bars later than anything else. */
export function likeBars(p: LagPicture, beats: readonly Seconds[]): BarLikeness {
  const sums: Record<Bar, number> = { 3: 0, 4: 0, 5: 0, 7: 0 }
  let weights = 0
  let k = 0
  for (let w = 0; w < p.windows; w++) {
    const t = (w + 0.5) * HOP
    while (k + 2 < beats.length && (beats[k + 1] as number) < t) k++
    const period = ((beats[k + 1] as number) - (beats[k] as number)) * FRAME_RATE
    if (t < (beats[0] as number) || t > (beats.at(-1) as number)) continue
    const weight = p.weight[w] as number
    for (const bar of BARS)
      for (const [n, share] of LAGS[bar]) sums[bar] += weight * share * nearest(p, w, n * period, 1 + n / 3)
    weights += weight
  }
  const mean = (bar: Bar) => sums[bar] / Math.max(1e-9, weights)
  return { 3: mean(3), 4: mean(4), 5: mean(5), 7: mean(7) }
}
