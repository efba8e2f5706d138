import type { Bpm, Seconds } from '../time'
import { FRAME_RATE, valueAt } from './spectrum'

/** How strongly an uneven step is punished (Ellis 2007 calls it alpha). */
const TIGHTNESS = 400

/**
 * Beat frames by dynamic programming (Ellis 2007, "Beat tracking by dynamic programming"): the path through the
 * onset strength whose steps stay near one period.
 * @param onset onset strength per 10 ms frame
 * @returns beat times in seconds, ascending
 */
export function beatPath(onset: Float32Array, bpm: Bpm): Seconds[] {
  const period = (60 * FRAME_RATE) / bpm
  const n = onset.length
  if (n < 2 * period) return []
  const soft = smooth(onset, period / 32)
  const scale = deviation(soft) || 1
  const score = new Float64Array(n)
  const from = new Int32Array(n).fill(-1)
  const shortest = Math.round(period / 2)
  const longest = Math.round(2 * period)
  const cost = new Float64Array(longest + 1)
  for (let d = shortest; d <= longest; d++) {
    const x = Math.log(d / period)
    cost[d] = TIGHTNESS * x * x
  }
  for (let i = 0; i < n; i++) {
    let best = 0
    let back = -1
    for (let d = shortest; d <= longest && d <= i; d++) {
      const s = (score[i - d] as number) - (cost[d] as number)
      if (s > best) {
        best = s
        back = i - d
      }
    }
    score[i] = (soft[i] as number) / scale + best
    from[i] = back
  }
  let last = n - 1
  for (let i = Math.max(0, n - Math.ceil(period * 1.5)); i < n; i++)
    if ((score[i] as number) > (score[last] as number)) last = i
  const path: number[] = []
  for (let i = last; i >= 0; i = from[i] as number) path.push(i)
  path.reverse()
  return path.map((f) => refine(onset, f) / FRAME_RATE)
}

/** Moves a frame to the onset peak within 30 ms, with parabolic interpolation; stays where nothing stands out. */
function refine(onset: Float32Array, frame: number): number {
  let best = frame
  for (let f = frame - 3; f <= frame + 3; f++) if ((onset[f] ?? 0) > (onset[best] ?? 0)) best = f
  const a = onset[best - 1] ?? 0
  const b = onset[best] ?? 0
  const c = onset[best + 1] ?? 0
  const bend = a - 2 * b + c
  return bend < 0 ? best + Math.max(-0.5, Math.min(0.5, (0.5 * (a - c)) / bend)) : best
}

function smooth(curve: Float32Array, sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * sigma))
  const kernel = Array.from({ length: 2 * reach + 1 }, (_, i) => Math.exp(-0.5 * ((i - reach) / sigma) ** 2))
  const out = new Float32Array(curve.length)
  for (let i = 0; i < curve.length; i++) {
    let sum = 0
    for (let k = 0; k < kernel.length; k++) sum += (kernel[k] as number) * (curve[i + k - reach] ?? 0)
    out[i] = sum
  }
  return out
}

function deviation(curve: Float32Array): number {
  let sum = 0
  for (let i = 0; i < curve.length; i++) sum += (curve[i] as number) ** 2
  return Math.sqrt(sum / Math.max(1, curve.length))
}

/** A straight line through beats: time of beat k is start + k × period. */
export interface SteadyFit {
  start: Seconds
  period: Seconds
  /** Share of beats within 25 ms of the line. */
  share: number
}

/**
 * Fits one steady tempo to a beat path: beats are numbered by the steps between them, the line is found by least
 * squares on the beats near it, taken again as it settles, and then drawn to where the onsets are strongest.
 */
export function steadyFit(beats: readonly Seconds[], onset: Float32Array, bpm: Bpm): SteadyFit | null {
  if (beats.length < 8) return null
  const first = beats[0] as number
  let period = 60 / bpm
  // Over a long song a wrong period runs away, so the line grows outward from the middle eight.
  let points = number(beats, period)
  let line = leastSquares(points.slice(points.length >> 1, (points.length >> 1) + 8)) ?? {
    start: first,
    period,
  }
  for (let reach = 8; reach <= beats.length * 2; reach *= 2) {
    const mid = beats.length >> 1
    points = number(beats, line.period, line.start)
    const near = points
      .slice(Math.max(0, mid - reach), mid + reach)
      .filter(([k, t]) => Math.abs(t - line.start - k * line.period) < 0.06)
    line = leastSquares(near) ?? line
  }
  line = strongest(onset, line, beats[beats.length - 1] as number)
  period = line.period
  const close = beats.filter((t) => {
    const x = (t - line.start) / period
    return Math.abs(x - Math.round(x)) * period < 0.025
  })
  return { ...line, share: close.length / beats.length }
}

function number(beats: readonly Seconds[], period: Seconds, start = beats[0] as number): [number, Seconds][] {
  return beats.map((t) => [Math.round((t - start) / period), t])
}

function leastSquares(points: readonly [number, Seconds][]): { start: Seconds; period: Seconds } | null {
  const n = points.length
  if (n < 4) return null
  const mk = points.reduce((s, [k]) => s + k, 0) / n
  const mt = points.reduce((s, [, t]) => s + t, 0) / n
  const sxx = points.reduce((s, [k]) => s + (k - mk) ** 2, 0)
  if (sxx === 0) return null
  const period = points.reduce((s, [k, t]) => s + (k - mk) * (t - mt), 0) / sxx
  return period > 0 ? { start: mt - mk * period, period } : null
}

/** Small moves of phase and period that gather the most onset strength on the line. */
function strongest(onset: Float32Array, line: { start: Seconds; period: Seconds }, end: Seconds) {
  const first = Math.ceil(-line.start / line.period)
  const last = Math.floor((end - line.start) / line.period)
  const mid = (first + last) / 2
  const gather = (start: number, period: number) => {
    let sum = 0
    for (let k = first; k <= last; k++) sum += valueAt(onset, (start + k * period) * FRAME_RATE)
    return sum
  }
  let best = { ...line, sum: gather(line.start, line.period) }
  const span = Math.max(1, last - first)
  for (let dp = -8; dp <= 8; dp++) {
    // One step of the period moves the far ends by 5 ms.
    const period = line.period + (dp * 0.005 * 2) / span
    for (let ds = -12; ds <= 12; ds++) {
      const start = line.start + ds * 0.002 - (period - line.period) * mid
      const sum = gather(start, period)
      if (sum > best.sum) best = { start, period, sum }
    }
  }
  return { start: best.start, period: best.period }
}
