import { BASS, type BeatFeatures, distance, meanRow, standardised, TIMBRE } from './features'

/** Clues to where bars and phrases begin, each one value a beat, standardised over the song. */
export type Clues = readonly Float32Array[]

/** Change of a row matrix across each beat: the mean of the `reach` beats after against those before. */
function change(matrix: Float32Array, width: number, beats: number, reach: number): Float32Array {
  const out = new Float32Array(beats)
  for (let k = 1; k < beats; k++)
    out[k] = distance(meanRow(matrix, width, k - reach, k), meanRow(matrix, width, k, k + reach))
  return out
}

/** Rise of a curve: the mean of the `reach` beats after less those before. */
function rise(curve: Float32Array, reach: number): Float32Array {
  const out = new Float32Array(curve.length)
  for (let k = 1; k < curve.length; k++)
    out[k] = (meanRow(curve, 1, k, k + reach)[0] ?? 0) - (meanRow(curve, 1, k - reach, k)[0] ?? 0)
  return out
}

const moved = (curve: Float32Array, by: number) => curve.map((_, k) => curve[k + by] ?? 0)

/** Likeness of two beats, 0..1, by timbre and harmony. */
export function alike(f: BeatFeatures, scale: number, a: number, b: number): number {
  if (a < 0 || b >= f.beats) return 0
  let d = 0
  for (let c = 0; c < TIMBRE; c++)
    d += ((f.timbre[a * TIMBRE + c] as number) - (f.timbre[b * TIMBRE + c] as number)) ** 2
  let h = 0
  for (let c = 0; c < 12; c++) h += (f.chroma[a * 12 + c] as number) * (f.chroma[b * 12 + c] as number)
  return Math.exp(-d / scale) * h
}

/**
 * Where stretches begin that come again `lag` beats later: how much more the eight beats after are like those at the
 * lag than the eight beats before are (after Foote 2000, "Automatic audio segmentation using a measure of audio
 * novelty", along one diagonal).
 */
function returns(f: BeatFeatures, scale: number, lag: number): Float32Array {
  const like = new Float32Array(f.beats)
  for (let k = 0; k < f.beats; k++) like[k] = alike(f, scale, k, k + lag)
  const ahead = rise(like, 8)
  // The same change, seen from the copy.
  return ahead.map((x, k) => Math.abs(x) + Math.abs(ahead[k - lag] ?? 0))
}

/** Mean squared change of timbre from beat to beat: the yardstick for what is alike in this song. */
export function timbreScale(f: BeatFeatures): number {
  let sum = 1e-9
  for (let k = 1; k < f.beats; k++)
    sum += distance(meanRow(f.timbre, TIMBRE, k - 1, k), meanRow(f.timbre, TIMBRE, k, k + 1)) ** 2 / f.beats
  return sum
}

/** The clues by name, in the order of `clues`; the weights in `ones.ts` follow it. */
export const CLUE_NAMES = [
  'low',
  'mid',
  'high',
  'all',
  'snare',
  'snare before',
  'low before',
  'low two later',
  'harmony 1',
  'harmony 2',
  'harmony 4',
  'harmony 8',
  'bass 1',
  'bass 2',
  'bass 4',
  'timbre 1',
  'timbre 2',
  'timbre 4',
  'timbre 8',
  'timbre 16',
  'louder 1',
  'louder 4',
  'brighter 1',
  'brighter 2',
  'busy before',
  'busy',
  'comes again',
] as const

/** Every clue of a song, in the order of `CLUE_NAMES`. */
export function clues(f: BeatFeatures): Clues {
  const n = f.beats
  const scale = timbreScale(f)
  const snare = f.mid.map((x, k) => Math.sqrt(x * (f.high[k] as number)))
  const back = new Float32Array(n)
  for (const lag of [16, 32, 64]) {
    const r = standardised(returns(f, scale, lag))
    for (let k = 0; k < n; k++) back[k] = (back[k] as number) + (r[k] as number)
  }
  const all = [
    f.low,
    f.mid,
    f.high,
    f.all,
    snare,
    moved(snare, -1),
    moved(f.low, -1),
    moved(f.low, 2),
    change(f.chroma, 12, n, 1),
    change(f.chroma, 12, n, 2),
    change(f.chroma, 12, n, 4),
    change(f.chroma, 12, n, 8),
    change(f.bass, BASS, n, 1),
    change(f.bass, BASS, n, 2),
    change(f.bass, BASS, n, 4),
    change(f.timbre, TIMBRE, n, 1),
    change(f.timbre, TIMBRE, n, 2),
    change(f.timbre, TIMBRE, n, 4),
    change(f.timbre, TIMBRE, n, 8),
    change(f.timbre, TIMBRE, n, 16),
    rise(f.loudness, 1),
    rise(f.loudness, 4),
    rise(f.shine, 1),
    rise(f.shine, 2),
    moved(f.busy, -1),
    f.busy,
    back,
  ]
  return all.map(local)
}

/** What stands out against the eight beats around it; the ends, with nothing beyond them, say little. */
function local(curve: Float32Array): Float32Array {
  const z = standardised(curve)
  z[0] = 0
  return standardised(z.map((x, k) => x - (meanRow(z, 1, Math.max(1, k - 4), k + 4)[0] ?? 0)))
}
