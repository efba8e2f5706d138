/* The least number of moves at the Count station that turn a hearing into the truth. */
import { countTimes } from '../../src/core/time'
import { continuity, fMeasure, type HeardBeats, matched, median, type Truth, trimmed } from './scores'

/** What counts as right: nearly every beat held, and nearly every phrase begun where it should. */
const BEATS_RIGHT = 0.9
const EIGHTS_RIGHT = 0.85

interface Counted {
  beats: number[]
  /** Beat index where phrases begin. */
  starts: number[]
}

const indexed = (h: HeardBeats): Counted => ({
  beats: h.beats,
  starts: h.eights.map((t) => h.beats.findIndex((b) => Math.abs(b - t) < 0.002)).filter((k) => k >= 0),
})

/** Twice, half from either beat, half a beat earlier or later; what the station does in one move each. */
function beatMoves({ beats, starts }: Counted): Counted[] {
  const odd = (starts[0] ?? 0) % 2
  const half = median(beats.slice(1).map((t, i) => t - (beats[i] as number))) / 2
  const halved = (keep: 0 | 1): Counted => ({
    beats: countTimes(beats, 0.5, keep),
    starts: everyEighth(Math.max(0, ((starts[0] ?? 0) - keep) >> 1), Math.ceil(beats.length / 2)),
  })
  return [
    { beats: countTimes(beats, 2), starts: everyEighth((starts[0] ?? 0) * 2, beats.length * 2) },
    halved(odd as 0 | 1),
    halved((1 - odd) as 0 | 1),
    { beats: beats.map((t) => t - half), starts },
    { beats: beats.map((t) => t + half), starts },
  ]
}

function everyEighth(from: number, n: number): number[] {
  const out: number[] = []
  for (let k = from % 8; k < n; k += 8) out.push(k)
  return out
}

/** How many times a phrase must be given another length for the eights to fall right, moving all of them free. */
function phraseMoves(truth: readonly number[], { beats, starts }: Counted): number {
  const ones = truth.map((t) => nearestIndex(beats, t))
  const first = ones[0]
  if (first === undefined) return 0
  // Every place where two neighbouring eights are not eight beats apart must be told, whatever was heard...
  let told = 0
  for (let i = 1; i < ones.length; i++) if ((ones[i] as number) - (ones[i - 1] as number) !== 8) told++
  const right = fMeasure(trimmed(truth), trimmed(starts.map((k) => beats[k] as number))) >= EIGHTS_RIGHT
  if (right) return 0
  // ...and one move sets the 1 everywhere.
  return 1 + told
}

function nearestIndex(xs: readonly number[], t: number): number {
  let best = 0
  for (let i = 1; i < xs.length; i++)
    if (Math.abs((xs[i] as number) - t) < Math.abs((xs[best] as number) - t)) best = i
  return best
}

/**
 * Corrections needed, at most 4: moves on the beats (twice, half, half a beat later, some milliseconds), then "this is
 * the 1" and lengths of odd phrases. 4 stands for "four or more": such a song is tapped anew.
 */
export function corrections(truth: Truth, heard: HeardBeats): number {
  const beats = trimmed(truth.beats)
  let ways: { c: Counted; moves: number }[] = [{ c: indexed(heard), moves: 0 }]
  let best = 4
  for (let depth = 0; depth <= 2; depth++) {
    for (const { c, moves } of ways) {
      const nudged = nudge(beats, c)
      for (const [way, cost] of [
        [c, 0],
        [nudged, 1],
      ] as const) {
        const got = trimmed(way.beats).filter((t) => t < (beats.at(-1) ?? 0) + 0.5)
        if (continuity(beats, got).cmlt < BEATS_RIGHT) continue
        best = Math.min(best, moves + cost + (truth.eights ? phraseMoves(truth.eights, way) : 0))
        break
      }
    }
    ways = ways.flatMap(({ c, moves }) => beatMoves(c).map((x) => ({ c: x, moves: moves + 1 })))
  }
  return best
}

/** The grid moved by the median distance to the truth, as by the 10 ms buttons or a drag. */
function nudge(beats: readonly number[], { beats: heard, starts }: Counted): Counted {
  const off = matched(beats, heard, 0.2).map(([i, j]) => (beats[i] as number) - (heard[j] as number))
  const by = off.length ? median(off) : 0
  return { beats: heard.map((t) => t + by), starts }
}
