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
  return raw.map((_, i) => 0.25 * (raw[(i + n - 1) % n] as number) + 0.5 * (raw[i] as number) + 0.25 * (raw[(i + 1) % n] as number))
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
  return peaks.sort((x, y) => y.v - x.v).slice(0, 6).map((x) => x.phase)
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
}

function summed(matrix: Float32Array, from: number, width: number, frames: number): Sums {
  const upTo = new Float64Array((frames + 1) * width)
  // Several columns of a finer matrix go into one.
  const per = from / width
  for (let f = 0; f < frames; f++)
    for (let c = 0; c < width; c++) {
      let v = 0
      for (let k = 0; k < per; k++) v += matrix[f * from + c * per + k] as number
      upTo[(f + 1) * width + c] = (upTo[f * width + c] as number) + v
    }
  return { width, frames, upTo }
}

/** How much the sound turns at each time: one less the cosine of the sums of `span` seconds before and after. */
function turns({ width, frames, upTo }: Sums, times: readonly Seconds[], span: Seconds): Float32Array {
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
    return 1 - dot / Math.sqrt(aa * bb)
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
  timbre: Sums
}

function featuresOf({ onsets: o, chroma, timbre }: Sound, beats: readonly Seconds[], bpm: Bpm): number[] {
  const between = beats.slice(1).map((t, i) => (t + (beats[i] as number)) / 2)
  const even = beats.filter((_, i) => i % 2 === 0)
  const odd = beats.filter((_, i) => i % 2 === 1)
  const period = 60 / bpm
  const floor = 0.15
  const [lowEven, lowOdd] = [meanHit(o.low, even), meanHit(o.low, odd)]
  const highOf = (xs: readonly Seconds[]) => meanHit(o.mid, xs) + meanHit(o.high, xs)
  const octaves = Math.log2(bpm / 118)
  const span = Math.min(0.3, period * 0.5)
  const chord = [turns(chroma, beats, span), turns(chroma, between, span)] as const
  const wide = Math.min(0.7, period)
  const slow = [turns(chroma, beats, wide), turns(chroma, between, wide)] as const
  const colour = [turns(timbre, beats, span), turns(timbre, between, span)] as const
  const all = ratio(meanHit(o.all, beats), meanHit(o.all, between), floor)
  const low = ratio(meanHit(o.low, beats), meanHit(o.low, between), floor)
  return [
    -octaves * octaves,
    clamp(all, -1, 1),
    clamp(low, -1, 1),
    -Math.max(0, all - 1),
    ratio(mean(chord[0]), mean(chord[1]), 0.02),
    ratio(mean(slow[0]), mean(slow[1]), 0.02),
    ratio(bestClass(slow[0], 4), bestClass(slow[1], 4), 0.02),
    ratio(bestClass(slow[0], 8), bestClass(slow[1], 8), 0.02),
    ratio(mean(colour[0]), mean(colour[1]), 0.01),
    // Kick on one, snare on two: low and high alternate against each other.
    clamp(-ratio(lowEven, lowOdd, floor) * ratio(highOf(even), highOf(odd), 2 * floor), -1, 1),
    -Math.abs(ratio(meanHit(o.all, even), meanHit(o.all, odd), floor)),
    clamp(ratio(meanHit(o.high, beats), meanHit(o.high, between), floor), -1, 1),
    -Math.max(0, Math.abs(octaves) - 0.5),
  ]
}

/** Weight of each feature, fitted on songs of known beat (docs/hearing.md). */
export const WEIGHTS = [2.58, -0.18, -0.54, -0.23, 0.64, -0.02, 1.57, 1.06, 0.42, 0.48, 0.02, 1.57, 1.29]

/**
 * Every way to count the pulses as beats, the likeliest first.
 * @param pulses about 200 to 400 a minute
 */
export function levels(s: Spectrum, o: Onsets, pulses: readonly Seconds[]): Level[] {
  const sound: Sound = {
    onsets: o,
    chroma: summed(s.chroma, 12, 12, s.frames),
    timbre: summed(s.log, s.bands, 24, s.frames),
  }
  const at = positions(pulses, o.frames)
  const rate = (60 * (pulses.length - 1)) / ((pulses.at(-1) as number) - (pulses[0] as number))
  const out: Level[] = []
  for (const stride of [1, 2, 4]) {
    const bpm = rate / stride
    if (bpm < 50 || bpm > 230) continue
    for (const phase of phasesOf(profile(o, at, stride))) {
      const beats: Seconds[] = []
      for (let x = phase; x <= pulses.length - 1; x += stride) beats.push(timeAt(pulses, x))
      if (beats.length < 8) continue
      const features = featuresOf(sound, beats, bpm)
      const score = features.reduce((sum, v, i) => sum + v * (WEIGHTS[i] as number), 0)
      out.push({ stride, phase, bpm, beats, features, score, probability: 0 })
    }
  }
  out.sort((a, b) => b.score - a.score)
  const top = out[0]?.score ?? 0
  const sum = out.reduce((n, l) => n + Math.exp(l.score - top), 0)
  return out.map((l) => ({ ...l, probability: Math.exp(l.score - top) / sum }))
}
