/* Which of two bars begins the eight, told by music that comes in another piece of the same song. */
import { alike, timbreScale } from './clues'
import type { Counted } from './count-song'
import type { BeatFeatures } from './features'

/** Music is the same where so many beats on end are alike. */
const RUN = 16
/** How much more alike two pieces must be with one of them a bar later; set on songs that were cut (docs/hearing.md). */
const MORE = 0.1
/** Beats of a phrase: two bars of four. */
const PHRASE = 8
const BAR = PHRASE / 2

/** A piece of a song as it is counted, with what was told of its beats. */
export type CountedPiece = Counted & { features: BeatFeatures }

const placeIn = (beat: number) => ((beat % PHRASE) + PHRASE) % PHRASE
const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / Math.max(1, list.length)

/** How alike two pieces are at best over a run of beats, 0..1, by how many beats later the first one has them; eight later is no later. */
export function likenessByLag(a: BeatFeatures, b: BeatFeatures): number[] {
  const scale = (timbreScale(a) + timbreScale(b)) / 2
  const out = Array.from({ length: PHRASE }, () => 0)
  for (let lag = RUN - b.beats; lag <= a.beats - RUN; lag++) {
    const from = Math.max(0, -lag)
    const many = Math.min(b.beats, a.beats - lag) - from
    const row = Array.from({ length: many }, (_, k) => alike(a, scale, from + k + lag, from + k, b))
    let sum = 0
    row.forEach((x, k) => {
      sum += x - (k >= RUN ? (row[k - RUN] as number) : 0)
      if (k >= RUN - 1) out[placeIn(lag)] = Math.max(out[placeIn(lag)] as number, sum / RUN)
    })
  }
  return out
}

/** Where most phrases of a piece begin, in its beats, eight later being no later. */
function placeOf({ starts }: Counted): number {
  const many = Array.from({ length: PHRASE }, () => 0)
  for (const k of starts) many[placeIn(k)] = (many[placeIn(k)] as number) + 1
  return many.indexOf(Math.max(...many))
}

/** The same with its phrases a bar later. */
function aBarLater(piece: CountedPiece): CountedPiece {
  const { starts, sure, beats } = piece
  const first = starts[0] ?? 0
  const before = first >= BAR ? [first - BAR] : []
  const later = starts.map((k) => k + BAR).filter((k) => k < beats.length)
  const kept = (list: readonly number[]) => [
    ...before.map(() => list[0] ?? 0),
    ...list.slice(0, later.length),
  ]
  return {
    ...piece,
    starts: [...before, ...later],
    sure: { beats: kept(sure.beats), ones: kept(sure.ones) },
  }
}

/** Pieces of one song in bars of four: their eights as those of surer ones, where the same music comes in both. */
export function withEightsAlike(pieces: readonly CountedPiece[]): CountedPiece[] {
  const out = [...pieces]
  const at = (i: number) => out[i] as CountedPiece
  const inFours = pieces.flatMap(({ bar, metres }, i) => (bar === 4 && metres.length < 2 ? [i] : []))
  inFours.sort((i, k) => mean(at(k).sure.ones) - mean(at(i).sure.ones))
  for (const [order, i] of inFours.entries()) {
    let [asItIs, later] = [0, 0]
    for (const k of inFours.slice(0, order)) {
      const likeness = likenessByLag(at(k).features, at(i).features)
      const lag = placeOf(at(k)) - placeOf(at(i))
      asItIs = Math.max(asItIs, likeness[placeIn(lag)] as number)
      later = Math.max(later, likeness[placeIn(lag + BAR)] as number)
    }
    if (later > asItIs + MORE) out[i] = aBarLater(at(i))
  }
  return out
}
