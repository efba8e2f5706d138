import type { Seconds } from '../time'
import { HOP, type LagPicture, nearest } from './pulse'
import { FRAME_RATE } from './spectrum'

/** Beats in a bar. */
export type Bar = 3 | 4

/** Bars of three must be this much more alike than bars of four: they are far rarer in music that is danced to. */
const MARGIN = 0.06

/**
 * Whether bars have three beats or four: music is more like itself one and two bars later than anything else.
 * @returns the bar, and by how much three is ahead of four (negative: behind), as likeness -1..1
 */
export function metre(p: LagPicture, beats: readonly Seconds[]): { bar: Bar; ahead: number } {
  let ahead = 0
  let sum = 0
  let k = 0
  for (let w = 0; w < p.windows; w++) {
    const t = (w + 0.5) * HOP
    while (k + 2 < beats.length && (beats[k + 1] as number) < t) k++
    const period = ((beats[k + 1] as number) - (beats[k] as number)) * FRAME_RATE
    if (t < (beats[0] as number) || t > (beats.at(-1) as number)) continue
    const at = (n: number) => nearest(p, w, n * period, 1 + n / 3)
    const three = (at(3) + at(6)) / 2
    const four = (at(2) + 2 * at(4) + at(8)) / 4
    const weight = p.weight[w] as number
    ahead += weight * (three - four)
    sum += weight
  }
  ahead /= Math.max(1e-9, sum)
  return { bar: ahead > MARGIN ? 3 : 4, ahead }
}
