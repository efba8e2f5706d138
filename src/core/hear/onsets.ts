import { FRAME_RATE, type Spectrum } from './spectrum'

/** Onset strength per frame: how much new sound begins there. */
export interface Onsets {
  /** All bands together. */
  all: Float32Array
  /** Below about 150 Hz: kick and bass. */
  low: Float32Array
}

/** Frames between the two spectra that are compared (Böck & Widmer 2013 use 20 to 30 ms). */
const LAG = 2
/** Bands up to this one lie below about 150 Hz. */
const LOW_BANDS = 18

/**
 * Spectral flux with a maximum filter over neighbouring bands against vibrato (Böck & Widmer 2013), less its own
 * local mean, so that loud and soft passages count alike.
 */
export function onsets(s: Spectrum): Onsets {
  const all = new Float32Array(s.frames)
  const low = new Float32Array(s.frames)
  for (let f = LAG; f < s.frames; f++) {
    const now = f * s.bands
    const old = (f - LAG) * s.bands
    let sum = 0
    let bass = 0
    for (let b = 0; b < s.bands; b++) {
      let past = s.log[old + b] as number
      if (b > 0) past = Math.max(past, s.log[old + b - 1] as number)
      if (b + 1 < s.bands) past = Math.max(past, s.log[old + b + 1] as number)
      const d = (s.log[now + b] as number) - past
      if (d > 0) {
        sum += d
        if (b < LOW_BANDS) bass += d
      }
    }
    all[f] = sum
    low[f] = bass
  }
  return { all: level(all), low: level(low) }
}

/** Takes away the local mean (0.4 s each way), keeps what stands out, and divides by a slow local peak level. */
function level(raw: Float32Array): Float32Array {
  const out = new Float32Array(raw.length)
  const half = Math.round(0.4 * FRAME_RATE)
  const wide = Math.round(4 * FRAME_RATE)
  const sums = new Float64Array(raw.length + 1)
  for (let i = 0; i < raw.length; i++) sums[i + 1] = (sums[i] as number) + (raw[i] as number)
  const mean = (i: number, w: number) => {
    const a = Math.max(0, i - w)
    const b = Math.min(raw.length, i + w + 1)
    return ((sums[b] as number) - (sums[a] as number)) / (b - a)
  }
  let whole = 0
  for (let i = 0; i < raw.length; i++) whole += raw[i] as number
  whole /= Math.max(1, raw.length)
  for (let i = 0; i < raw.length; i++) {
    const over = Math.max(0, (raw[i] as number) - mean(i, half))
    out[i] = over / (mean(i, wide) + 0.25 * whole + 1e-6)
  }
  return out
}
