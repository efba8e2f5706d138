import { median, type Seconds } from '../time'

/** A tap beside the cue it was meant for. */
export interface MatchedTap {
  /** Index of the cue. */
  cue: number
  /** How late the tap was; negative for early. */
  ms: number
}

/** What some taps on some cues come to. */
export interface TapResult {
  matched: MatchedTap[]
  /** Cues nobody tapped on, and taps that meant none. */
  missed: number[]
  extra: number
}

/**
 * Finds for each tap the cue it was meant for: pairs are taken nearest first, each cue and each tap once.
 * @param cues times of the cues, ascending
 * @param window a tap farther off than this means no cue
 */
export function matchTaps(cues: readonly Seconds[], taps: readonly Seconds[], window: Seconds): TapResult {
  const pairs: { cue: number; tap: number; off: number }[] = []
  cues.forEach((c, cue) => {
    taps.forEach((t, tap) => {
      if (Math.abs(t - c) <= window) pairs.push({ cue, tap, off: t - c })
    })
  })
  pairs.sort((a, b) => Math.abs(a.off) - Math.abs(b.off))
  const [usedCues, usedTaps] = [new Set<number>(), new Set<number>()]
  const matched: MatchedTap[] = []
  for (const p of pairs) {
    if (usedCues.has(p.cue) || usedTaps.has(p.tap)) continue
    usedCues.add(p.cue)
    usedTaps.add(p.tap)
    matched.push({ cue: p.cue, ms: p.off * 1000 })
  }
  matched.sort((a, b) => a.cue - b.cue)
  return {
    matched,
    missed: cues.flatMap((_, i) => (usedCues.has(i) ? [] : [i])),
    extra: taps.length - usedTaps.size,
  }
}

/** Mean lateness and spread of taps, in milliseconds. */
export interface Timing {
  n: number
  /** Arithmetic mean; negative for early. */
  mean: number
  /** Sample standard deviation (n - 1); 0 with fewer than two. */
  spread: number
}

export function timingOf(ms: readonly number[]): Timing {
  const n = ms.length
  const mean = n ? ms.reduce((s, x) => s + x, 0) / n : 0
  const spread = n > 1 ? Math.sqrt(ms.reduce((s, x) => s + (x - mean) ** 2, 0) / (n - 1)) : 0
  return { n, mean, spread }
}

/** Fewer taps than this do not tell the delay of a device. */
export const LEAST_CALIBRATION = 6

/**
 * The delay of a device and its user on steady clicks: the middle lateness of the taps, strays thrown out.
 * @param clicks times at which clicks were sent to the device
 * @returns milliseconds and how far apart the taps were, or null with too few taps
 */
export function deviceDelay(
  clicks: readonly Seconds[],
  taps: readonly Seconds[],
): { ms: number; spread: number } | null {
  const [a, b] = clicks
  const period = a !== undefined && b !== undefined ? b - a : 0.6
  // A tap is later than its click, by less than three quarters of a beat; a leading hand may be a little early.
  const late = taps.flatMap((t) => {
    const near = clicks.filter((c) => t - c > -0.25 * period && t - c <= 0.75 * period)
    return near.length ? [1000 * (t - (near.at(-1) as number))] : []
  })
  if (late.length < LEAST_CALIBRATION) return null
  const mid = median(late)
  const off = median(late.map((x) => Math.abs(x - mid)))
  const kept = late.filter((x) => Math.abs(x - mid) <= Math.max(30, 3 * off))
  if (kept.length < LEAST_CALIBRATION) return null
  const { mean, spread } = timingOf(kept)
  return { ms: mean, spread }
}

/** "late on 4&": the cues that were off most, by their mean over all times they were tapped. */
export function worstCues(
  all: readonly MatchedTap[],
  labels: readonly string[],
  leastMs = 40,
): { label: string; ms: number }[] {
  const by = new Map<number, number[]>()
  for (const m of all) by.set(m.cue, [...(by.get(m.cue) ?? []), m.ms])
  return [...by]
    .map(([cue, ms]) => ({ label: labels[cue] ?? '', ms: timingOf(ms).mean }))
    .filter((c) => Math.abs(c.ms) >= leastMs)
    .sort((x, y) => Math.abs(y.ms) - Math.abs(x.ms))
}
