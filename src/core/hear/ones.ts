import { type BeatFeatures, distance, meanRow, standardised } from './features'

/** Where the eights begin, and how far ahead of the next best guess. */
export interface EightsGuess {
  /** Beat index where each phrase begins, ascending; the first is 0 to 7. */
  starts: number[]
  /** 0..1: how much better the chosen counting fits than the next best one, per eight. */
  margin: number
}

/** Change of a row matrix across each beat: the mean of the `reach` beats after against those before. */
export function change(matrix: Float32Array, width: number, beats: number, reach: number): Float32Array {
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

/** What stands out against the eight beats around it; the first beat, with nothing before it, says nothing. */
function local(evidence: Float32Array): Float32Array {
  const out = evidence.map((x, k) => x - (meanRow(evidence, 1, Math.max(1, k - 4), k + 4)[0] ?? 0))
  out[0] = 0
  return out.map((x) => Math.max(-MOST, Math.min(MOST, x)))
}

function add(sum: Float32Array, values: Float32Array, weight: number) {
  const z = standardised(values)
  // One very loud place must not decide for the whole song.
  for (let i = 0; i < sum.length; i++)
    sum[i] = (sum[i] as number) + weight * Math.max(-2.5, Math.min(2.5, z[i] as number))
}

/** No single beat says more than this. */
const MOST = 6

/** Evidence per beat that a bar begins there: bass onset, harmony change, timbre change. */
function barEvidence(f: BeatFeatures): Float32Array {
  const out = new Float32Array(f.beats)
  add(out, f.low, 1)
  add(out, change(f.chroma, 12, f.beats, 1), 0.6)
  add(out, change(f.chroma, 12, f.beats, 2), 1.2)
  add(out, change(f.chroma, 12, f.beats, 4), 0.8)
  return local(out)
}

/** Evidence per beat that a phrase begins there: layers entering or leaving, harmony, a stressed hit. */
function phraseEvidence(f: BeatFeatures): Float32Array {
  const out = new Float32Array(f.beats)
  add(out, change(f.timbre, 12, f.beats, 8), 1.6)
  add(out, change(f.chroma, 12, f.beats, 8), 0.8)
  add(out, rise(f.loudness, 2), 0.4)
  add(out, f.hit, 0.5)
  return local(out)
}

/** What a phrase of another length than eight must be worth before it is believed, in units of evidence. */
const ODD_PHRASE_COST = 8
/** How much the bar weighs against the phrase. */
const BAR_WEIGHT = 0.9

/**
 * The eights: the best path through positions 1 to 8, one step a beat, where evidence of a phrase counts at 1 and
 * evidence of a bar at 1 and 5; a phrase may end after four counts, at a cost (Viterbi 1967). Assumes bars of four.
 */
export function findEights(f: BeatFeatures): EightsGuess {
  const bar = barEvidence(f)
  const phrase = phraseEvidence(f)
  const gain = (k: number, position: number) => {
    if (position === 0) return (phrase[k] as number) + BAR_WEIGHT * (bar[k] as number)
    return position === 4 ? BAR_WEIGHT * (bar[k] as number) : 0
  }
  const n = f.beats
  const cells = n * 8
  const score = new Float64Array(cells).fill(Number.NEGATIVE_INFINITY)
  const from = new Int8Array(cells)
  for (let p = 0; p < 8; p++) score[p] = gain(0, p)
  for (let k = 1; k < n; k++) {
    for (let p = 0; p < 8; p++) {
      const usual = (p + 7) % 8
      let best = score[(k - 1) * 8 + usual] as number
      let back = usual
      if (p === 0) {
        const short = (score[(k - 1) * 8 + 3] as number) - ODD_PHRASE_COST
        if (short > best) {
          best = short
          back = 3
        }
      }
      score[k * 8 + p] = best + gain(k, p)
      from[k * 8 + p] = back
    }
  }
  let position = 0
  for (let p = 1; p < 8; p++)
    if ((score[(n - 1) * 8 + p] as number) > (score[(n - 1) * 8 + position] as number)) position = p
  const ends = Array.from({ length: 8 }, (_, p) => score[(n - 1) * 8 + p] as number).sort((a, b) => b - a)
  const starts: number[] = []
  for (let k = n - 1; k >= 0; k--) {
    if (position === 0) starts.push(k)
    position = from[k * 8 + position] as number
  }
  starts.reverse()
  const lead = ((ends[0] as number) - (ends[1] as number)) / Math.max(1, n / 8)
  return { starts, margin: Math.max(0, Math.min(1, lead)) }
}
