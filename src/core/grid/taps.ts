import { median, type Seconds, straightLine } from '../time'

/** What taps say about the beat. */
export interface TapFit {
  /** Beat times from the first tap to the last; beats that were not tapped are filled in. */
  beats: Seconds[]
  /** One exact tempo fits all taps within what a hand can do. */
  steady: boolean
  bpm: number
  /** Taps that were thrown out, as too near to another or far off the rest. */
  dropped: number
  /** Root-mean-square distance of the kept taps from the fit, in seconds. */
  spread: Seconds
}

/** Hands are steady within about this (Repp 2005, "Sensorimotor synchronization: a review", gives 2 to 5 % of the period; the figure is from memory). */
const HAND = 0.08
/** Fewer taps than this say nothing. */
export const LEAST_TAPS = 4

/**
 * A grid from taps: double taps and strays are thrown out, missed beats filled in; steady taps give one exact tempo, others
 * are smoothed over nine beats.
 * @param taps times in the song, in any order
 * @returns null when fewer than four usable taps are left
 */
export function fitTaps(taps: readonly Seconds[]): TapFit | null {
  const sorted = [...taps].sort((a, b) => a - b)
  if (sorted.length < LEAST_TAPS) return null
  // A hand that limps is even over two beats; one that misses or doubles some, over one.
  const over = (n: number) => median(sorted.slice(n).map((t, i) => (t - (sorted[i] as number)) / n))
  const step = over(1)
  if (step < 0.2 || step > 3) return null
  // A stray at the front must not decide for the rest: of the first few, the tap most others go with begins.
  const points = [step, over(2)]
    .flatMap((period) => sorted.slice(0, LEAST_TAPS).map((_, i) => numbered(sorted.slice(i), period)))
    .reduce((a, b) => (b.length > a.length ? b : a), [])
  if (points.length < LEAST_TAPS) return null
  const fit = straightLine(points)
  const off = points.map(([k, t]) => t - fit.start - k * fit.period)
  const kept = points.filter((_, i) => Math.abs(off[i] as number) < 2.5 * HAND * fit.period)
  const last = (points.at(-1) as [number, Seconds])[0]
  const exact = kept.length >= LEAST_TAPS ? straightLine(kept) : fit
  const rms = (xs: readonly number[]) => Math.sqrt(xs.reduce((s, x) => s + x * x, 0) / xs.length)
  const spread = rms(kept.map(([k, t]) => t - exact.start - k * exact.period))
  const steady = kept.length >= 0.8 * points.length && spread < HAND * exact.period
  if (steady)
    return {
      beats: Array.from({ length: last + 1 }, (_, k) => exact.start + k * exact.period),
      steady,
      bpm: 60 / exact.period,
      dropped: taps.length - kept.length,
      spread,
    }
  const beats = Array.from({ length: last + 1 }, (_, k) => smoothed(points, k))
  return {
    beats,
    steady,
    bpm: (60 * last) / ((beats[last] as number) - (beats[0] as number)),
    dropped: taps.length - points.length,
    spread: rms(points.map(([k, t]) => t - (beats[k] as number))),
  }
}

/** Taps that go on evenly from the first, each with the beat it falls on; a missed beat is counted. */
function numbered(taps: readonly Seconds[], period: Seconds): [number, Seconds][] {
  const points: [number, Seconds][] = [[0, taps[0] as number]]
  let local = period
  for (const t of taps.slice(1)) {
    const last = points.at(-1) as [number, Seconds]
    const steps = (t - last[1]) / local
    const whole = Math.round(steps)
    if (whole < 1 || Math.abs(steps - whole) > 0.3) continue
    points.push([last[0] + whole, t])
    if (whole === 1) local += 0.2 * (t - last[1] - local)
  }
  return points
}

/** A straight fit through the taps within four beats of a beat. */
function smoothed(points: readonly (readonly [number, Seconds])[], k: number): Seconds {
  for (let reach = 4; ; reach += 2) {
    const near = points.filter(([i]) => Math.abs(i - k) <= reach)
    if (near.length < 3 && near.length < points.length) continue
    const { start, period } = straightLine(near)
    return start + k * period
  }
}
