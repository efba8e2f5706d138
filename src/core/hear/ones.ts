import barRule from './bar-rule.json' with { type: 'json' }
import type { Clues } from './clues'
import type { Bar } from './hearing'
import pairRule from './pair-rule.json' with { type: 'json' }
import type { SpareBar } from './spare-bars'

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

/**
 * Evidence for position p at beat k, and the places a beat may follow on, each with its cost. A place is a position in a phrase, once for
 * each number of spare bars that were passed: at first none, in the end all.
 */
interface Model {
  beats: number
  length: number
  places: number
  sharpness: number
  rare: number
  gain: (k: number, p: number) => number
  before: (k: number, place: number) => readonly Step[]
}

/** From a place, at a cost. */
type Step = readonly [number, number]

/** Sums are means over a song: of a longer one, the same sum on each side of a spare bar has been heard for longer. */
const longer = ({ beats }: OnesRule, n: number) =>
  beats ? 1 / Math.max(1, Math.min(2, Math.sqrt(n / beats))) : 1

function modelOf(
  clues: Clues,
  rule: OnesRule,
  opening: number | null,
  bar: Bar,
  spare: readonly SpareBar[],
): Model {
  const length = 2 * bar
  const places = length * (spare.length + 1)
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
  const usual = Array.from({ length: places }, (_, place): Step[] => {
    const p = place % length
    const passed = place - p
    const others = p === 0 ? odd.map(([from, cost]): Step => [passed + from, cost]) : []
    return [[passed + ((p + length - 1) % length), 0], ...others]
  })
  const over = spare.map((_, i): Step[] => [
    ...(usual[(i + 1) * length] as Step[]),
    [i * length + bar - 1, 0],
  ])
  const before = (k: number, place: number) => {
    const i = place % length ? -1 : place / length - 1
    const here = i >= 0 ? spare[i] : undefined
    return (here && k >= here.from && k <= here.to ? over[i] : usual[place]) as Step[]
  }
  const { sharpness, rare } = rule
  return { beats: bars.length, length, places, sharpness, rare: rare / dear, gain, before }
}

/**
 * The eights: the best path through the positions of two bars, one step a beat, where evidence of a phrase counts at 1
 * and evidence of a bar at both bars' beginnings; a phrase may end early, at a cost (Viterbi 1967).
 * @param rule names clues that are all there
 * @param opening beat index the music begins on, or null when it begins in the middle of something
 * @param bar beats in a bar: phrases are two bars
 * @param spare where one bar alone is a phrase, each of them once
 */
export function findEights(
  clues: Clues,
  rule: OnesRule,
  opening: number | null,
  bar: Bar = 4,
  spare: readonly SpareBar[] = [],
): Counting {
  const m = modelOf(clues, rule, opening, bar, spare)
  const { beats: n, length, places } = m
  const score = new Float64Array(n * places).fill(Number.NEGATIVE_INFINITY)
  const from = new Int8Array(n * places)
  for (let p = 0; p < length; p++) score[p] = m.gain(0, p)
  for (let k = 1; k < n; k++)
    for (let place = 0; place < places; place++) {
      let best = Number.NEGATIVE_INFINITY
      for (const [q, cost] of m.before(k, place)) {
        const x = (score[(k - 1) * places + q] as number) - cost
        if (x > best) {
          best = x
          from[k * places + place] = q
        }
      }
      score[k * places + place] = best + m.gain(k, place % length)
    }
  const passed = places - length
  const ends = Array.from({ length }, (_, p) => score[(n - 1) * places + passed + p] as number)
  const last = ends.indexOf(Math.max(...ends))
  let place = passed + last
  const starts: number[] = []
  for (let k = n - 1; k >= 0; k--) {
    if (place % length === 0) starts.push(k)
    place = from[k * places + place] as number
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
function onesOf({ beats, length, places, sharpness, rare, gain, before }: Model): Float64Array {
  const dear = sharpness * rare
  const forward = new Float64Array(beats * places).fill(Number.NEGATIVE_INFINITY)
  const backward = new Float64Array(beats * places).fill(Number.NEGATIVE_INFINITY)
  const at = (list: Float64Array, k: number, place: number) => list[k * places + place] as number
  const told = (k: number, place: number) => sharpness * gain(k, place % length)
  for (let p = 0; p < length; p++) forward[p] = told(0, p)
  for (let k = 1; k < beats; k++)
    for (let place = 0; place < places; place++) {
      const steps = before(k, place)
      const [[only, free]] = steps as [Step]
      // Most places have one before them.
      const past =
        steps.length === 1
          ? at(forward, k - 1, only) - dear * free
          : logSum(steps.map(([q, cost]) => at(forward, k - 1, q) - dear * cost))
      forward[k * places + place] = past + told(k, place)
    }
  for (let p = places - length; p < places; p++) backward[(beats - 1) * places + p] = 0
  for (let k = beats - 2; k >= 0; k--) {
    const ways = Array.from({ length: places }, (): number[] => [])
    for (let place = 0; place < places; place++) {
      const ahead = at(backward, k + 1, place) + told(k + 1, place)
      for (const [q, cost] of before(k + 1, place)) ways[q]?.push(ahead - dear * cost)
    }
    ways.forEach((list, q) => {
      if (list.length) backward[k * places + q] = logSum(list)
    })
  }
  const ones = Array.from({ length: places / length }, (_, i) => i * length)
  const ends = Array.from({ length }, (_, p) => at(forward, beats - 1, places - length + p))
  const whole = logSum(ends)
  return Float64Array.from({ length: beats }, (_, k) =>
    Math.exp(logSum(ones.map((place) => at(forward, k, place) + at(backward, k, place))) - whole),
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
