import { BASS, type BeatFeatures, distance, local, meanRow, rise, standardised, TIMBRE } from './features'

/** Clues to where bars and phrases begin, by name, each one value a beat, standardised over the song. */
export type Clues = Readonly<Record<string, Float32Array>>

/** Change of a row matrix across each beat: the mean of the `reach` beats after against those before. */
export function change(matrix: Float32Array, width: number, beats: number, reach: number): Float32Array {
  const out = new Float32Array(beats)
  for (let k = 1; k < beats; k++)
    out[k] = distance(meanRow(matrix, width, k - reach, k), meanRow(matrix, width, k, k + reach))
  return out
}

const moved = (curve: Float32Array, by: number) => curve.map((_, k) => curve[k + by] ?? 0)

/** Likeness of two beats, 0..1, by timbre and harmony. @param g the second one's song, where it is another */
export function alike(f: BeatFeatures, scale: number, a: number, b: number, g: BeatFeatures = f): number {
  if (a < 0 || b >= g.beats) return 0
  let d = 0
  for (let c = 0; c < TIMBRE; c++)
    d += ((f.timbre[a * TIMBRE + c] as number) - (g.timbre[b * TIMBRE + c] as number)) ** 2
  let h = 0
  for (let c = 0; c < 12; c++) h += (f.chroma[a * 12 + c] as number) * (g.chroma[b * 12 + c] as number)
  return Math.exp(-d / scale) * h
}

/**
 * Where stretches begin that come again `lag` beats later: how much more the `reach` beats after are like those at the
 * lag than as many before are (after Foote 2000, "Automatic audio segmentation using a measure of audio
 * novelty", along one diagonal).
 */
export function returns(f: BeatFeatures, scale: number, lag: number, reach: number): Float32Array {
  const like = new Float32Array(f.beats)
  for (let k = 0; k < f.beats; k++) like[k] = alike(f, scale, k, k + lag)
  const ahead = rise(like, reach)
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

/** Clues to bars and to phrases; those to pairs of bars are in pair-clues.ts. */
export function clues(f: BeatFeatures): Clues {
  const n = f.beats
  const scale = timbreScale(f)
  const snare = f.mid.map((x, k) => Math.sqrt(x * (f.high[k] as number)))
  const back = new Float32Array(n)
  for (const lag of [16, 32, 64]) {
    const r = standardised(returns(f, scale, lag, 8))
    for (let k = 0; k < n; k++) back[k] = (back[k] as number) + (r[k] as number)
  }
  const all: Record<string, Float32Array> = {
    low: f.low,
    mid: f.mid,
    high: f.high,
    all: f.all,
    snare: snare,
    'snare before': moved(snare, -1),
    'low before': moved(f.low, -1),
    'low two later': moved(f.low, 2),
    'harmony 1': change(f.chroma, 12, n, 1),
    'harmony 2': change(f.chroma, 12, n, 2),
    'harmony 4': change(f.chroma, 12, n, 4),
    'harmony 8': change(f.chroma, 12, n, 8),
    'bass 1': change(f.bass, BASS, n, 1),
    'bass 2': change(f.bass, BASS, n, 2),
    'bass 4': change(f.bass, BASS, n, 4),
    'timbre 1': change(f.timbre, TIMBRE, n, 1),
    'timbre 2': change(f.timbre, TIMBRE, n, 2),
    'timbre 4': change(f.timbre, TIMBRE, n, 4),
    'timbre 8': change(f.timbre, TIMBRE, n, 8),
    'timbre 16': change(f.timbre, TIMBRE, n, 16),
    'louder 1': rise(f.loudness, 1),
    'louder 4': rise(f.loudness, 4),
    'brighter 1': rise(f.shine, 1),
    'brighter 2': rise(f.shine, 2),
    'busy before': moved(f.busy, -1),
    busy: f.busy,
    'comes again': back,
  }
  return Object.fromEntries(Object.entries(all).map(([name, curve]) => [name, local(curve)]))
}
