import type { Bpm, Seconds } from '../time'
import type { Named } from './folds'
import type { Onsets } from './onsets'
import { FRAME_RATE } from './spectrum'
import type { Likeness } from './tempo'
import { type Sums, turnAt } from './turns'

/** People step at about this tempo: Moelants 2002, "Preferred tempo reconsidered" (the figure is from memory). */
const FELT_BPM = 125

/** Strongest value within 25 ms of a time. */
function hit(curve: Float32Array, t: Seconds): number {
  const mid = Math.round(t * FRAME_RATE)
  let best = 0
  for (let f = mid - 2; f <= mid + 3; f++) best = Math.max(best, curve[f] ?? 0)
  return best
}

/** Mean of the square roots of the hits on some times: one loud stroke is not many. */
export function meanHit(curve: Float32Array, times: readonly Seconds[]): number {
  let sum = 0
  for (const t of times) sum += Math.sqrt(hit(curve, t))
  return sum / Math.max(1, times.length)
}

/** How many times as much a is as b, in octaves; what is under the floor counts little. */
export const ratio = (a: number, b: number, floor: number) => Math.log2((a + floor) / (b + floor))
const clamp = (x: number, low: number, high: number) => Math.max(low, Math.min(high, x))

const mean = (xs: ArrayLike<number>) => {
  let sum = 0
  for (let i = 0; i < xs.length; i++) sum += xs[i] as number
  return sum / Math.max(1, xs.length)
}

/** The largest mean among the values whose index has the same rest by `n`. */
function bestClass(xs: Float32Array, n: number): number {
  let best = 0
  for (let r = 0; r < n; r++) best = Math.max(best, mean(xs.filter((_, i) => i % n === r)))
  return best
}

/** What ways of counting are weighed by. */
export interface Sound {
  onsets: Onsets
  chroma: Sums
  likeness: Likeness
}

/** What speaks for beats on these times, each about -2..2, by name; without what only all ways together show. */
export function featuresOf(
  { onsets: o, chroma, likeness }: Sound,
  beats: readonly Seconds[],
  bpm: Bpm,
): Named {
  const turns = (times: readonly Seconds[], span: Seconds) =>
    Float32Array.from(times, (t) => turnAt(chroma, t, span))
  const between = beats.slice(1).map((t, i) => (t + (beats[i] as number)) / 2)
  const even = beats.filter((_, i) => i % 2 === 0)
  const odd = beats.filter((_, i) => i % 2 === 1)
  const period = 60 / bpm
  const floor = 0.15
  const highOf = (xs: readonly Seconds[]) => meanHit(o.mid, xs) + meanHit(o.high, xs)
  const lowSway = ratio(meanHit(o.low, even), meanHit(o.low, odd), floor)
  const highSway = ratio(highOf(even), highOf(odd), 2 * floor)
  const octaves = Math.log2(bpm / FELT_BPM)
  const wide = Math.min(0.7, period)
  // Where little turns at all, the difference is noise.
  const turn = (a: number, b: number) => clamp(ratio(a, b, 0.06), -1, 1)
  const slow = [turns(beats, wide), turns(between, wide)] as const
  return {
    // People step at a middle tempo, and hardly ever far from it.
    'tempo usual': -octaves * octaves,
    'tempo not far': -Math.max(0, Math.abs(octaves) - 0.5),
    // Chords change on beats rather than between them: on one beat in four or eight.
    'chords on one of four': turn(bestClass(slow[0], 4), bestClass(slow[1], 4)),
    'chords on one of eight': turn(bestClass(slow[0], 8), bestClass(slow[1], 8)),
    // Kick on one, snare on two: low and high sway against each other.
    'low against high': clamp(-lowSway * highSway, -1, 1),
    'high strokes on': clamp(ratio(meanHit(o.high, beats), meanHit(o.high, between), floor), -1, 1),
    // Where every second one is silent, it is not a beat.
    'every second sounds': -Math.max(
      0,
      Math.abs(ratio(meanHit(o.all, even), meanHit(o.all, odd), floor)) - 1,
    ),
    // A beat later the music is like itself, half a beat later less so.
    'like a beat later': 4 * (likeness.later(bpm, 1) - likeness.later(bpm, 0.5)),
  }
}

/** Differences of a round of four values, each over their sum: how it sways by two, and how much one of four stands out. */
function sways(xs: readonly number[]): { two: number; four: number } {
  const sum = xs.reduce((a, b) => a + b, 0) + 1e-6
  const [a, b, c, d] = xs as [number, number, number, number]
  return { two: (a - b + c - d) / sum, four: Math.hypot(a - c, b - d) / sum }
}

/**
 * What drums say about how fast to count: kick and snare folded over four beats, on the beats and between.
 * A backbeat sways by two; one that sways by four is counted too fast, one that falls between is counted too slowly.
 */
export function drumming(o: Onsets, beats: readonly Seconds[]): Named {
  const at = (curve: Float32Array, part: number) =>
    [0, 1, 2, 3].map((r) =>
      meanHit(
        curve,
        beats.flatMap((t, i) => {
          const next = beats[i + 1]
          return next !== undefined && i % 4 === r ? [t + part * (next - t)] : []
        }),
      ),
    )
  const sum = (xs: readonly number[]) => xs.reduce((a, b) => a + b, 0)
  const share = (a: readonly number[], b: readonly number[]) => (sum(a) - sum(b)) / (sum(a) + sum(b) + 0.2)
  const [kick, kickHalf] = [at(o.low, 0), at(o.low, 0.5)]
  const [snare, snareHalf] = [at(o.snare, 0), at(o.snare, 0.5)]
  const quarters = [...at(o.all, 0.25), ...at(o.all, 0.75)].map((x) => x / 2)
  const on = at(o.all, 0)
  const half = at(o.all, 0.5)
  const s = sways(snare)
  const k = sways(kick)
  return {
    'snare by two': Math.abs(s.two),
    'snare by four': s.four,
    'snare on': share(snare, snareHalf),
    'kick by two': Math.abs(k.two),
    'kick by four': k.four,
    'kick on': share(kick, kickHalf),
    'kick against snare': clamp(-4 * s.two * k.two, -1, 1),
    'on to half': share(on, half),
    'on to quarters': share(on, quarters),
    'half to quarters': share(half, quarters),
  }
}
