/* What a way to count looks like when the whole song is folded onto its beat, and onto its bars and pairs of bars. */
import type { Bpm, Seconds } from '../time'
import { BASS, TIMBRE } from './features'
import type { Bar } from './hearing'
import { GROUPS, type Onsets } from './onsets'
import { FRAME_RATE, type Spectrum } from './spectrum'
import { type Sums, summed, turnAt } from './turns'

/** Features by name. */
export type Named = Record<string, number>

/** Places in the beat that are looked at, with their names. */
const PLACES = [
  ['0', 0],
  ['1/4', 1 / 4],
  ['1/3', 1 / 3],
  ['1/2', 1 / 2],
  ['2/3', 2 / 3],
  ['3/4', 3 / 4],
] as const
const HALF = 3
/** Steps a beat in which its loudness is followed. */
const STEPS = 12
/** The harmony is compared over at most this long before and after. */
const WIDEST: Seconds = 0.7

/** One thing that is looked for at a time: strength of strokes, or how much the sound turns. */
interface Curve {
  name: string
  /** @param period of the beat, in seconds */
  at: (t: Seconds, period: Seconds) => number
  /** What is small in this song. */
  floor: number
}

/** A song made ready for folding: once, for all ways to count it. */
export interface Folder {
  curves: readonly Curve[]
  loudness: Float32Array
  depth: Float32Array
  /** Strokes a second, by band, and turns of the harmony. */
  rates: readonly (readonly [string, number])[]
}

/** Square root of the strongest value within 20 ms before and 30 ms after each frame: one loud stroke is not many. */
function reached(curve: (f: number) => number, frames: number): Float32Array {
  const raw = Float32Array.from({ length: frames }, (_, f) => Math.max(0, curve(f)))
  const out = new Float32Array(frames)
  for (let f = 0; f < frames; f++) {
    let best = 0
    for (let k = Math.max(0, f - 2); k <= f + 3 && k < frames; k++) best = Math.max(best, raw[k] as number)
    out[f] = Math.sqrt(best)
  }
  return out
}

const meanOf = (xs: ArrayLike<number>) => {
  let sum = 0
  for (let i = 0; i < xs.length; i++) sum += xs[i] as number
  return sum / Math.max(1, xs.length)
}

/** Value of a curve at a time; the ends go on. */
function valueAt(curve: Float32Array, t: Seconds): number {
  const f = Math.max(0, Math.min(curve.length - 1, Math.round(t * FRAME_RATE)))
  return curve[f] ?? 0
}

/** Peaks over a height, a second. */
function peakRate(xs: ArrayLike<number>, height: number, perSecond: number): number {
  let n = 0
  for (let i = 1; i + 1 < xs.length; i++) {
    const x = xs[i] as number
    if (x > height && x > (xs[i - 1] as number) && x >= (xs[i + 1] as number)) n++
  }
  return (n * perSecond) / Math.max(1, xs.length)
}

/** Makes a song ready for folding. */
export function folder(s: Spectrum, o: Onsets): Folder {
  const { frames } = o
  const group = (g: number) => (f: number) => o.groups[f * GROUPS + g] as number
  const band = (m: Float32Array) => (f: number) => m[f] as number
  const strokes: [string, (f: number) => number][] = [
    ['all', band(o.all)],
    ['low', band(o.low)],
    ['mid', band(o.mid)],
    ['high', band(o.high)],
    ['snare', band(o.snare)],
    ['deepest', group(0)],
    ['highest', group(GROUPS - 1)],
  ]
  const per = s.bands / TIMBRE
  const harmony = summed(12, frames, (f, c) => s.chroma[f * 12 + c] as number)
  const bass = summed(BASS, frames, (f, b) => s.log[f * s.bands + b] as number)
  const timbre = summed(TIMBRE, frames, (f, b) => {
    let v = 0
    for (let k = 0; k < per; k++) v += s.log[f * s.bands + per * b + k] as number
    return v / per
  })
  const turning = (name: string, sums: Sums, span: (period: Seconds) => Seconds): Curve => ({
    name,
    at: (t, period) => turnAt(sums, t, span(period)),
    floor: 0.02,
  })
  const wide = (period: Seconds) => Math.min(WIDEST, period)
  const seconds = frames / FRAME_RATE
  const turns = Float32Array.from({ length: Math.max(0, Math.floor((seconds - 2) * 20)) }, (_, i) =>
    turnAt(harmony, 1 + i / 20, 0.4),
  )
  const mean = meanOf(turns)
  const spread = Math.sqrt(meanOf(turns.map((x) => (x - mean) ** 2)))
  const depth = Float32Array.from({ length: frames }, (_, f) => {
    let v = 0
    for (let b = 0; b < BASS; b++) v += s.log[f * s.bands + b] as number
    return Math.max(0, v / BASS)
  })
  return {
    curves: [
      ...strokes.map(([name, curve]) => {
        const near = reached(curve, frames)
        return { name, at: (t: Seconds) => valueAt(near, t), floor: 0.25 * meanOf(near) }
      }),
      turning('harmony', harmony, wide),
      turning('harmony soon', harmony, () => 0.2),
      turning('bass', bass, () => 0.15),
      turning('timbre', timbre, wide),
    ],
    loudness: s.loudness,
    depth,
    rates: [
      ...(['all', 'low', 'snare', 'high'] as const).map(
        (name) => [name, peakRate(o[name], 0.5, FRAME_RATE)] as const,
      ),
      ['harmony', peakRate(turns, mean + spread, 20)],
    ],
  }
}

const inOctaves = (a: number, b: number) => Math.log2((a + 0.1) / (b + 0.1))

