import type { Clues } from './clues'
import type { Bar } from './metre'

/** Where the phrases begin, how sure, and what else it could be. */
export interface Counting {
  /** Beat index where each phrase begins, ascending; the first is less than a phrase from the beginning. */
  starts: number[]
  /** How sure it is that a phrase begins at each of them, 0..1, all ways to count the song considered. */
  sure: number[]
  /** Probability of each way to shift the whole counting, by 0, 1, 2 ... beats later; 0 is the one chosen. */
  shifts: number[]
  /** What the best path gathers, and how much more that is than the mean of all ways to end. */
  best: number
  ahead: number
}

/**
 * Weights of the clues, in the order of `clues.ts`: how much the mean of a clue over the beats that would begin a bar (or
 * a phrase) speaks for it, as a logarithm. Fitted on songs of known bars (docs/hearing.md).
 */
const BAR: readonly number[] = [
  0.86, -0.15, 0.13, 0.51, 0.04, 0.86, 0.38, -0.19, 0.88, 0.67, 0.53, 0.54, 0.56, -0.08, 0.31, 0.49, -0.05,
  0.22, 0.41, 0.27, 0.03, 0.02, -0.26, 0.43, -0.2, -0.26, 0.35,
]
const PHRASE: readonly number[] = [
  0.29, 0.26, -0.02, 0.21, 0.17, -0.13, -0.11, 0.13, 0.11, 0.16, 0.42, 0.41, -0.18, -0.16, 0.68, 0.18, 0.1,
  0.77, -0.1, 0.27, 0.12, -0.51, 0.33, 0.26, 0.76, -0.18, 0.41,
]

/**
 * What a phrase of another length must be worth before it is believed, by the last position it reaches: a spare bar, or
 * half a bar of four.
 */
const ODD_COSTS: Record<Bar, readonly [number, number][]> = {
  4: [
    [3, 1.1],
    [1, 1.9],
    [5, 1.9],
  ],
  3: [[2, 1.1]],
}
/** Music that sets in on a beat sets in on a 1 more often than not. Common practice, no published source. */
const OPENING = 2

/**
 * The weights, fitted with a ridge, are too cautious: with sums this much larger, of the 1s called so sure as many were
 * right (docs/hearing.md).
 */
const SHARPNESS = 1.6

/** Weighted sum of the clues, so scaled that every `step`-th beat of the song adds up to a mean. */
function weighed(clues: Clues, weights: readonly number[], step: number): Float32Array {
  const n = clues[0]?.length ?? 0
  const out = new Float32Array(n)
  clues.forEach((c, i) => {
    for (let k = 0; k < n; k++)
      out[k] = (out[k] as number) + (weights[i] as number) * (c[k] as number) * (step / n)
  })
  return out
}

/** Evidence for position p at beat k, and the positions a beat may follow on, each with its cost. */
interface Model {
  beats: number
  length: number
  gain: (k: number, p: number) => number
  before: readonly (readonly [number, number])[][]
}

function modelOf(clues: Clues, opening: number | null, bar: Bar): Model {
  const length = 2 * bar
  const bars = weighed(clues, BAR, bar)
  const phrases = weighed(clues, PHRASE, length)
  const gain = (k: number, p: number) => {
    const open = k === opening ? (p === 0 ? OPENING : p === bar ? OPENING / 2 : 0) : 0
    if (p === 0) return (bars[k] as number) + (phrases[k] as number) + open
    return p === bar ? (bars[k] as number) + open : 0
  }
  const before = Array.from({ length }, (_, p) => [
    [(p + length - 1) % length, 0] as const,
    ...(p === 0 ? ODD_COSTS[bar] : []),
  ])
  return { beats: bars.length, length, gain, before }
}

/**
 * The eights: the best path through the positions of two bars, one step a beat, where evidence of a phrase counts at 1
 * and evidence of a bar at both bars' beginnings; a phrase may end early, at a cost (Viterbi 1967).
 * @param opening beat index the music begins on, or null when it begins in the middle of something
 * @param bar beats in a bar: phrases are two bars
 */
