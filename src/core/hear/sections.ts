import { alike, timbreScale } from './clues'
import { type BeatFeatures, distance, meanRow } from './features'

/** A stretch of beats that sounds alike, with a letter shared by stretches alike. */
export interface Stretch {
  /** First beat index, on a 1. */
  beat: number
  letter: string
}

interface Row {
  timbre: Float32Array
  chroma: Float32Array
}

const unlike = (a: Row, b: Row, scale: { timbre: number; chroma: number }) =>
  distance(a.timbre, b.timbre) / scale.timbre + 0.8 * (distance(a.chroma, b.chroma) / scale.chroma)

/** Mean distance between neighbouring eights, the yardstick for what is a change in this song. */
function yardstick(rows: readonly Row[]) {
  const mean = (of: (r: Row) => Float32Array) => {
    let sum = 0
    for (let i = 1; i < rows.length; i++) sum += distance(of(rows[i] as Row), of(rows[i - 1] as Row))
    return sum / Math.max(1, rows.length - 1) || 1
  }
  return { timbre: mean((r) => r.timbre), chroma: mean((r) => r.chroma) }
}

/**
 * Sections on eights: a boundary where one or two eights before and after differ most (novelty along the diagonal of
 * the self-similarity, Foote 2000, "Automatic audio segmentation using a measure of audio novelty"), letters by
 * likeness of their means.
 * @param starts beat index where each phrase begins
 */
export function findSections(f: BeatFeatures, starts: readonly number[]): Stretch[] {
  const one = starts[0] ?? 0
  const rows = starts.map((k, i) => rowOf(f, k, starts[i + 1] ?? f.beats))
  if (rows.length < 4) return rows.length ? [{ beat: one, letter: 'A' }] : []
  const scale = yardstick(rows)
  const novelty = starts.map((k, i) =>
    i === 0 ? 0 : unlike(rowOf(f, Math.max(one, k - 16), k), rowOf(f, k, k + 16), scale),
  )
  const mean = novelty.reduce((a, b) => a + b, 0) / novelty.length
  const sd = Math.sqrt(novelty.reduce((a, b) => a + (b - mean) ** 2, 0) / novelty.length)
  const edges = [0]
  for (let i = 1; i < starts.length; i++) {
    const here = novelty[i] as number
    const peak = here >= (novelty[i - 1] ?? 0) && here >= (novelty[i + 1] ?? 0)
    if (peak && here > mean + 0.35 * sd && i - (edges.at(-1) as number) >= 2) edges.push(i)
  }
  return lettered(f, starts, edges, scale)
}

function rowOf(f: BeatFeatures, from: number, to: number): Row {
  return { timbre: meanRow(f.timbre, 12, from, to), chroma: meanRow(f.chroma, 12, from, to) }
}

function lettered(
  f: BeatFeatures,
  starts: readonly number[],
  edges: number[],
  scale: { timbre: number; chroma: number },
): Stretch[] {
  const kinds: { letter: string; row: Row }[] = []
  return edges.map((edge, i) => {
    const beat = starts[edge] as number
    const end = starts[edges[i + 1] ?? starts.length] ?? f.beats
    const row = rowOf(f, beat, end)
    const known = kinds.map((k) => ({ k, d: unlike(k.row, row, scale) })).sort((a, b) => a.d - b.d)[0]
    if (known && known.d < 0.9) return { beat, letter: known.k.letter }
    const letter = String.fromCharCode(65 + Math.min(25, kinds.length))
    kinds.push({ letter, row })
    return { beat, letter }
  })
}

/** Two phrases at least this alike, of 1, are rows "same as" each other. */
const SAME = 0.72

/**
 * For each phrase the earlier one it repeats, or -1: likeness beat by beat, of timbre and harmony.
 * @param starts beat index where each phrase begins
 */
export function sameAs(f: BeatFeatures, starts: readonly number[]): number[] {
  const scale = timbreScale(f)
  const length = (i: number) => (starts[i + 1] ?? f.beats) - (starts[i] as number)
  return starts.map((start, i) => {
    let best = SAME
    let same = -1
    for (let j = 0; j < i; j++) {
      if (length(j) !== length(i)) continue
      let sum = 0
      for (let k = 0; k < length(i); k++) sum += alike(f, scale, (starts[j] as number) + k, start + k)
      if (sum / length(i) > best + 1e-6) {
        best = sum / length(i)
        same = j
      }
    }
    return same
  })
}
