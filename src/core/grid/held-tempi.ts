import { type Bpm, lastAtOrBefore, median, type Seconds } from '../time'

/** Fewer beats of one tempo are no stretch of their own. */
const LEAST = 16
/** A tempo is held within this: beats are kept to a tenth of a millisecond, and a part of a beat may lie at a seam. */
const WITHIN = 0.01
/** One tempo is a machine's within this: that of a piece of half a minute is known less exactly than that of a song. */
const EXACT = 0.004
/** Beats that lie between two stretches. */
const BETWEEN = 4

/** A stretch at one tempo. */
export interface HeldTempo {
  /** When its first beat is. */
  from: Seconds
  bpm: Bpm
}

/** The tempo at a time: what is held there, else the usual one. */
export const tempoHeldAt = (tempi: readonly HeldTempo[], usual: Bpm, t: Seconds): Bpm =>
  (tempi.findLast(({ from }) => from <= t + 1e-3) ?? tempi[0])?.bpm ?? usual

/** The counts of one tempo of several, from one up to another. */
export interface HeldCounts {
  from: number
  to: number
  bpm: Bpm
}

/** Where the tempo is held that a count lies in; null where the grid holds one alone, or none. */
export function heldCounts(beats: readonly Seconds[], count: number): HeldCounts | null {
  const tempi = heldTempi(beats)
  const starts = tempi.map((t, i) => (i ? lastAtOrBefore(beats, t.from + 1e-3) : 0))
  const i = Math.max(
    0,
    starts.findLastIndex((start) => start <= count),
  )
  const held = tempi[i]
  return held ? { from: starts[i] ?? 0, to: starts[i + 1] ?? beats.length, bpm: held.bpm } : null
}

/** Those of them that are held somewhere between two times. */
export const tempiWithin = (tempi: readonly HeldTempo[], from: Seconds, to: Seconds): readonly HeldTempo[] =>
  tempi.filter((t, i) => t.from < to && (tempi[i + 1]?.from ?? Number.POSITIVE_INFINITY) > from)

/** The slowest and the fastest that is held, rounded; the usual one twice where one tempo is held. */
export function tempoRange(tempi: readonly HeldTempo[], usual: Bpm): [slowest: Bpm, fastest: Bpm] {
  const all = tempi.length ? tempi.map((t) => Math.round(t.bpm)) : [Math.round(usual)]
  return [Math.min(...all), Math.max(...all)]
}

/** "96 BPM"; "96–140 BPM" where songs of several tempi were cut together. */
export const rangeText = ([slowest, fastest]: readonly [Bpm, Bpm]): string =>
  `${slowest}${fastest > slowest ? `–${fastest}` : ''} BPM`

/**
 * Where a grid of one tempo goes on a part of a beat sooner or later, as songs do of which something was cut out.
 * @param beats ascending
 * @returns the first beats after each such place; null where its tempo moves
 */
export function gapsIn(beats: readonly Seconds[]): Seconds[] | null {
  if (beats.length <= LEAST) return null
  const steps = beats.slice(1).map((t, i) => t - (beats[i] as number))
  const usual = median(steps)
  const odd = steps.flatMap((step, i) => (Math.abs(step / usual - 1) > EXACT ? [i] : []))
  const last = odd.filter((i, k) => (odd[k + 1] ?? Number.POSITIVE_INFINITY) - i > BETWEEN)
  const ends = [-1, ...last, steps.length]
  const held = ends.slice(1).every((end, i) => end - (ends[i] as number) > LEAST)
  const few = odd.length <= BETWEEN * last.length
  return held && few ? last.map((i) => beats[i + 1] as number) : null
}

/**
 * The tempi of a grid that holds one after another, as songs cut together do.
 * @param beats ascending
 * @returns in order, two or more; none where it holds one, or its tempo moves
 */
export function heldTempi(beats: readonly Seconds[]): HeldTempo[] {
  const steps = beats.slice(1).map((t, i) => t - (beats[i] as number))
  const found: { from: number; to: number; step: Seconds }[] = []
  for (let i = 0; i + LEAST <= steps.length; ) {
    const step = median(steps.slice(i, i + LEAST))
    const off = (k: number) => Math.abs((steps[k] as number) / step - 1) > WITHIN
    let to = i
    while (to < steps.length && !off(to)) to++
    const last = found.at(-1)
    if (to - i < LEAST) i++
    else {
      if (last && Math.abs(last.step / step - 1) < WITHIN) last.to = to
      else found.push({ from: i, to, step })
      i = to
    }
  }
  const ends = found.map((f, i) => (found[i + 1]?.from ?? steps.length) - f.to)
  const whole = (found[0]?.from ?? 0) <= BETWEEN && ends.every((n) => n <= BETWEEN)
  if (found.length < 2 || !whole) return []
  return found.map(({ from, step }) => ({ from: beats[from] as number, bpm: 60 / step }))
}
