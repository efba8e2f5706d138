import { change, returns, timbreScale } from './clues'
import { BASS, type BeatFeatures, local, meanRow, rise, TIMBRE } from './features'

/*
 * Clues to which of two bars begins a phrase: what comes again after two bars, cymbals on the first beat, what grows
 * fuller or busier there, and the harmony that is home.
 */

/** The tops of a curve alone, by how far they stand out: few and large, as beginnings of sections are. */
function tops(curve: Float32Array): Float32Array {
  const n = Math.max(1, curve.length)
  let mean = 0
  for (const x of curve) mean += x / n
  let square = 0
  for (const x of curve) square += (x - mean) ** 2 / n
  const z = curve.map((x) => (x - mean) / (Math.sqrt(square) || 1))
  return z.map((x, k) => {
    for (let d = -4; d <= 4; d++) if ((z[k + d] ?? Number.NEGATIVE_INFINITY) > x) return 0
    return Math.max(0, Math.min(4, x - 0.5))
  })
}

/** Mean of some columns of a row matrix. */
function columns(matrix: Float32Array, width: number, from: number, to: number): Float32Array {
  const out = new Float32Array(matrix.length / width)
  for (let k = 0; k < out.length; k++)
    for (let c = from; c < to; c++)
      out[k] = (out[k] as number) + (matrix[k * width + c] as number) / (to - from)
  return out
}

/** How much each row is like the mean of all: the chord a song keeps coming home to. */
function home(matrix: Float32Array, width: number, beats: number): Float32Array {
  const mean = meanRow(matrix, width, 0, beats)
  const out = new Float32Array(beats)
  for (let k = 0; k < beats; k++)
    for (let c = 0; c < width; c++)
      out[k] = (out[k] as number) + (matrix[k * width + c] as number) * (mean[c] as number)
  return out
}

/** Every clue to pairs of bars by name, each one value a beat, standardised over the song. */
export function pairClues(f: BeatFeatures): Record<string, Float32Array> {
  const scale = timbreScale(f)
  const low = columns(f.bass, BASS, 0, BASS)
  const mid = columns(f.timbre, TIMBRE, 4, 8)
  return {
    'returns 8': local(returns(f, scale, 8, 4)),
    'returns 16': local(returns(f, scale, 16, 8)),
    'busier 4': local(rise(f.busy, 4)),
    'busier 8': local(rise(f.busy, 8)),
    'louder 8': local(rise(f.loudness, 8)),
    'low end louder 8': local(rise(low, 8)),
    'middle louder 8': local(rise(mid, 8)),
    'rings away': local(f.shine.map((x, k) => x - (f.shine[k + 3] ?? 0))),
    home: local(home(f.chroma, 12, f.beats)),
    'bass home': local(home(f.bass, BASS, f.beats)),
    'top of brighter 2': tops(rise(f.shine, 2)),
    'top of louder 4': tops(rise(f.loudness, 4)),
    'top of timbre 2': tops(change(f.timbre, TIMBRE, f.beats, 2)),
  }
}
