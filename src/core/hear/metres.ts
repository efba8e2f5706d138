/* Where a song changes its metre: stretches in bars of one size each. */
import type { Clues } from './clues'
import type { Bar } from './hearing'
import { BAR_RULE, type Counting, findEights, type OnesRule, PAIR_RULE, weighed } from './ones'
import type { SpareBar } from './spare-bars'

/** Bars of a size, and how likely the song is counted in them, 0..1. */
export interface LikelyBar {
  bar: Bar
  share: number
}

/** A stretch in bars of one size, from a beat on. */
export interface Metre {
  from: number
  bar: Bar
}

/** What is gathered is told for so many beats: a stretch in another metre speaks as loudly in a long song as in a short one. */
const BEATS = 100
/** What a change of metre must be worth before it is believed; set on songs with and without one (docs/hearing.md). */
const CHANGE = 0.7
/** Bars that the whole song is less likely counted in are not looked for in a part of it. */
const LEAST_SHARE = 0.05
/** A shorter stretch is a spare bar or two, not another metre. */
const LEAST_BARS = 6

/**
 * The best path through bars of all sizes at once, one step a beat: a bar begins where one ended, of the same size for nothing,
 * of another at a price (Viterbi 1967).
 * @param likely sizes that may occur, the likeliest first
 * @returns the stretches in order, the first from beat 0; one where the metre does not change
 */
export function metresOf(clues: Clues, rule: OnesRule, likely: readonly LikelyBar[]): Metre[] {
  const n = Object.values(clues)[0]?.length ?? 0
  const bars = likely.filter((l, i) => i === 0 || l.share >= LEAST_SHARE).map((l) => l.bar)
  const [usual] = bars
  if (usual === undefined || bars.length < 2 || n < 2 * LEAST_BARS * usual)
    return [{ from: 0, bar: usual ?? 4 }]
  const gains = bars.map((bar) => weighed(clues, rule, 0, bar).map((x) => (x * n) / BEATS))
  const firsts: number[] = []
  let states = 0
  for (const bar of bars) {
    firsts.push(states)
    states += bar
  }
  const back = new Int8Array(n * states)
  let score = new Float64Array(states)
  bars.forEach((_, i) => {
    score[firsts[i] as number] = (gains[i] as Float32Array)[0] as number
  })
  for (let k = 1; k < n; k++) {
    const next = new Float64Array(states)
    const ends = bars.map((bar, i) => score[(firsts[i] as number) + bar - 1] as number)
    bars.forEach((bar, i) => {
      const first = firsts[i] as number
      for (let p = 1; p < bar; p++) {
        next[first + p] = score[first + p - 1] as number
        back[k * states + first + p] = i
      }
      let best = i
      const worth = (j: number) => (ends[j] as number) - (j === i ? 0 : CHANGE)
      bars.forEach((_, j) => {
        if (worth(j) > worth(best)) best = j
      })
      next[first] = worth(best) + ((gains[i] as Float32Array)[k] as number)
      back[k * states + first] = best
    })
    score = next
  }
  return joined(pathOf(back, states, firsts, bars, score), usual)
}

/** The bars' beginnings along the best path, from the last beat back. */
function pathOf(
  back: Int8Array,
  states: number,
  firsts: readonly number[],
  bars: readonly Bar[],
  score: Float64Array,
): Metre[] {
  let state = score.indexOf(Math.max(...score))
  const out: Metre[] = []
  for (let k = back.length / states - 1; k >= 0; k--) {
    const i = firsts.findLastIndex((first) => first <= state)
    const begins = state === firsts[i]
    if (begins) out.push({ from: k, bar: bars[i] as Bar })
    const before = back[k * states + state] as number
    state = begins ? (firsts[before] as number) + (bars[before] as number) - 1 : state - 1
  }
  return out.reverse()
}

/** Stretches of bars of one size; one that is short belongs to what is before it. */
function joined(all: readonly Metre[], usual: Bar): Metre[] {
  const runs: (Metre & { bars: number })[] = []
  for (const { from, bar } of all) {
    const last = runs.at(-1)
    if (last?.bar === bar) last.bars++
    else runs.push({ from, bar, bars: 1 })
  }
  const out: Metre[] = []
  for (const { from, bar, bars } of runs)
    if (bars >= LEAST_BARS && out.at(-1)?.bar !== bar) out.push({ from: out.length ? from : 0, bar })
  return out.length ? out : [{ from: 0, bar: usual }]
}

/** Where the phrases begin, stretch by stretch; how sure, and what else it could be, of the longest. */
export interface Counted extends Counting {
  /** Beats in a bar of the longest stretch. */
  bar: Bar
}

/**
 * The phrases of every stretch, in its own bars.
 * @param clues to bars and to pairs of bars
 * @param opening beat index the music begins on, or null when it begins in the middle of something
 * @param spare where one bar alone is a phrase; of songs in one metre
 */
export function countedIn(
  metres: readonly Metre[],
  clues: Clues,
  opening: number | null,
  spare: readonly SpareBar[] = [],
): Counted {
  const n = Object.values(clues)[0]?.length ?? 0
  const each = metres.map(({ from, bar }, i) => {
    const to = metres[i + 1]?.from ?? n
    const here = Object.fromEntries(Object.entries(clues).map(([name, c]) => [name, c.subarray(from, to)]))
    // A new metre sets in with a 1.
    const sets = i === 0 ? opening : 0
    const rule = bar === 4 ? PAIR_RULE : BAR_RULE
    return { from, bar, beats: to - from, found: findEights(here, rule, sets, bar, spare) }
  })
  const longest = each.reduce((a, b) => (b.beats > a.beats ? b : a))
  return {
    ...longest.found,
    bar: longest.bar,
    starts: each.flatMap(({ from, found }) => found.starts.map((k) => k + from)),
    sure: each.flatMap(({ found }) => found.sure),
  }
}
