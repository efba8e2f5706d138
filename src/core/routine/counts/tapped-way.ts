import { type Seconds, TICKS_PER_COUNT, tickOfTime } from '../../time'
import type { Routine } from '../document/schema'
import { backToHeard } from '../edits/grid-edits'
import { asMove, beatsOf, type Choice, type OtherTempo } from './choices'

/** Fewer taps than this show no beat. */
const LEAST = 2
/** Hands lead the beat by some hundredths of a second and are steady within a few; in beats, and roomy: from no source. */
const OFF = 0.22
const UNEVEN = 0.13

/** How far taps are from the beats of a way, one tap a beat; null where they are not on them. @param more is added, in beats */
function distance(taps: readonly Seconds[], beats: readonly Seconds[], more = 0): number | null {
  if (beats.length < 2) return null
  const at = taps.map((t) => tickOfTime(beats, t) / TICKS_PER_COUNT)
  if (at.some((x, i) => i > 0 && Math.abs(x - (at[i - 1] as number) - 1) > 0.4)) return null
  // Each goes with the next beat: the first decides which, so that a hand on the edge does not jump.
  const first = at.reduce((sum, x, i) => sum + x - i, 0) / at.length
  const off = first - Math.round(first)
  const uneven = Math.sqrt(at.reduce((sum, x, i) => sum + (x - i - first) ** 2, 0) / at.length)
  return Math.abs(off) <= OFF && uneven <= UNEVEN ? Math.abs(off) / 2 + uneven + more : null
}

/** Octaves and the beat between, whether the hearing thought of them or not; its own ways know their 1 and go before. */
const plainWays = (heard: readonly Seconds[], bar: number): OtherTempo[] => {
  const period = (heard[1] as Seconds) - (heard[0] as Seconds)
  return [
    [1, period / 2],
    [2, 0],
    [0.5, 0],
    [0.5, period],
  ].map(([factor = 1, shift = 0]) => {
    const bpm = (60 * factor) / period
    return { bpm, factor, shift, weight: 0, one: -1, bar }
  })
}

/** What was heard, and what else it could be. */
interface HeardWays {
  beats: readonly Seconds[]
  tempi: readonly OtherTempo[]
  bar: number
}

/** What a way must be nearer than the counts there are, and one the hearing did not think of than those it did. */
const [OTHER, UNHEARD] = [0.02, 0.03]

/**
 * Which way to count some taps mean: how fast, and where in the beat, decided together. Two taps are enough.
 * @param taps times in the song, ascending, one a beat
 * @param counted times of the counts as they are now
 * @param heard the beats that were heard, the beats in their bars, and the other ways to hear them
 * @returns 'as counted', a move to the way that was tapped, or null where the taps are none of them
 */
export function tappedWay(
  taps: readonly Seconds[],
  counted: readonly Seconds[],
  { beats: heard, tempi: others, bar }: HeardWays,
): 'as counted' | Choice | null {
  if (taps.length < LEAST || heard.length < 2) return null
  const ways: { move: 'as counted' | Choice; far: number | null }[] = [
    { move: 'as counted', far: distance(taps, counted) },
    { move: asHeard(heard), far: distance(taps, heard, OTHER) },
    ...others.map((o) => ({ move: fromHeard(heard, o, bar), far: distance(taps, beatsOf(o, heard), OTHER) })),
    ...plainWays(heard, bar).map((o) => ({
      move: fromHeard(heard, o, bar),
      far: distance(taps, beatsOf(o, heard), OTHER + UNHEARD),
    })),
  ]
  let best = ways[0]
  for (const way of ways) if (way.far !== null && (best?.far == null || way.far < best.far - 1e-6)) best = way
  return best?.far == null ? null : best.move
}

const asHeard = (heard: readonly Seconds[]): Choice => ({
  name: 'As it was heard',
  weight: 1,
  change: (r, newId) => backToHeard(r, heard, newId),
})

/** Other ways are told from what was heard: what was mended by hand goes first. */
function fromHeard(heard: readonly Seconds[], other: OtherTempo, bar: number): Choice {
  const move = asMove(heard, other, bar)
  return {
    ...move,
    change: (r, newId) => {
      const back = backToHeard(r, heard, newId)
      const there = move.change(back.routine, newId)
      return 'said' in there
        ? { routine: there.routine, said: [...back.said, ...there.said] }
        : { routine: there as Routine, said: back.said }
    },
  }
}
