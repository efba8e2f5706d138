import type { Seconds } from '../time'
import { Correlator } from './correlator'
import { BANDS, TRACE_RATE, type Trace } from './trace'

/** Where a window may lie in the song, and how alike it is there, -1..1. */
export interface Peak {
  at: Seconds
  like: number
}

/** Where one window may lie. */
export interface Look {
  /** The likeliest first. */
  peaks: Peak[]
  /** How alike it is near a place; null outside of the song. */
  near: (at: Seconds, within: Seconds) => Peak | null
}

/** Places kept of each window, and how far apart they are: music made of loops is alike in dozens of places. */
const [MOST, APART] = [40, Math.round(0.3 * TRACE_RATE)]

/** Where the song is much quieter than the window, or only begins in it, that counts against it. */
const FULL = 0.4

const NOWHERE: Look = { peaks: [], near: () => null }

/**
 * Looks windows up in a song by normalised cross-correlation over all bands at once.
 * @param length frames of a window; one may lie partly before the song or after it
 * @returns looks the window of a recording up that begins at a frame
 */
export function windowFinder(song: Trace, length: number): (recording: Trace, from: number) => Look {
  const correlator = new Correlator(song, BANDS, length, length)
  const { answer } = correlator
  const power = energies(song, length)
  return (recording, from) => {
    let own = 0
    for (let i = from * BANDS; i < (from + length) * BANDS; i++) own += (recording.data[i] ?? 0) ** 2
    if (own < 1e-6) return NOWHERE
    correlator.look(recording.data, from, length)
    // Kept for this window alone: the next one writes over what is shared.
    const mine = new Float32Array(answer.length)
    for (let i = 0; i < mine.length; i++)
      mine[i] = (answer[i] as number) / Math.sqrt(own * Math.max(own * FULL, power[i] as number))
    const peak = (i: number): Peak => ({
      at: (i + top(mine, i) - length) / TRACE_RATE,
      like: mine[i] as number,
    })
    return {
      peaks: highest(mine, MOST, APART).map(peak),
      near: (at, within) => {
        const low = Math.max(0, Math.round((at - within) * TRACE_RATE) + length)
        const high = Math.min(mine.length - 1, Math.round((at + within) * TRACE_RATE) + length)
        let best = -1
        for (let i = low; i <= high; i++)
          if (best < 0 || (mine[i] as number) > (mine[best] as number)) best = i
        return best < 0 ? null : peak(best)
      },
    }
  }
}

/** How far the top of a parabola through a value and its neighbours is from it, in frames. */
function top(curve: Float32Array, i: number): number {
  const [l, m, r] = [curve[i - 1] ?? -1, curve[i] as number, curve[i + 1] ?? -1]
  const bend = l - 2 * m + r
  return bend < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (l - r)) / bend)) : 0
}

/** Sum of squares of each window of a song, from the one that lies wholly before it on. */
function energies({ frames, data }: Trace, length: number): Float32Array {
  const out = new Float32Array(frames + length)
  const square = (f: number) => {
    if (f < 0 || f >= frames) return 0
    let s = 0
    for (let b = 0; b < BANDS; b++) s += (data[f * BANDS + b] as number) ** 2
    return s
  }
  let sum = 0
  for (let i = 0; i < out.length; i++) {
    out[i] = sum
    sum += square(i) - square(i - length)
  }
  return out
}

/** The highest places of a curve, none near another. */
function highest(curve: Float32Array, most: number, apart: number): number[] {
  const tops: number[] = []
  for (let i = 0; i < curve.length; i++) {
    const x = curve[i] as number
    if (x > 0.1 && x >= (curve[i - 1] ?? -1) && x > (curve[i + 1] ?? -1)) tops.push(i)
  }
  tops.sort((a, b) => (curve[b] as number) - (curve[a] as number))
  const out: number[] = []
  for (const i of tops) {
    if (out.length >= most) break
    if (out.every((o) => Math.abs(o - i) >= apart)) out.push(i)
  }
  return out
}
