import { median, type Seconds } from '../time'
import { strokes } from './extent'
import { pieces } from './jumps'
import type { Onsets } from './onsets'
import { FRAME_RATE } from './spectrum'
import { machineTime } from './steady'
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

/** Pulses of one kind along the song, and how they were found. */
export interface Pulses {
  times: Seconds[]
  /** One exact tempo fits the whole song. */
  steady: boolean
}

/**
 * Makes tracked pulses even: exactly steady where one tempo fits the whole song, or one after another, else smoothed so that they follow the
 * tempo but not each stroke's unevenness.
 * @param periods period in frames along the song, as `tempoPath` gives it
 */
export function evened(
  tracked: readonly Seconds[],
  periods: Float32Array,
  o: Onsets,
  duration: Seconds,
): Pulses {
  const strength = tracked.map((t) => strongest(o.all, t))
  const list = strokes(o)
  const jumped = pieces(list, periods, duration)
  if (jumped) return { times: jumped, steady: false }
  const line = tracked.length > 16 ? machineTime(list, median(periods) / FRAME_RATE) : null
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