export function findEights(clues: Clues, opening: number | null, bar: Bar = 4): Counting {
  const m = modelOf(clues, opening, bar)
  const { beats: n, length } = m
  const score = new Float64Array(n * length)
  const from = new Int8Array(n * length)
  for (let p = 0; p < length; p++) score[p] = m.gain(0, p)
  for (let k = 1; k < n; k++)
    for (let p = 0; p < length; p++) {
      let best = Number.NEGATIVE_INFINITY
      for (const [q, cost] of m.before[p] as readonly (readonly [number, number])[]) {
        const x = (score[(k - 1) * length + q] as number) - cost
        if (x > best) {
          best = x
          from[k * length + p] = q
        }
      }
      score[k * length + p] = best + m.gain(k, p)
    }
  const ends = Array.from({ length }, (_, p) => score[(n - 1) * length + p] as number)
  let position = ends.indexOf(Math.max(...ends))
  const last = position
  const starts: number[] = []
  for (let k = n - 1; k >= 0; k--) {
    if (position === 0) starts.push(k)
    position = from[k * length + position] as number
  }
  starts.reverse()
  const likely = onesOf(m)
  const best = ends[last] as number
  return {
    starts,
    sure: starts.map((k) => likely[k] as number),
    shifts: shiftsOf(ends, last),
    best,
    ahead: best - ends.reduce((a, b) => a + b, 0) / length,
  }
}

function logSum(xs: readonly number[]): number {
  const top = Math.max(...xs)
  return top === Number.NEGATIVE_INFINITY
    ? top
    : top + Math.log(xs.reduce((n, x) => n + Math.exp(x - top), 0))
}

/** Probability that each beat is a 1, over all paths (forward and backward sums, Rabiner 1989, "A tutorial on HMM"). */
function onesOf({ beats, length, gain: plain, before: dear }: Model): Float64Array {
  const gain = (k: number, p: number) => SHARPNESS * plain(k, p)
  const before = dear.map((ways) => ways.map(([q, cost]) => [q, SHARPNESS * cost] as const))
  const forward = new Float64Array(beats * length)
  const backward = new Float64Array(beats * length)
  const after = Array.from({ length }, (_, q) =>
    before.flatMap((list, p) => list.filter(([from]) => from === q).map(([, cost]) => [p, cost] as const)),
  )
  for (let k = 0; k < beats; k++)
    for (let p = 0; p < length; p++) {
      const ways = before[p] as readonly (readonly [number, number])[]
      const past =
        k === 0 ? 0 : logSum(ways.map(([q, cost]) => (forward[(k - 1) * length + q] as number) - cost))
      forward[k * length + p] = past + gain(k, p)
    }
  for (let k = beats - 2; k >= 0; k--)
    for (let p = 0; p < length; p++) {
      const ways = after[p] as readonly (readonly [number, number])[]
      backward[k * length + p] = logSum(
        ways.map(([q, cost]) => (backward[(k + 1) * length + q] as number) + gain(k + 1, q) - cost),
      )
    }
  const whole = logSum(Array.from({ length }, (_, p) => forward[(beats - 1) * length + p] as number))
  return Float64Array.from({ length: beats }, (_, k) =>
    Math.exp((forward[k * length] as number) + (backward[k * length] as number) - whole),
  )
}

function shiftsOf(ends: readonly number[], chosen: number): number[] {
  const n = ends.length
  const top = ends[chosen] as number
  // Ending `d` positions earlier is the counting whose 1 comes d beats later.
  const weights = Array.from({ length: n }, (_, d) =>
    Math.exp(SHARPNESS * ((ends[(chosen - d + n) % n] as number) - top)),
  )
  const sum = weights.reduce((a, b) => a + b, 0)
  return weights.map((w) => w / sum)
}
