import type { Bpm } from '../time'
import { FRAME_RATE } from './spectrum'

/** A tempo and how strongly the song supports it, the best being 1. */
export interface TempoGuess {
  bpm: Bpm
  weight: number
}

const SLOWEST_BPM = 55
const FASTEST_BPM = 215
/** People step at about this tempo; common practice, no published source. */
const FELT_BPM = 116
/** Width of the felt-tempo prior in octaves. */
const FELT_WIDTH = 0.75

/** Autocorrelation of the onset strength for lags up to `longest` frames, divided by the value at lag 0. */
export function autocorrelation(curve: Float32Array, longest: number): Float32Array {
  const out = new Float32Array(longest + 1)
  for (let lag = 0; lag <= longest; lag++) {
    let sum = 0
    for (let i = lag; i < curve.length; i++) sum += (curve[i] as number) * (curve[i - lag] as number)
    out[lag] = sum / Math.max(1, curve.length - lag)
  }
  const zero = out[0] as number
  if (zero > 0) for (let lag = 0; lag <= longest; lag++) out[lag] = (out[lag] as number) / zero
  return out
}

function at(curve: Float32Array, x: number): number {
  const i = Math.floor(x)
  const a = curve[i] ?? 0
  return a + (x - i) * ((curve[i + 1] ?? a) - a)
}

/**
 * How much of a steady pulse there is at a period: the autocorrelation at one, two and four periods (beat, half bar,
 * bar of four) less that at the places a pulse of 2/3 or 4/3 the tempo would have its own.
 */
function pulse(ac: Float32Array, period: number): number {
  const on = (at(ac, period) + 1.5 * at(ac, 2 * period) + 2.5 * at(ac, 4 * period) + at(ac, 8 * period)) / 6
  const off =
    (at(ac, 1.5 * period) + at(ac, 3 * period) + at(ac, 2.5 * period) + at(ac, (8 / 3) * period)) / 4
  return on - 0.4 * off
}

/**
 * Tempo candidates, strongest first: autocorrelation of the onset strength with support from multiples of the
 * period, under a log-normal prior on the felt tempo (Ellis 2007, "Beat tracking by dynamic programming").
 * @returns up to five candidates, none when there is no pulse
 */
export function tempi(onset: Float32Array): TempoGuess[] {
  const longest = Math.ceil((8 * 60 * FRAME_RATE) / SLOWEST_BPM) + 2
  const ac = autocorrelation(onset, Math.min(longest, Math.max(2, onset.length >> 1)))
  const scores: TempoGuess[] = []
  for (let bpm = SLOWEST_BPM; bpm <= FASTEST_BPM; bpm *= 1.002) {
    const octaves = Math.log2(bpm / FELT_BPM) / FELT_WIDTH
    const p = pulse(ac, (60 * FRAME_RATE) / bpm)
    scores.push({ bpm, weight: Math.max(0, p) * Math.exp(-0.5 * octaves * octaves) })
  }
  const peaks = scores.filter((s, i) => {
    const before = scores[i - 1]?.weight ?? 0
    const after = scores[i + 1]?.weight ?? 0
    return s.weight > 0 && s.weight >= before && s.weight > after
  })
  peaks.sort((a, b) => b.weight - a.weight)
  const top = peaks[0]?.weight ?? 1
  const out: TempoGuess[] = []
  for (const p of peaks) {
    if (out.length === 5 || p.weight < 0.15 * top) break
    if (!out.some((o) => Math.abs(o.bpm / p.bpm - 1) < 0.03)) out.push({ bpm: p.bpm, weight: p.weight / top })
  }
  return out
}

/** How clearly anything beats at all, 0..1: the normalised autocorrelation at the tempo's period and its multiples. */
export function pulseClarity(onset: Float32Array, bpm: Bpm): number {
  const period = (60 * FRAME_RATE) / bpm
  const ac = autocorrelation(onset, Math.min(Math.ceil(8 * period) + 2, Math.max(2, onset.length >> 1)))
  return Math.max(0, Math.min(1, pulse(ac, period)))
}
