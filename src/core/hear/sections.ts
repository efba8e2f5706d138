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

/** What sets in with a section stands out by so many mean differences at least. */
const LEAST_NOVELTY = 0.6
/** Eights a section has at least. */
const SHORTEST = 2
/** What a section costs whose eights are no multiple of four: an even number of them, and an odd one. */
const [EVEN, ODD] = [0.4, 0.8]
/** Changes differ by so much at least in the mean, in what eights beside each other differ by: where all sounds alike nothing sets in. */
const LEAST_DIFFERENCE = 0.4
/** Eights on either side that a change is held against: the same change shows in those beside it. */
const AROUND = 2

/**
 * Sections on eights. A boundary is where one or two eights before and after differ more than around it (novelty along the
 * diagonal of the self-similarity, Foote 2000, "Automatic audio segmentation using a measure of audio novelty"), and
 * sections of four eights, or a multiple, are cheaper than others (common practice, no published source): of all
 * choices the one that is worth most, by dynamic programming (as in Sargent, Bimbot & Vincent 2011, "A
 * regularity-constrained Viterbi algorithm and its application to the structural segmentation of songs", from memory).
 * Letters by likeness of their means.
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
  const lengths = starts.map((k, i) => (starts[i + 1] ?? f.beats) - k)
  const isSpare = lengths.map((l, i) => l < (lengths[i - 1] ?? l) && l < (lengths[i + 1] ?? l))
  const whole = starts.map((_, i) => i - isSpare.slice(0, i).filter(Boolean).length)
  return lettered(f, starts, edgesOf(novelty, whole), scale)
}

/** How much more changes at each eight than at those around it, as a multiple of what that is in the mean. */
function standingOut(novelty: readonly number[]): number[] {
  const over = novelty.map((x, i) => {
    const beside = novelty.slice(Math.max(1, i - AROUND), i + AROUND + 1)
    return x - (beside.reduce((a, b) => a + b, 0) - x) / Math.max(1, beside.length - 1)
  })
  const mean = Math.max(LEAST_DIFFERENCE, over.reduce((a, x) => a + Math.abs(x), 0) / over.length)
  return over.map((x) => x / mean)
}

/**
 * The eights that sections begin with, the first among them: the choice that is worth most.
 * @param novelty how much changes at each eight; nothing at the first
 * @param whole how many whole eights come before each: a spare bar makes no section longer
 */
function edgesOf(novelty: readonly number[], whole: readonly number[]): number[] {
  const n = novelty.length
  const out = standingOut(novelty)
  /** What the sections before an eight are worth at most, where one begins there, and where the last of them began. */
  const worth = [0]
  const before = [0]
  for (let i = 1; i <= n; i++) {
    const ends = i === n
    const here = ends ? 0 : (out[i] as number) - LEAST_NOVELTY
    worth[i] = Number.NEGATIVE_INFINITY
    for (let k = 0; k < i; k++) {
      if (i - k < SHORTEST) break
      // A song may end in the midst of its last section.
      const cost = ends ? 0 : costOf((whole[i] as number) - (whole[k] as number))
      const x = (worth[k] as number) + here - cost
      if (x > (worth[i] as number)) [worth[i], before[i]] = [x, k]
    }
  }
  const edges = [before[n] as number]
  while (edges[0]) edges.unshift(before[edges[0]] as number)
  return edges
}

const costOf = (eights: number) => (eights % 4 === 0 ? 0 : eights % 2 === 0 ? EVEN : ODD)

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