/** Means of one row of values a beat by the beat's place in rounds of `n`; whole rounds only. */
function rounds(row: Float32Array, n: number): Float64Array {
  const out = new Float64Array(n)
  const all = Math.floor(row.length / n) * n
  for (let k = 0; k < all; k++) out[k % n] = (out[k % n] as number) + ((row[k] as number) * n) / all
  return out
}

/** How far the first of two differs from the second, by their mean. */
const swayOf = (xs: Float64Array | undefined) => ((xs?.[0] ?? 0) - (xs?.[1] ?? 0)) / 2

/** How far one place of a round stands out: the size of its first harmonic. */
function roundness(xs: Float64Array): number {
  const n = xs.length
  let [re, im] = [0, 0]
  for (let k = 0; k < n; k++) {
    re += (xs[k] as number) * Math.cos((2 * Math.PI * k) / n)
    im += (xs[k] as number) * Math.sin((2 * Math.PI * k) / n)
  }
  return (2 * Math.hypot(re, im)) / n
}

/** What a curve shows, folded: onto the beat and onto twos, and onto bars. */
function foldOf(curve: Curve, beats: readonly Seconds[], steps: readonly Seconds[], period: Seconds) {
  const rows = PLACES.map(([, part]) =>
    Float32Array.from(beats, (t, k) => curve.at(t + part * (steps[k] as number), period)),
  )
  const scale = meanOf(rows.map(meanOf)) + curve.floor
  const scaled = (i: number, n: number) => rounds(rows[i] as Float32Array, n).map((x) => x / scale)
  const two = PLACES.map((_, i) => scaled(i, 2))
  const level = two.map(meanOf)
  const named: Named = {}
  const put = (what: string, v: number, into = named) => {
    into[`${curve.name} ${what}`] = v
  }
  PLACES.forEach(([place], i) => {
    put(`at ${place}`, level[i] as number)
    put(`sways by two at ${place}`, Math.abs(swayOf(two[i])))
  })
  put('on to half', inOctaves(level[0] as number, level[HALF] as number))
  put('on to rest', inOctaves(level[0] as number, Math.max(...level.slice(1))))
  put('height', Math.log2(meanOf(rows[0] as Float32Array) + 0.02))
  const inBars = (bar: Bar): Named => {
    const out: Named = {}
    PLACES.forEach(([place], i) => {
      put(`sways by the bar at ${place}`, roundness(scaled(i, bar)), out)
    })
    const best = (i: number, n: number) => Math.max(...scaled(i, beats.length >= n ? n : bar))
    const [on, half] = [best(0, bar), best(HALF, bar)]
    put('best of a bar on', on, out)
    put('best of a bar half', half, out)
    put('best of two bars on', best(0, 2 * bar), out)
    put('best of two bars half', best(HALF, 2 * bar), out)
    put('best on to best half', inOctaves(on, half), out)
    return out
  }
  return { named, level, two, inBars }
}

/** How loud the beat is all along, as its first two harmonics: in the place of the beat, and against it. */
function within(
  name: string,
  curve: Float32Array,
  beats: readonly Seconds[],
  steps: readonly Seconds[],
): Named {
  const x = Array.from({ length: STEPS }, (_, i) =>
    meanOf(beats.map((t, k) => valueAt(curve, t + (i / STEPS) * (steps[k] as number)))),
  )
  const scale = meanOf(x) + 1e-6
  const harmonic = (n: number, f: (a: number) => number) =>
    (2 * x.reduce((sum, v, i) => sum + (v / scale) * f((2 * Math.PI * n * i) / STEPS), 0)) / STEPS
  return {
    [`${name} in the beat`]: harmonic(1, Math.cos),
    [`${name} across the beat`]: harmonic(1, Math.sin),
    [`${name} in the halves`]: harmonic(2, Math.cos),
    [`${name} across the halves`]: harmonic(2, Math.sin),
    [`${name} depth`]: (Math.max(...x) - Math.min(...x)) / scale,
  }
}

/**
 * Everything folding shows of beats at these times, by name.
 * @param beats at least seven, within the music
 * @returns what it shows when the beats are counted in bars of a size
 */
export function folds(song: Folder, beats: readonly Seconds[], bpm: Bpm): (bar: Bar) => Named {
  const n = beats.length
  const steps = beats.map((t, k) => (k + 1 < n ? (beats[k + 1] as number) - t : t - (beats[k - 1] as number)))
  const period = 60 / bpm
  const each = new Map(song.curves.map((c) => [c.name, foldOf(c, beats, steps, period)]))
  const out: Named = Object.assign({}, ...[...each.values()].map((e) => e.named))
  Object.assign(
    out,
    within('loudness', song.loudness, beats, steps),
    within('depth', song.depth, beats, steps),
  )
  // Kick on one, snare on two: they sway against each other, on the beat or between.
  const [snare, low] = [each.get('snare')?.two, each.get('low')?.two]
  out['kick against snare on'] = -swayOf(snare?.[0]) * swayOf(low?.[0])
  out['kick against snare half'] = -swayOf(snare?.[HALF]) * swayOf(low?.[HALF])
  const all = each.get('all')?.level ?? []
  out['late swing'] = inOctaves(all[4] ?? 0, all[HALF] ?? 0)
  out['early swing'] = inOctaves(all[2] ?? 0, all[HALF] ?? 0)
  for (const [name, rate] of song.rates) out[`${name} a beat`] = Math.log2(rate * period + 0.05)
  return (bar) => Object.assign({}, out, ...[...each.values()].map((e) => e.inBars(bar)))
}
