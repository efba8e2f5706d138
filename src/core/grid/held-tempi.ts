import { type Bpm, median, type Seconds } from '../time'

/** Fewer beats of one tempo are no stretch of their own. */
const LEAST = 16
/** A tempo is held within this: beats are kept to a tenth of a millisecond, and a part of a beat may lie at a seam. */
const WITHIN = 0.01
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
