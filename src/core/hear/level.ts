import { type Bpm, lastAtOrBefore, type Seconds } from '../time'
import type { Onsets } from './onsets'
import { FRAME_RATE, type Spectrum } from './spectrum'

/** One way to count a song: every `stride` pulses, from a phase. */
export interface Level {
  /** Pulses a beat: 1, 2 or 4. */
  stride: number
  /** Where in the stride the beat lies, in pulses: 0 <= phase < stride. */
  phase: number
  bpm: Bpm
  beats: Seconds[]
  /** What speaks for it, each about -2..2. */
  features: number[]
  score: number
  /** Share of certainty among all ways, 0..1. */
  probability: number
}

/** People step at about this tempo: Moelants 2002, "Preferred tempo reconsidered" (the figure is from memory). */
const FELT_BPM = 125
const SLOWEST_BPM = 50
const FASTEST_BPM = 230
/** Bins a pulse of the folded profile. */
const BINS = 12

/** Fractional pulse position of every frame. */
function positions(pulses: readonly Seconds[], frames: number): Float32Array {
  const out = new Float32Array(frames)
  const last = pulses.length - 1
  const head = (pulses[1] as number) - (pulses[0] as number)
  const tail = (pulses[last] as number) - (pulses[last - 1] as number)
  for (let f = 0; f < frames; f++) {
    const t = f / FRAME_RATE
    const i = lastAtOrBefore(pulses, t)
    if (i < 0) out[f] = (t - (pulses[0] as number)) / head
    else if (i >= last) out[f] = last + (t - (pulses[last] as number)) / tail
    else out[f] = i + (t - (pulses[i] as number)) / ((pulses[i + 1] as number) - (pulses[i] as number))
  }
  return out
}

/** Onset strength folded over `stride` pulses, softened by a bin. */
function profile(o: Onsets, at: Float32Array, stride: number): Float32Array {
  const n = stride * BINS
  const raw = new Float32Array(n)
  for (let f = 0; f < o.frames; f++) {
    const strength = Math.sqrt((o.all[f] as number) + (o.low[f] as number))
    if (strength <= 0) continue
    const x = ((((at[f] as number) % stride) + stride) % stride) * BINS
    const i = Math.floor(x) % n
    const part = x - Math.floor(x)
    raw[i] = (raw[i] as number) + strength * (1 - part)
    raw[(i + 1) % n] = (raw[(i + 1) % n] as number) + strength * part
  }
  return raw.map(
    (_, i) =>
      0.25 * (raw[(i + n - 1) % n] as number) +
      0.5 * (raw[i] as number) +
      0.25 * (raw[(i + 1) % n] as number),
  )
}

/** Phases at which the folded profile peaks, the strongest first, at most six. */
function phasesOf(p: Float32Array): number[] {
  const n = p.length
  const mean = p.reduce((a, b) => a + b, 0) / n
  const peaks: { phase: number; v: number }[] = []
  for (let i = 0; i < n; i++) {
    const [a, b, c] = [p[(i + n - 1) % n] as number, p[i] as number, p[(i + 1) % n] as number]
    if (b < a || b <= c || b < mean) continue
    const bend = a - 2 * b + c
    peaks.push({ phase: ((i + (bend < 0 ? (0.5 * (a - c)) / bend : 0) + n) % n) / BINS, v: b })
  }
  return peaks
    .sort((x, y) => y.v - x.v)
    .slice(0, 6)
    .map((x) => x.phase)
}

function timeAt(pulses: readonly Seconds[], x: number): Seconds {
  const last = pulses.length - 1
  const i = Math.max(0, Math.min(last - 1, Math.floor(x)))
  const a = pulses[i] as number
  return a + (x - i) * ((pulses[i + 1] as number) - a)
}

/** Strongest value within 25 ms of a time. */
function hit(curve: Float32Array, t: Seconds): number {
  const mid = Math.round(t * FRAME_RATE)
  let best = 0
  for (let f = mid - 2; f <= mid + 3; f++) best = Math.max(best, curve[f] ?? 0)
  return best
}

/** Mean of the square roots of the hits on some times: one loud stroke is not many. */
function meanHit(curve: Float32Array, times: readonly Seconds[]): number {
  let sum = 0
  for (const t of times) sum += Math.sqrt(hit(curve, t))
  return sum / Math.max(1, times.length)
}

const ratio = (a: number, b: number, floor: number) => Math.log2((a + floor) / (b + floor))
const clamp = (x: number, low: number, high: number) => Math.max(low, Math.min(high, x))

/** Sums of a matrix's rows up to each frame, so that any mean is two look-ups. */
interface Sums {
  width: number
  frames: number
  upTo: Float64Array
  /** A row this long is quiet: a tenth of the mean. */
  quiet: number
}

function summed(matrix: Float32Array, width: number, frames: number): Sums {
  const upTo = new Float64Array((frames + 1) * width)
  for (let f = 0; f < frames; f++)
    for (let c = 0; c < width; c++)
      upTo[(f + 1) * width + c] = (upTo[f * width + c] as number) + (matrix[f * width + c] as number)
  let square = 0
  for (let c = 0; c < width; c++) square += (upTo[frames * width + c] as number) ** 2
  return { width, frames, upTo, quiet: 0.1 * (Math.sqrt(square) / Math.max(1, frames)) + 1e-9 }
}

