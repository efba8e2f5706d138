import FFT from 'fft.js'
import type { Seconds } from '../time'
import { GROUPS, type Onsets } from './onsets'
import { FRAME_RATE } from './spectrum'

/** How much the sound around a moment is like itself some time later, for windows along the song. */
export interface LagPicture {
  windows: number
  /** Centre of window w in seconds: (w + 0.5) × HOP. */
  lags: number
  /** Likeness -1..1, windows × lags; lag in frames. */
  likeness: Float32Array
  /** Onset energy of each window, the largest being 1. */
  weight: Float32Array
}

/** Seconds from one window to the next. */
export const HOP: Seconds = 2
/** Length of what is compared. */
const SPAN: Seconds = 12
/** Longest lag: eight beats at 55 BPM. */
const LONGEST: Seconds = 8.8

/**
 * Likeness of the onset pattern with itself at all lags, in windows along the song: a tempogram by autocorrelation
 * (Grosche, Müller & Kurth 2010, "Cyclic tempogram"), of band patterns instead of one curve, so that kick and snare
 * do not pass for each other.
 */
export function lagPicture(o: Onsets): LagPicture {
  const span = SPAN * FRAME_RATE
  const lags = Math.round(LONGEST * FRAME_RATE)
  const size = 4096
  const hop = HOP * FRAME_RATE
  const windows = Math.max(1, Math.ceil(o.frames / hop))
  const fft = new FFT(size)
  const a = new Array<number>(size).fill(0)
  const b = new Array<number>(size).fill(0)
  const fa = fft.createComplexArray() as number[]
  const fb = fft.createComplexArray() as number[]
  const sum = fft.createComplexArray() as number[]
  const back = fft.createComplexArray() as number[]
  const energy = new Float64Array(o.frames + 1)
  for (let f = 0; f < o.frames; f++) {
    let e = 0
    for (let g = 0; g < GROUPS; g++) e += (o.groups[f * GROUPS + g] as number) ** 2
    energy[f + 1] = (energy[f] as number) + e
  }
  const between = (from: number, to: number) =>
    (energy[Math.max(0, Math.min(o.frames, to))] as number) -
    (energy[Math.max(0, Math.min(o.frames, from))] as number)
  const out = new Float32Array(windows * lags)
  const weight = new Float32Array(windows)
  for (let w = 0; w < windows; w++) {
    const from = Math.round((w + 0.5) * hop - span / 2)
    sum.fill(0)
    for (let g = 0; g < GROUPS; g++) {
      a.fill(0)
      b.fill(0)
      for (let i = 0; i < span + lags; i++) {
        const f = from + i
        if (f < 0 || f >= o.frames) continue
        const v = o.groups[f * GROUPS + g] as number
        if (i < span) a[i] = v
        b[i] = v
      }
      fft.realTransform(fa, a)
      fft.completeSpectrum(fa)
      fft.realTransform(fb, b)
      fft.completeSpectrum(fb)
      for (let i = 0; i < 2 * size; i += 2) {
        const [ar, ai, br, bi] = [fa[i] as number, fa[i + 1] as number, fb[i] as number, fb[i + 1] as number]
        sum[i] = (sum[i] as number) + ar * br + ai * bi
        sum[i + 1] = (sum[i + 1] as number) + ar * bi - ai * br
      }
    }
    fft.inverseTransform(back, sum)
    const own = between(from, from + span)
    weight[w] = own
    for (let lag = 0; lag < lags; lag++) {
      const theirs = between(from + lag, from + lag + span)
      // Near the end there is little left to compare with: it counts less.
      out[w * lags + lag] = (back[2 * lag] as number) / (Math.sqrt(own * theirs) + 0.15 * own + 1e-9)
    }
  }
  const most = Math.max(...weight, 1e-9)
  return { windows, lags, likeness: out, weight: weight.map((x) => x / most) }
}

/** Best likeness of a window within `reach` frames of a lag. */
export function nearest(p: LagPicture, w: number, lag: number, reach: number): number {
  const row = w * p.lags
  const from = Math.max(0, Math.ceil(lag - reach))
  const to = Math.min(p.lags - 1, Math.floor(lag + reach))
  let best = -1
  for (let i = from; i <= to; i++) best = Math.max(best, p.likeness[row + i] as number)
  if (best > -1) return best
  const i = Math.floor(lag)
  return i + 1 < p.lags ? (p.likeness[row + i] as number) : 0
}

/** How well a beat of this period explains a window, in twos: beat, half bar, bar, two bars. */
export function duple(p: LagPicture, w: number, period: number): number {
  return (
    (nearest(p, w, period, 1) +
      nearest(p, w, 2 * period, 1) +
      1.5 * nearest(p, w, 4 * period, 2) +
      nearest(p, w, 8 * period, 3)) /
    4.5
  )
}

/** The same in threes: beat, bar of three, two bars. */
export function triple(p: LagPicture, w: number, period: number): number {
  return (
    (1.5 * nearest(p, w, period, 1) +
      1.5 * nearest(p, w, 3 * period, 2) +
      1.5 * nearest(p, w, 6 * period, 3)) /
    4.5
  )
}
