/* Scores of beat, downbeat and phrase hearing. Times are ascending lists of seconds. */

/** Distance within which a beat counts as found: Davies, Degara & Plumbley 2009, "Evaluation methods for musical audio beat tracking algorithms". */
export const WINDOW = 0.07
/** The first seconds are left out, as in the same paper: trackers need time to settle. */
const TRIM = 5
/** Continuity tolerance on phase and period (same paper). */
const CONTINUITY = 0.175
/** Tempo tolerance: Gouyon et al. 2006, "An experimental comparison of audio tempo induction algorithms". */
const TEMPO_TOLERANCE = 0.04

export const trimmed = (xs: readonly number[]) => xs.filter((x) => x >= TRIM)

/** Index of the nearest of some ascending times; -1 for none. */
export function nearest(xs: readonly number[], x: number): number {
  let low = 0
  let high = xs.length
  while (low < high) {
    const mid = (low + high) >> 1
    if ((xs[mid] as number) < x) low = mid + 1
    else high = mid
  }
  if (low === xs.length) return xs.length - 1
  if (low > 0 && x - (xs[low - 1] as number) <= (xs[low] as number) - x) return low - 1
  return low
}

/** The largest one-to-one matching of two ascending lists within a window, as index pairs. */
export function matched(
  truth: readonly number[],
  heard: readonly number[],
  window = WINDOW,
): [number, number][] {
  const out: [number, number][] = []
  for (let i = 0, j = 0; i < truth.length && j < heard.length; ) {
    const d = (heard[j] as number) - (truth[i] as number)
    if (Math.abs(d) <= window + 1e-9) out.push([i++, j++])
    else if (d < 0) j++
    else i++
  }
  return out
}

/** F-measure: the harmonic mean of precision and recall. */
export function fMeasure(truth: readonly number[], heard: readonly number[], window = WINDOW): number {
  if (!truth.length || !heard.length) return 0
  return (2 * matched(truth, heard, window).length) / (truth.length + heard.length)
}

/** Share of beats that are right in phase and period, held or not (the paper's CMLt for the truth itself). */
function continuous(truth: readonly number[], heard: readonly number[]): number {
  const n = Math.max(truth.length, heard.length)
  if (truth.length < 2 || heard.length < 2) return 0
  const used = new Set<number>()
  const step = (xs: readonly number[], i: number, ahead: boolean) =>
    ahead && i + 1 < xs.length
      ? (xs[i + 1] as number) - (xs[i] as number)
      : (xs[i] as number) - (xs[i - 1] as number)
  heard.forEach((x, m) => {
    const k = nearest(truth, x)
    if (used.has(k)) return
    const ahead = m === 0 || k === 0
    const period = step(truth, k, ahead)
    const phase = Math.abs(x - (truth[k] as number)) / period
    if (phase < CONTINUITY && Math.abs(1 - step(heard, m, ahead) / period) < CONTINUITY) used.add(k)
  })
  return used.size / n
}

/** The truth, and what "allowed metrical levels" adds: double tempo, off-beat, half tempo from either beat. */
function levels(truth: readonly number[]): number[][] {
  const double = truth.flatMap((a, i) =>
    i + 1 < truth.length ? [a, (a + (truth[i + 1] as number)) / 2] : [a],
  )
  const every = (xs: readonly number[], from: number) => xs.filter((_, i) => i % 2 === from)
  return [[...truth], double, every(double, 1), every(truth, 0), every(truth, 1)]
}

/** CMLt: right level and phase. AMLt: the best of the allowed levels. */
export function continuity(
  truth: readonly number[],
  heard: readonly number[],
): { cmlt: number; amlt: number } {
  const all = levels(truth).map((t) => continuous(t, heard))
  return { cmlt: all[0] as number, amlt: Math.max(...all) }
}

/** Tempo accuracy 1 (right) and 2 (or off by a factor of 2 or 3), 0 or 1 each. */
export function tempoHits(truth: number, heard: number): { acc1: number; acc2: number } {
  const near = (f: number) => heard > 0 && Math.abs(heard - truth * f) <= TEMPO_TOLERANCE * truth * f + 1e-9
  return { acc1: Number(near(1)), acc2: Number([1, 2, 3, 1 / 2, 1 / 3].some(near)) }
}

export function median(xs: readonly number[]): number {
  const s = [...xs].sort((a, b) => a - b)
  const h = s.length >> 1
  if (!s.length) return Number.NaN
  return s.length % 2 ? (s[h] as number) : ((s[h - 1] as number) + (s[h] as number)) / 2
}

/** Median lateness of matched beats, and the median distance once that is taken away, in milliseconds. */
export function clickError(
  truth: readonly number[],
  heard: readonly number[],
): { bias: number; error: number } {
  const late = matched(truth, heard).map(([i, j]) => ((heard[j] as number) - (truth[i] as number)) * 1000)
  const bias = median(late)
  return { bias, error: median(late.map((x) => Math.abs(x - bias))) }
}

/** Everything about one song; NaN where the truth does not say. */
export interface Score {
  f: number
  cmlt: number
  amlt: number
  acc1: number
  acc2: number
  down: number
  /** Eights against the counting of the truth, and against the better of the two ways to pair its bars. */
  eight: number
  /** Whether the first eight is at its place, 1 or 0; nothing is left out of this at the beginning. */
  first: number
  eightBest: number
  bias: number
  error: number
}

export interface Truth {
  tempo: number
  beats: number[]
  downbeats: number[] | null
  /** Starts of eights: every second bar. */
  eights: number[] | null
}

export interface HeardBeats {
  tempo: number
  beats: number[]
  downbeats: number[]
  eights: number[]
}

/** Whether the first eight that is true was heard, 1 or 0. */
export function firstEight(truth: readonly number[] | null, heard: readonly number[]): number {
  const first = truth?.[0]
  if (first === undefined) return Number.NaN
  const near = heard[nearest(heard, first)]
  return Number(near !== undefined && Math.abs(near - first) <= WINDOW)
}

export function score(truth: Truth, heard: HeardBeats): Score {
  const beats = trimmed(truth.beats)
  const got = trimmed(heard.beats)
  const other = truth.downbeats && truth.eights && truth.downbeats.filter((d) => !truth.eights?.includes(d))
  const eight = truth.eights ? fMeasure(trimmed(truth.eights), trimmed(heard.eights)) : Number.NaN
  return {
    f: fMeasure(beats, got),
    ...continuity(beats, got),
    ...tempoHits(truth.tempo, heard.tempo),
    down: truth.downbeats ? fMeasure(trimmed(truth.downbeats), trimmed(heard.downbeats)) : Number.NaN,
    eight,
    first: firstEight(truth.eights, heard.eights),
    eightBest: other ? Math.max(eight, fMeasure(trimmed(other), trimmed(heard.eights))) : Number.NaN,
    ...clickError(beats, got),
  }
}
