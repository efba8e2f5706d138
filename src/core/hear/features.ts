import type { Seconds } from '../time'
import type { Onsets } from './onsets'
import { FRAME_RATE, type Spectrum } from './spectrum'

/** What each beat sounds like, one row a beat. */
export interface BeatFeatures {
  beats: number
  /** Timbre: mean log spectrum in TIMBRE coarse bands. */
  timbre: Float32Array
  /** Pitch classes, each row of length 1, beats × 12. */
  chroma: Float32Array
  /** Mean log spectrum below about 150 Hz, beats × BASS. */
  bass: Float32Array
  /** Strongest onset within 50 ms of the beat, in the low, middle and high bands and in all. */
  low: Float32Array
  mid: Float32Array
  high: Float32Array
  all: Float32Array
  /** Onset strength summed over the beat's whole length: how busy it is. */
  busy: Float32Array
  /** Mean loudness, 0..1, and mean of the highest bands (cymbals that ring). */
  loudness: Float32Array
  shine: Float32Array
}

export const TIMBRE = 12
export const BASS = 18
/** Cymbals ring in the bands from here on. */
const SHINE = 60

/** Gathers the spectrum between each beat and the next. */
export function beatFeatures(s: Spectrum, o: Onsets, beats: readonly Seconds[]): BeatFeatures {
  const n = beats.length
  const curve = () => new Float32Array(n)
  const out: BeatFeatures = {
    beats: n,
    timbre: new Float32Array(n * TIMBRE),
    chroma: new Float32Array(n * 12),
    bass: new Float32Array(n * BASS),
    low: curve(),
    mid: curve(),
    high: curve(),
    all: curve(),
    busy: curve(),
    loudness: curve(),
    shine: curve(),
  }
  for (let k = 0; k < n; k++) {
    const t = beats[k] as number
    const next = beats[k + 1] ?? t + (t - (beats[k - 1] ?? t - 0.5))
    const a = Math.max(0, Math.round(t * FRAME_RATE))
    const b = Math.min(s.frames, Math.max(a + 1, Math.round(next * FRAME_RATE)))
    const part = 1 / Math.max(1, b - a)
    for (let f = a; f < b; f++) addFrame(out, k, { s, o, f, part })
    unit(out.chroma, k * 12, 12)
    for (const part of ['low', 'mid', 'high', 'all'] as const)
      out[part][k] = Math.sqrt(strongestNear(o[part], t))
  }
  return out
}

/** Adds one frame to what its beat sounds like. @param part what one frame is of the beat */
function addFrame(
  { timbre, chroma, bass, busy, loudness, shine }: BeatFeatures,
  k: number,
  { s, o, f, part }: { s: Spectrum; o: Onsets; f: number; part: number },
) {
  const per = s.bands / TIMBRE
  const row = f * s.bands
  let group = k * TIMBRE
  for (let band = 0, left = per; band < s.bands; band++) {
    const v = (s.log[row + band] as number) * part
    timbre[group] = (timbre[group] as number) + v / per
    if (band < BASS) bass[k * BASS + band] = (bass[k * BASS + band] as number) + v
    if (band >= SHINE) shine[k] = (shine[k] as number) + v / (s.bands - SHINE)
    if (--left === 0) {
      group++
      left = per
    }
  }
  for (let c = 0; c < 12; c++)
    chroma[k * 12 + c] = (chroma[k * 12 + c] as number) + (s.chroma[f * 12 + c] as number)
  loudness[k] = (loudness[k] as number) + (s.loudness[f] as number) * part
  busy[k] = (busy[k] as number) + ((o.mid[f] as number) + (o.high[f] as number))
}

function strongestNear(curve: Float32Array, t: Seconds): number {
  const mid = Math.round(t * FRAME_RATE)
  let best = 0
  for (let f = mid - 4; f <= mid + 5; f++) best = Math.max(best, curve[f] ?? 0)
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

/** Values less their mean, over their standard deviation, no further than 2.5; all zero when they do not vary. */
export function standardised(values: Float32Array): Float32Array {
  const n = Math.max(1, values.length)
  let mean = 0
  for (const x of values) mean += x / n
  let square = 0
  for (const x of values) square += (x - mean) ** 2 / n
  const sd = Math.sqrt(square)
  // One very loud place must not decide for the whole song.
  return values.map((x) => (sd > 1e-9 ? Math.max(-2.5, Math.min(2.5, (x - mean) / sd)) : 0))
}

/** Rise of a curve: the mean of the `reach` beats after less those before. */
export function rise(curve: Float32Array, reach: number): Float32Array {
  const out = new Float32Array(curve.length)
  for (let k = 1; k < curve.length; k++)
    out[k] = (meanRow(curve, 1, k, k + reach)[0] ?? 0) - (meanRow(curve, 1, k - reach, k)[0] ?? 0)
  return out
}

/** What stands out against the eight beats around it; the ends, with nothing beyond them, say little. */
export function local(curve: Float32Array): Float32Array {
  const z = standardised(curve)
  z[0] = 0
  return standardised(z.map((x, k) => x - (meanRow(z, 1, Math.max(1, k - 4), k + 4)[0] ?? 0)))
}
