import { TICKS_PER_COUNT } from './ticks'
import type { Bpm, CountRate, Seconds } from './units'

/** Beat or count times in seconds, strictly increasing, at least two. */
export type Times = ArrayLike<Seconds> & Iterable<Seconds>

/** How many intervals at an end make the "local" period used beyond it. */
const LOCAL = 8

/** True when every time is finite and later than the one before, and there are at least two. */
export function isGrid(times: Times): boolean {
  if (times.length < 2) return false
  for (let i = 0; i < times.length; i++) {
    const t = times[i] as number
    if (!Number.isFinite(t) || (i > 0 && t <= (times[i - 1] as number))) return false
  }
  return true
}

/** Median of some numbers (the mean of the middle two for an even count). @throws RangeError when empty */
export function median(values: ArrayLike<number>): number {
  if (values.length === 0) throw new RangeError('median of nothing')
  const sorted = Array.from(values).sort((a, b) => a - b)
  const half = sorted.length >> 1
  const high = sorted[half] as number
  return sorted.length % 2 ? high : ((sorted[half - 1] as number) + high) / 2
}

/** Time of point k is start + k × period. */
export interface Line {
  start: Seconds
  period: Seconds
}

/** The straight line nearest to some points (least squares). @param points at least two, of index and time */
export function straightLine(points: readonly (readonly [number, Seconds])[]): Line {
  const n = points.length
  const mk = points.reduce((s, [k]) => s + k, 0) / n
  const mt = points.reduce((s, [, t]) => s + t, 0) / n
  const sxx = points.reduce((s, [k]) => s + (k - mk) ** 2, 0)
  const period = points.reduce((s, [k, t]) => s + (k - mk) * (t - mt), 0) / sxx
  return { start: mt - mk * period, period }
}

function intervals(times: Times, from: number, to: number): number[] {
  const out: number[] = []
  for (let i = Math.max(1, from + 1); i <= Math.min(times.length - 1, to); i++)
    out.push((times[i] as number) - (times[i - 1] as number))
  return out
}

/** Median period at the start of the grid, in seconds. */
function headPeriod(times: Times): Seconds {
  return median(intervals(times, 0, LOCAL))
}

/** Median period at the end of the grid, in seconds. */
function tailPeriod(times: Times): Seconds {
  return median(intervals(times, times.length - 1 - LOCAL, times.length - 1))
}

/**
 * Time of a position: linear between neighbouring counts, extrapolated with the local median period outside.
 * @param times count times, strictly increasing, at least two
 * @param tick position on the count line; tick 0 is the first count; may be negative or fractional
 */
export function timeOfTick(times: Times, tick: number): Seconds {
  const count = tick / TICKS_PER_COUNT
  const last = times.length - 1
  if (count < 0) return (times[0] as number) + count * headPeriod(times)
  if (count >= last) return (times[last] as number) + (count - last) * tailPeriod(times)
  const i = Math.floor(count)
  const a = times[i] as number
  return a + (count - i) * ((times[i + 1] as number) - a)
}

/** Index of the last time <= t, or -1. */
export function lastAtOrBefore(times: Times, t: Seconds): number {
  let low = 0
  let high = times.length
  while (low < high) {
    const mid = (low + high) >> 1
    if ((times[mid] as number) <= t) low = mid + 1
    else high = mid
  }
  return low - 1
}

/** Position of a time, the inverse of `timeOfTick`: real-valued ticks, exact to a microsecond on the way back. */
export function tickOfTime(times: Times, t: Seconds): number {
  const last = times.length - 1
  const i = lastAtOrBefore(times, t)
  if (i < 0) return ((t - (times[0] as number)) / headPeriod(times)) * TICKS_PER_COUNT
  if (i >= last) return (last + (t - (times[last] as number)) / tailPeriod(times)) * TICKS_PER_COUNT
  const a = times[i] as number
  return (i + (t - a) / ((times[i + 1] as number) - a)) * TICKS_PER_COUNT
}

/**
 * Count times from beat times.
 * @param rate 1: the beats themselves; 2: a count between every two beats; 1/2: every second beat
 * @param phase for half-time, which beat of each pair is counted (0 or 1)
 */
export function countTimes(beats: Times, rate: CountRate, phase: 0 | 1 = 0): Seconds[] {
  const list = Array.from(beats)
  if (rate === 1) return list
  if (rate === 0.5) return list.filter((_, i) => i % 2 === phase)
  const out: Seconds[] = []
  list.forEach((t, i) => {
    out.push(t)
    const next = list[i + 1]
    if (next !== undefined) out.push((t + next) / 2)
  })
  return out
}

/** Tempo of the grid as a whole: 60 over the median interval. */
export function gridTempo(times: Times): Bpm {
  return 60 / median(intervals(times, 0, times.length - 1))
}
