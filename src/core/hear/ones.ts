import type { Clues } from './clues'

/** Where the phrases begin, how sure, and what else it could be. */
export interface Counting {
  /** Beat index where each phrase begins, ascending; the first is 0 to 7. */
  starts: number[]
  /** Probability of each way to shift the whole counting, by 0 to 7 beats later; 0 is the one chosen. */
  shifts: number[]
  /** Evidence per beat for a bar and for a phrase to begin there. */
  bar: Float32Array
  phrase: Float32Array
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

/** What a phrase of another length than eight must be worth before it is believed: a spare four, two or six. */
const ODD_COSTS: readonly [number, number][] = [
  [3, 1.1],
  [1, 1.9],
  [5, 1.9],
]
/** Music that sets in on a beat sets in on a 1 more often than not. Common practice, no published source. */
const OPENING = 2

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

/**
 * The eights: the best path through positions 1 to 8, one step a beat, where evidence of a phrase counts at 1 and
 * evidence of a bar at 1 and 5; a phrase may end early, at a cost (Viterbi 1967). Assumes bars of four.
 * @param opening beat index the music begins on, or null when it begins in the middle of something
 */
export function findEights(clues: Clues, opening: number | null): Counting {
  const bar = weighed(clues, BAR, 4)
  const phrase = weighed(clues, PHRASE, 8)
  const n = bar.length
  const gain = (k: number, p: number) => {
    const open = k === opening ? (p === 0 ? OPENING : p === 4 ? OPENING / 2 : 0) : 0
    if (p === 0) return (bar[k] as number) + (phrase[k] as number) + open
    return p === 4 ? (bar[k] as number) + open : 0
  }
  const score = new Float64Array(n * 8)
  const from = new Int8Array(n * 8)
  for (let p = 0; p < 8; p++) score[p] = gain(0, p)
  for (let k = 1; k < n; k++) {
    for (let p = 0; p < 8; p++) {
      const usual = (p + 7) % 8
      let best = score[(k - 1) * 8 + usual] as number
      let back = usual
      if (p === 0)
        for (const [q, cost] of ODD_COSTS) {
          const short = (score[(k - 1) * 8 + q] as number) - cost
          if (short > best) {
            best = short
            back = q
          }
        }
      score[k * 8 + p] = best + gain(k, p)
      from[k * 8 + p] = back
    }
  }
  const ends = Array.from({ length: 8 }, (_, p) => score[(n - 1) * 8 + p] as number)
  let position = ends.indexOf(Math.max(...ends))
  const last = position
  const starts: number[] = []
  for (let k = n - 1; k >= 0; k--) {
    if (position === 0) starts.push(k)
    position = from[k * 8 + position] as number
  }
  starts.reverse()
  return { starts, shifts: shiftsOf(ends, last), bar, phrase }
}

function shiftsOf(ends: readonly number[], chosen: number): number[] {
  const top = ends[chosen] as number
  // Ending `d` positions earlier is the counting whose 1 comes d beats later.
  const weights = Array.from({ length: 8 }, (_, d) => Math.exp((ends[(chosen - d + 8) % 8] as number) - top))
  const sum = weights.reduce((a, b) => a + b, 0)
  return weights.map((w) => w / sum)
}
