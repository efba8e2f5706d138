import { median, type Seconds } from '../time'
import type { Onsets } from './onsets'
import { FRAME_RATE, valueAt } from './spectrum'
import { periodAt } from './tempo'

/** How strongly an uneven step is punished (Ellis 2007 calls it alpha). */
const TIGHTNESS = 160

/**
 * Pulse frames by dynamic programming (Ellis 2007, "Beat tracking by dynamic programming"): the path through the onset
 * strength whose steps stay near the period, which may change along the song.
 * @param periods period in frames along the song, as `tempoPath` gives it
 * @returns times in seconds, ascending, from the start of the song to its end
 */
export function pulseTrack(o: Onsets, periods: Float32Array): Seconds[] {
  const n = o.frames
  const sharp = new Float32Array(n)
  for (let i = 0; i < n; i++) sharp[i] = Math.sqrt((o.all[i] as number) + 0.7 * (o.low[i] as number))
  const soft = smooth(sharp, 1.5)
  const scale = deviation(soft) || 1
  const score = new Float64Array(n)
  const from = new Int32Array(n).fill(-1)
  for (let i = 0; i < n; i++) {
    const period = periodAt(periods, i / FRAME_RATE)
    const longest = Math.min(i, Math.round(1.4 * period))
    let best = Number.NEGATIVE_INFINITY
    for (let d = Math.round(0.7 * period); d <= longest; d++) {
      const x = Math.log(d / period)
      const s = (score[i - d] as number) - TIGHTNESS * x * x
      if (s > best) {
        best = s
        from[i] = i - d
      }
    }
    if (i < period) {
      best = 0
      from[i] = -1
    }
    score[i] = (soft[i] as number) / scale + best
  }
  let last = n - 1
  const lastPeriod = periodAt(periods, n / FRAME_RATE)
  for (let i = Math.max(0, n - Math.ceil(lastPeriod)); i < n; i++)
    if ((score[i] as number) > (score[last] as number)) last = i
  const path: number[] = []
  for (let i = last; i >= 0; i = from[i] as number) path.push(i)
  path.reverse()
  return path.map((f) => refine(o.all, f) / FRAME_RATE)
}

/** Moves a frame to the onset peak within 20 ms, with parabolic interpolation; stays where nothing stands out. */
function refine(onset: Float32Array, frame: number): number {
  let best = frame
  for (let f = frame - 2; f <= frame + 2; f++) if ((onset[f] ?? 0) > (onset[best] ?? 0)) best = f
  const a = onset[best - 1] ?? 0
  const b = onset[best] ?? 0
  const c = onset[best + 1] ?? 0
  const bend = a - 2 * b + c
  return bend < 0 ? best + Math.max(-0.5, Math.min(0.5, (0.5 * (a - c)) / bend)) : best
}

function smooth(curve: Float32Array, sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * sigma))
  const kernel = Array.from({ length: 2 * reach + 1 }, (_, i) => Math.exp(-0.5 * ((i - reach) / sigma) ** 2))
  const sum = kernel.reduce((a, b) => a + b, 0)
  return curve.map((_, i) => {
    let v = 0
    for (let k = 0; k < kernel.length; k++) v += ((kernel[k] as number) / sum) * (curve[i + k - reach] ?? 0)
    return v
  })
}

function deviation(curve: Float32Array): number {
  let sum = 0
  for (let i = 0; i < curve.length; i++) sum += (curve[i] as number) ** 2
  return Math.sqrt(sum / Math.max(1, curve.length))
}

/** A straight line through pulses: time of pulse k is start + k × period. */
export interface Line {
  start: Seconds
  period: Seconds
}

/** Pulses of one kind along the song, and how they were found. */
export interface Pulses {
  times: Seconds[]
  /** One exact tempo fits the whole song. */
  steady: boolean
}

/** Windows of this many pulses are tested for whether they lean to one side of the line. */
const LEAN_WINDOW = 48
/** A song is steady when no window leans further than this, as a share of it all. */
const LEAN: Seconds = 0.024

/**
 * Makes tracked pulses even: exactly steady where one tempo fits the whole song, else smoothed so that they follow the
 * tempo but not each stroke's unevenness.
 */
export function evened(tracked: readonly Seconds[], o: Onsets, duration: Seconds): Pulses {
  const strength = tracked.map((t) => strongest(o.all, t))
  const line = steadyLine(tracked, strength, o)
  if (line) {
    const times: Seconds[] = []
    for (let k = Math.ceil(-line.start / line.period); line.start + k * line.period < duration; k++)
      times.push(line.start + k * line.period)
    return { times, steady: true }
  }
  return { times: followed(tracked, strength), steady: false }
}

