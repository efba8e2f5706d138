import { FRAME_RATE, type Spectrum } from './spectrum'

/** Onset strength per frame: how much new sound begins there, levelled so that loud and soft passages count alike. */
export interface Onsets {
  frames: number
  /** All bands together. */
  all: Float32Array
  /** Below about 150 Hz: kick and bass. */
  low: Float32Array
  /** About 150 Hz to 2 kHz: voices, chords, the body of a snare. */
  mid: Float32Array
  /** Above about 2 kHz: hats, the rattle of a snare, consonants. */
  high: Float32Array
  /** What begins in the middle and the high bands at once: snares and claps. */
  snare: Float32Array
  /** GROUPS zero-mean curves, one row a frame: the same, finer, for comparing patterns. */
  groups: Float32Array
}

/** Number of band groups compared when patterns are searched. */
export const GROUPS = 8
/** Frames between the two spectra that are compared (Böck & Widmer 2013 use 20 to 30 ms). */
const LAG = 2
/** First bands above about 150 Hz and 2 kHz. */
const MID = 18
const HIGH = 45

/**
 * Spectral flux with a maximum filter over neighbouring bands against vibrato (Böck & Widmer 2013, "Maximum filter
 * vibrato suppression for onset detection"), less its own local mean.
 */
export function onsets(s: Spectrum): Onsets {
  const groups = new Float32Array(s.frames * GROUPS)
  const per = s.bands / GROUPS
  const { log, bands } = s
  for (let f = LAG; f < s.frames; f++) {
    const now = f * bands
    const old = (f - LAG) * bands
    let group = f * GROUPS
    let sum = 0
    for (let b = 0, left = per; b < bands; b++) {
      let past = log[old + b] as number
      if (b > 0 && (log[old + b - 1] as number) > past) past = log[old + b - 1] as number
      if (b + 1 < bands && (log[old + b + 1] as number) > past) past = log[old + b + 1] as number
      const d = (log[now + b] as number) - past
      if (d > 0) sum += d
      if (--left === 0) {
        groups[group++] = sum
        sum = 0
        left = per
      }
    }
  }
  const sum = (from: number, to: number) => {
    const out = new Float32Array(s.frames)
    for (let f = 0; f < s.frames; f++)
      for (let g = from; g < to; g++) out[f] = (out[f] as number) + (groups[f * GROUPS + g] as number)
    return levelled(out)
  }
  const [at, up] = [MID / per, HIGH / per]
  const mid = sum(at, up)
  const high = sum(up, GROUPS)
  return {
    frames: s.frames,
    all: sum(0, GROUPS),
    low: sum(0, at),
    mid,
    high,
    snare: mid.map((x, i) => Math.sqrt(x * (high[i] as number))),
    groups: centred(groups, s.frames),
  }
}

/** Running mean of a curve over `half` frames each way. */
function runningMean(curve: Float32Array, half: number): Float32Array {
  const sums = new Float64Array(curve.length + 1)
  for (let i = 0; i < curve.length; i++) sums[i + 1] = (sums[i] as number) + (curve[i] as number)
  return curve.map((_, i) => {
    const a = Math.max(0, i - half)
    const b = Math.min(curve.length, i + half + 1)
    return ((sums[b] as number) - (sums[a] as number)) / (b - a)
  })
}

/** Takes away the local mean (0.4 s each way), keeps what stands out, and divides by a slow local level. */
function levelled(raw: Float32Array): Float32Array {
  const near = runningMean(raw, Math.round(0.4 * FRAME_RATE))
  const wide = runningMean(raw, Math.round(4 * FRAME_RATE))
  let whole = 0
  for (let i = 0; i < raw.length; i++) whole += (raw[i] as number) / raw.length
  return raw.map((x, i) => Math.max(0, x - (near[i] as number)) / ((wide[i] as number) + 0.25 * whole + 1e-6))
}

/** Each group softened by 15 ms, less its local mean, over its own deviation; groups that hardly sound stay small. */
function centred(groups: Float32Array, frames: number): Float32Array {
  const out = new Float32Array(groups.length)
  const root = groups.map(Math.sqrt)
  const curve = new Float32Array(frames)
  const spread: number[] = []
  for (let g = 0; g < GROUPS; g++) {
    for (let f = 0; f < frames; f++) {
      const here = root[f * GROUPS + g] as number
      const before = f > 0 ? (root[(f - 1) * GROUPS + g] as number) : here
      const after = f + 1 < frames ? (root[(f + 1) * GROUPS + g] as number) : here
      curve[f] = 0.25 * before + 0.5 * here + 0.25 * after
    }
    const mean = runningMean(curve, Math.round(0.5 * FRAME_RATE))
    let square = 0
    for (let f = 0; f < frames; f++) {
      const x = (curve[f] as number) - (mean[f] as number)
      out[f * GROUPS + g] = x
      square += x * x
    }
    spread.push(Math.sqrt(square / Math.max(1, frames)))
  }
  const most = Math.max(...spread, 1e-9)
  const scale = spread.map((x) => 1 / (x + 0.2 * most))
  for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) * (scale[i % GROUPS] as number)
  return out
}
