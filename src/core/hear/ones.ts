import barRule from './bar-rule.json' with { type: 'json' }
import type { Clues } from './clues'
import type { Bar } from './hearing'
import pairRule from './pair-rule.json' with { type: 'json' }

/** Where the phrases begin, how sure, and what else it could be. */
export interface Counting {
  /** Beat index where each phrase begins, ascending; the first is less than a phrase from the beginning. */
  starts: number[]
  /** How sure it is that a phrase begins at each of them, 0..1, all ways to count the song considered. */
  sure: number[]
  /** How likely the 1s are all so many beats later, 0, 1, 2 ...; 0 is how sure of the counting as a whole. */
  shifts: number[]
  /** The same by the best paths alone, each to another end. */
  ends: number[]
  /** What the best path gathers, and how much more that is than the mean of all ways to end. */
  best: number
  ahead: number
}

/** How far each clue speaks for a bar and for a phrase; fitted on songs of known bars (docs/hearing.md). */
export interface OnesRule {
  /** By the clue's name, how much its mean over the beats that would begin a bar, or a phrase, speaks for them, as a logarithm. */
  clues: Readonly<Record<string, readonly number[]>>
  /** What it speaks for a bar, and for a phrase, that the music sets in there. */
  opening: readonly number[]
  /**
   * What a phrase of another length must be worth before it is believed, by the beats of a bar and the last position it
   * reaches: a spare bar, or half a bar of four.
   */
  odd: Readonly<Record<Bar, readonly (readonly number[])[]>>
  /** Beats of the songs it was learned from, about; 0 where a song's length makes no difference. */
  beats: number
  /** Sums are multiplied by this before they become shares of certainty. */
  sharpness: number
  /**
   * For certainty, phrases of another length are so much dearer: one in a hundred is one, while a best path that took
   * them for so rare would miss most. Both were tried on songs with a bar cut out (docs/hearing.md).
   */
  rare: number
}

/** Bars, and phrases as far as one bar tells: what the ways to count the beat were learned with, and bars of three. */
export const BAR_RULE: OnesRule = barRule
/** Pairs of bars: `npm run bench:fit-ones` writes it. */
export const PAIR_RULE: OnesRule = pairRule

/** Weighted sum of the clues, so scaled that every `step`-th beat of the song adds up to a mean. @throws where one is missing */
export function weighed(
  clues: Clues,
  { clues: weights }: OnesRule,
  which: 0 | 1,
  step: number,
): Float32Array {
  const n = Object.values(clues)[0]?.length ?? 0
  const out = new Float32Array(n)
  for (const [name, both] of Object.entries(weights)) {
    const curve = clues[name]
    if (!curve) throw new Error(`There is no clue “${name}”`)
    const weight = ((both[which] ?? 0) * step) / n
    for (let k = 0; k < n; k++) out[k] = (out[k] as number) + weight * (curve[k] as number)
  }
  return out
}

/** Evidence for position p at beat k, and the positions a beat may follow on, each with its cost. */
interface Model {
  beats: number
  length: number
  sharpness: number
  rare: number
  gain: (k: number, p: number) => number
  before: readonly (readonly [number, number])[][]
}

/** Sums are means over a song: of a longer one, the same sum on each side of a spare bar has been heard for longer. */
const longer = ({ beats }: OnesRule, n: number) =>
  beats ? 1 / Math.max(1, Math.min(2, Math.sqrt(n / beats))) : 1

function modelOf(clues: Clues, rule: OnesRule, opening: number | null, bar: Bar): Model {
  const length = 2 * bar
  const bars = weighed(clues, rule, 0, bar)
  const phrases = weighed(clues, rule, 1, length)
  const [ofBar = 0, ofPhrase = 0] = rule.opening
  // Music sets in with a whole phrase, not with a spare bar: paid on the last beat of it, which a shorter one never has.
  const whole = opening === null ? null : opening + length - 1
  const gain = (k: number, p: number) => {
    if (p === 0) return (bars[k] as number) + (phrases[k] as number)
    if (p === bar) return (bars[k] as number) + (k === opening ? ofBar : 0)
    return p === length - 1 && k === whole ? ofPhrase : 0
  }
  const dear = longer(rule, bars.length)
  const odd = rule.odd[bar].map(([from = 0, cost = 0]) => [from, cost * dear] as const)
  const before = Array.from({ length }, (_, p) => [
    [(p + length - 1) % length, 0] as const,
    ...(p === 0 ? odd : []),
  ])
  const { sharpness, rare } = rule
  return { beats: bars.length, length, sharpness, rare: rare / dear, gain, before }
}

/**
 * The eights: the best path through the positions of two bars, one step a beat, where evidence of a phrase counts at 1
 * and evidence of a bar at both bars' beginnings; a phrase may end early, at a cost (Viterbi 1967).
 * @param rule names clues that are all there
 * @param opening beat index the music begins on, or null when it begins in the middle of something
 * @param bar beats in a bar: phrases are two bars
 */
export function findEights(clues: Clues, rule: OnesRule, opening: number | null, bar: Bar = 4): Counting {
  const m = modelOf(clues, rule, opening, bar)
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
    shifts: asShares(Array.from({ length }, (_, d) => meanOf(starts.map((k) => likely[k + d])))),
    ends: endShares(ends, last, rule.sharpness),
    best,
    ahead: best - ends.reduce((a, b) => a + b, 0) / length,
  }
}

/** Mean of those there are. */
function meanOf(xs: readonly (number | undefined)[]): number {
  const there = xs.filter((x) => x !== undefined)
  return there.reduce((a, b) => a + b, 0) / Math.max(1, there.length)
}

function asShares(xs: readonly number[]): number[] {
  const sum = xs.reduce((a, b) => a + b, 0)
  return xs.map((x) => x / sum)
}

function logSum(xs: readonly number[]): number {
  // Most places have one before and one after.
  if (xs.length === 1) return xs[0] as number
  const top = Math.max(...xs)
  return top === Number.NEGATIVE_INFINITY
    ? top
    : top + Math.log(xs.reduce((n, x) => n + Math.exp(x - top), 0))
}

/** Probability that each beat is a 1, over all paths (forward and backward sums, Rabiner 1989, "A tutorial on HMM"). */
function onesOf({ beats, length, sharpness, rare, gain: plain, before: dear }: Model): Float64Array {
  const gain = (k: number, p: number) => sharpness * plain(k, p)
  const before = dear.map((ways) => ways.map(([q, cost]) => [q, sharpness * rare * cost] as const))
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

function endShares(ends: readonly number[], chosen: number, sharpness: number): number[] {
  const n = ends.length
  const top = ends[chosen] as number
  // Ending `d` positions earlier is the counting whose 1 comes d beats later.
  const weights = Array.from({ length: n }, (_, d) =>
    Math.exp(sharpness * ((ends[(chosen - d + n) % n] as number) - top)),
  )
  return asShares(weights)
}