/** Strongest onset within 30 ms. */
function strongest(curve: Float32Array, t: Seconds): number {
  const mid = Math.round(t * FRAME_RATE)
  let best = 0
  for (let f = mid - 3; f <= mid + 3; f++) best = Math.max(best, curve[f] ?? 0)
  return best
}

function steadyLine(times: readonly Seconds[], strength: readonly number[], o: Onsets): Line | null {
  if (times.length < 16) return null
  const steps = times.slice(1).map((t, i) => t - (times[i] as number))
  const period = median(steps)
  const floor = 0.3 * median(strength.filter((s) => s > 0).length ? strength.filter((s) => s > 0) : [1])
  const heard = times.map((t, i) => ({ t, w: strength[i] as number })).filter((p) => p.w > floor)
  if (heard.length < 16) return null
  // A wrong period runs away over a long song, so the line grows outward from where most is heard.
  let line = grown(heard, period)
  if (!line) return null
  line = sharpened(o.all, line, times.at(-1) as number)
  const residual = heard.map(({ t }) => {
    const x = (t - (line as Line).start) / (line as Line).period
    return (x - Math.round(x)) * (line as Line).period
  })
  let leaning = 0
  let windows = 0
  for (let i = 0; i + LEAN_WINDOW / 2 < heard.length; i += LEAN_WINDOW / 2) {
    windows++
    if (Math.abs(median(residual.slice(i, i + LEAN_WINDOW))) > LEAN) leaning++
  }
  const close = residual.filter((r) => Math.abs(r) < 0.025).length / residual.length
  return close > 0.65 && leaning <= 0.15 * windows ? line : null
}

interface Heard {
  t: Seconds
  w: number
}

function grown(heard: readonly Heard[], period: Seconds): Line | null {
  const mid = heard.length >> 1
  let line: Line = { start: (heard[mid] as Heard).t, period }
  for (let reach = 12; ; reach = Math.ceil(reach * 1.6)) {
    const part = heard.slice(Math.max(0, mid - reach), mid + reach)
    for (let round = 0; round < 3; round++) {
      const near = part
        .map(({ t }) => [Math.round((t - line.start) / line.period), t] as [number, Seconds])
        .filter(([k, t]) => Math.abs(t - line.start - k * line.period) < 0.22 * line.period)
      line = leastSquares(near) ?? line
    }
    if (Math.abs(line.period / period - 1) > 0.03) return null
    if (reach >= heard.length) return line
  }
}

function leastSquares(points: readonly [number, Seconds][]): Line | null {
  const n = points.length
  if (n < 6) return null
  const mk = points.reduce((s, [k]) => s + k, 0) / n
  const mt = points.reduce((s, [, t]) => s + t, 0) / n
  const sxx = points.reduce((s, [k]) => s + (k - mk) ** 2, 0)
  if (sxx === 0) return null
  const period = points.reduce((s, [k, t]) => s + (k - mk) * (t - mt), 0) / sxx
  return period > 0 ? { start: mt - mk * period, period } : null
}

/** Small moves of phase and period that gather the most onset strength on the line. */
function sharpened(onset: Float32Array, line: Line, end: Seconds): Line {
  const first = Math.ceil(-line.start / line.period)
  const last = Math.floor((end - line.start) / line.period)
  const mid = (first + last) / 2
  const gather = (start: number, period: number) => {
    let sum = 0
    for (let k = first; k <= last; k++) sum += Math.sqrt(valueAt(onset, (start + k * period) * FRAME_RATE))
    return sum
  }
  let best = { ...line, sum: gather(line.start, line.period) }
  const span = Math.max(1, last - first)
  for (let dp = -6; dp <= 6; dp++) {
    // One step of the period moves the far ends by 4 ms.
    const period = line.period + (dp * 0.004 * 2) / span
    for (let ds = -8; ds <= 8; ds++) {
      const start = line.start + ds * 0.002 - (period - line.period) * mid
      const sum = gather(start, period)
      if (sum > best.sum) best = { start, period, sum }
    }
  }
  return { start: best.start, period: best.period }
}

/** Pulses on a running straight fit through their neighbours, each weighing by how clearly it is heard. */
function followed(times: readonly Seconds[], strength: readonly number[]): Seconds[] {
  const reach = 10
  return times.map((t, i) => {
    let [sw, sk, st, skk, skt] = [0, 0, 0, 0, 0]
    for (let k = -reach; k <= reach; k++) {
      const u = times[i + k]
      if (u === undefined) continue
      const w = ((strength[i + k] as number) + 0.05) * Math.exp(-0.5 * (k / (reach / 2)) ** 2)
      sw += w
      sk += w * k
      st += w * u
      skk += w * k * k
      skt += w * k * u
    }
    const d = sw * skk - sk * sk
    return d > 1e-9 ? (skk * st - sk * skt) / d : t
  })
}
