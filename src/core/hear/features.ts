import type { Seconds } from '../time'
import type { Onsets } from './onsets'
import { FRAME_RATE, type Spectrum } from './spectrum'

/** What each beat sounds like, one row or value a beat. */
export interface BeatFeatures {
  beats: number
  /** Timbre: mean log spectrum in 12 coarse bands, beats × 12. */
  timbre: Float32Array
  /** Pitch classes, each beat's row of length 1, beats × 12. */
  chroma: Float32Array
  /** Strongest low-band onset within 50 ms of the beat. */
  low: Float32Array
  /** Strongest onset within 50 ms of the beat. */
  hit: Float32Array
  /** Mean loudness, 0..1. */
  loudness: Float32Array
}

const COARSE = 12

/** Gathers the spectrum between each beat and the next. */
export function beatFeatures(s: Spectrum, o: Onsets, beats: readonly Seconds[]): BeatFeatures {
  const n = beats.length
  const out: BeatFeatures = {
    beats: n,
    timbre: new Float32Array(n * COARSE),
    chroma: new Float32Array(n * 12),
    low: new Float32Array(n),
    hit: new Float32Array(n),
    loudness: new Float32Array(n),
  }
  const per = s.bands / COARSE
  for (let k = 0; k < n; k++) {
    const t = beats[k] as number
    const next = beats[k + 1] ?? t + (t - (beats[k - 1] ?? t - 0.5))
    const a = Math.max(0, Math.round(t * FRAME_RATE))
    const b = Math.min(s.frames, Math.max(a + 1, Math.round(next * FRAME_RATE)))
    for (let f = a; f < b; f++) {
      for (let band = 0; band < s.bands; band++) {
        const i = k * COARSE + Math.floor(band / per)
        out.timbre[i] = (out.timbre[i] as number) + (s.log[f * s.bands + band] as number) / (per * (b - a))
      }
      for (let c = 0; c < 12; c++)
        out.chroma[k * 12 + c] = (out.chroma[k * 12 + c] as number) + (s.chroma[f * 12 + c] as number)
      out.loudness[k] = (out.loudness[k] as number) + (s.loudness[f] as number) / (b - a)
    }
    unit(out.chroma, k * 12, 12)
    out.low[k] = strongestNear(o.low, t)
    out.hit[k] = strongestNear(o.all, t)
  }
  return out
}

function strongestNear(curve: Float32Array, t: Seconds): number {
  const mid = Math.round(t * FRAME_RATE)
  let best = 0
  for (let f = mid - 5; f <= mid + 5; f++) best = Math.max(best, curve[f] ?? 0)
  return best
}

function unit(row: Float32Array, from: number, n: number) {
  let square = 0
  for (let i = from; i < from + n; i++) square += (row[i] as number) ** 2
  const k = square > 0 ? 1 / Math.sqrt(square) : 0
  for (let i = from; i < from + n; i++) row[i] = (row[i] as number) * k
}

/** Mean of some rows of a matrix with `width` columns; rows outside are left out. */
export function meanRow(matrix: Float32Array, width: number, from: number, to: number): Float32Array {
  const out = new Float32Array(width)
  const a = Math.max(0, from)
  const b = Math.min(matrix.length / width, to)
  for (let r = a; r < b; r++)
    for (let c = 0; c < width; c++) out[c] = (out[c] as number) + (matrix[r * width + c] as number) / (b - a)
  return out
}

/** Euclidean distance of two rows. */
export function distance(a: Float32Array, b: Float32Array): number {
  let sum = 0
  for (let i = 0; i < a.length; i++) sum += ((a[i] as number) - (b[i] as number)) ** 2
  return Math.sqrt(sum)
}

/** Values less their mean, over their standard deviation; all zero when they do not vary. */
export function standardised(values: Float32Array): Float32Array {
  const n = Math.max(1, values.length)
  let mean = 0
  for (const x of values) mean += x / n
  let square = 0
  for (const x of values) square += (x - mean) ** 2 / n
  const sd = Math.sqrt(square)
  return values.map((x) => (sd > 1e-9 ? (x - mean) / sd : 0))
}
