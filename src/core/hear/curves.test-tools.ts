/* Curves and harmonies made by hand, for the tests of single stages: what goes in is known exactly. */
import { GROUPS, type Onsets } from './onsets'
import { FRAME_RATE, type Spectrum } from './spectrum'

export interface Hit {
  t: number
  /** Which curves it sounds in. */
  low?: number
  high?: number
}

/** Onset curves with a stroke at each time, spread over the two frames it lies between. */
export function curves(seconds: number, hits: readonly Hit[]): Onsets {
  const frames = seconds * FRAME_RATE
  const curve = () => new Float32Array(frames)
  const o: Onsets = {
    frames,
    all: curve(),
    low: curve(),
    mid: curve(),
    high: curve(),
    snare: curve(),
    groups: new Float32Array(frames * GROUPS),
  }
  for (const { t, low = 1, high = 1 } of hits) {
    const x = t * FRAME_RATE
    const f = Math.floor(x)
    for (const [frame, share] of [
      [f, 1 - (x - f)],
      [f + 1, x - f],
    ] as const) {
      if (frame < 0 || frame >= frames) continue
      const put = (c: Float32Array, i: number, v: number) => {
        c[i] = (c[i] as number) + v * share
      }
      put(o.all, frame, 3 * (low + high))
      put(o.low, frame, 3 * low)
      put(o.mid, frame, 1.5 * high)
      put(o.high, frame, 3 * high)
      put(o.snare, frame, 2 * high)
      for (let g = 0; g < GROUPS; g++) put(o.groups, frame * GROUPS + g, g < GROUPS / 2 ? low : high)
    }
  }
  return o
}

/** A spectrum in which nothing but the pitch classes given ever sounds. */
export function harmony(seconds: number, chordAt: (t: number) => number): Spectrum {
  const frames = seconds * FRAME_RATE
  const s: Spectrum = {
    frames,
    bands: 72,
    log: new Float32Array(frames * 72),
    chroma: new Float32Array(frames * 12),
    loudness: new Float32Array(frames).fill(0.2),
    peak: new Float32Array(frames).fill(0.3),
  }
  for (let f = 0; f < frames; f++)
    for (const step of [0, 4, 7]) s.chroma[f * 12 + ((chordAt(f / FRAME_RATE) + step) % 12)] = 1
  return s
}

export const every = (period: number, from: number, to: number) =>
  Array.from({ length: Math.floor((to - from) / period) }, (_, k) => from + k * period)

/** Uneven by up to 9 ms, the same every time. */
export const uneven = (t: number, i: number) => t + 0.009 * Math.sin(i * 12.9898)

/** Kick on 1 and 3, snare on 2 and 4, hats between. */
export const backbeat = (period: number, seconds: number): Hit[] =>
  every(period, 0.5, seconds - 0.5).flatMap((t, k) => [
    k % 2 === 0 ? { t, low: 1, high: 0.1 } : { t, low: 0, high: 1 },
    { t: t + period / 2, low: 0, high: 0.25 },
  ])