/** How much the sound turns at each time: one less the cosine of the sums of `span` seconds before and after. */
function turns({ width, frames, upTo, quiet }: Sums, times: readonly Seconds[], span: Seconds): Float32Array {
  const w = Math.max(2, Math.round(span * FRAME_RATE))
  const row = (f: number) => Math.max(0, Math.min(frames, f)) * width
  return Float32Array.from(times, (t) => {
    const f = Math.round(t * FRAME_RATE)
    const [a0, a1, b0, b1] = [row(f - w), row(f), row(f + 3), row(f + 3 + w)]
    let [dot, aa, bb] = [0, 1e-9, 1e-9]
    for (let c = 0; c < width; c++) {
      const a = (upTo[a1 + c] as number) - (upTo[a0 + c] as number)
      const b = (upTo[b1 + c] as number) - (upTo[b0 + c] as number)
      dot += a * b
      aa += a * a
      bb += b * b
    }
    const cosine = dot / Math.sqrt(aa * bb)
    // Out of silence, or into it, nothing turns.
    const least = Math.sqrt(Math.min(aa, bb)) / w
    return ((1 - cosine) * least) / (least + quiet)
  })
}

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

interface Sound {
  onsets: Onsets
  chroma: Sums
}

function featuresOf({ onsets: o, chroma }: Sound, beats: readonly Seconds[], bpm: Bpm): number[] {
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
  const slow = [turns(chroma, beats, wide), turns(chroma, between, wide)] as const
  return [
    // People step at a middle tempo, and hardly ever far from it.
    -octaves * octaves,
    -Math.max(0, Math.abs(octaves) - 0.5),
    // Chords change on beats rather than between them: on one beat in four or eight.
    turn(bestClass(slow[0], 4), bestClass(slow[1], 4)),
    turn(bestClass(slow[0], 8), bestClass(slow[1], 8)),
    // Kick on one, snare on two: low and high sway against each other.
    clamp(-lowSway * highSway, -1, 1),
    clamp(ratio(meanHit(o.high, beats), meanHit(o.high, between), floor), -1, 1),
    // Where every second one is silent, it is not a beat.
    -Math.max(0, Math.abs(ratio(meanHit(o.all, even), meanHit(o.all, odd), floor)) - 1),
  ]
}

/** Weight of each feature, fitted on songs of known beat (docs/hearing.md). */
const WEIGHTS = [
  2.73, 1.15, 2.75, 0.72, 0.75, 1.14, 1.2, 1.47, 0.23, -1.34, -0.32, -0.12, -0.71, 0.04, 1.07, -1.26, 1.14,
  0.08, 2.25,
]

/** What likeness of the music with itself at a tempo, or octaves of it, is worth: found on the development half. */
const LIKENESS = 12

/**
 * Every way to count the pulses as beats, the likeliest first.
 * @param pulses about 200 to 400 a minute
 * @param likeness how much the music is like itself at beats of a tempo, -1..1: it tells 2/3 and 3/2 of a swung beat
 *   from the beat, but not its octaves
 */
export function levels(
  s: Spectrum,
  o: Onsets,
  pulses: readonly Seconds[],
  likeness: (bpm: Bpm) => number = () => 0,
): Level[] {
  const sound: Sound = { onsets: o, chroma: summed(s.chroma, 12, s.frames) }
  const at = positions(pulses, o.frames)
  const rate = (60 * (pulses.length - 1)) / ((pulses.at(-1) as number) - (pulses[0] as number))
  const out = [1, 2, 3, 4].flatMap((stride) => {
    const bpm = rate / stride
    if (bpm < SLOWEST_BPM || bpm > FASTEST_BPM) return []
    const grids = phasesOf(profile(o, at, stride)).map((phase) => ({
      phase,
      beats: gridOf(pulses, stride, phase),
    }))
    const rivals = grids.filter((g) => g.beats.length >= 8)
    // What falls on the beat, against what falls on the strongest other place a beat could be.
    const hits = rivals.map((g) => meanHit(o.all, g.beats))
    const most = Math.max(...hits)
    return rivals.map(({ phase, beats }, i): Level => {
      const features = [
        ...featuresOf(sound, beats, bpm),
        ratio(hits[i] as number, most, 0.15),
        ...drumming(o, beats),
        // Beats of three pulses are rarer.
        -Number(stride === 3),
      ]
      const score = features.reduce((sum, v, k) => sum + v * (WEIGHTS[k] as number), 0)
      return { stride, phase, bpm, beats, features, score, probability: 0 }
    })
  })
  const like = out.map((l) => likeness(l.bpm))
  const octaveApart = (a: Bpm, b: Bpm) => {
    const octaves = Math.log2(a / b)
    return Math.abs(octaves - Math.round(octaves)) < 0.05
  }
  for (const l of out)
    l.score += LIKENESS * Math.max(...like.filter((_, i) => octaveApart((out[i] as Level).bpm, l.bpm)))
  out.sort((a, b) => b.score - a.score)
  const top = out[0]?.score ?? 0
  const sum = out.reduce((n, l) => n + Math.exp(l.score - top), 0)
  return out.map((l) => ({ ...l, probability: Math.exp(l.score - top) / sum }))
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
function drumming(o: Onsets, beats: readonly Seconds[]): number[] {
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
  return [
    Math.abs(s.two),
    s.four,
    share(snare, snareHalf),
    Math.abs(k.two),
    k.four,
    share(kick, kickHalf),
    clamp(-4 * s.two * k.two, -1, 1),
    share(on, half),
    share(on, quarters),
    share(half, quarters),
  ]
}

function gridOf(pulses: readonly Seconds[], stride: number, phase: number): Seconds[] {
  const beats: Seconds[] = []
  for (let x = phase; x <= pulses.length - 1; x += stride) beats.push(timeAt(pulses, x))
  return beats
}
