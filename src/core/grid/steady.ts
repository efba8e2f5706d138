import type { Bpm, Seconds } from '../time'
import { carriedOn } from './taps'

/** Beats of a stretch on one straight line fitted through them (least squares). @param to not included */
export function steadied(beats: readonly Seconds[], from: number, to: number): Seconds[] {
  const part = beats.slice(from, to)
  const n = part.length
  if (n < 3) return part
  const mk = (n - 1) / 2
  const mt = part.reduce((a, b) => a + b, 0) / n
  const sxx = (n * (n * n - 1)) / 12
  const period = part.reduce((s, t, k) => s + (k - mk) * (t - mt), 0) / sxx
  return part.map((_, k) => mt + (k - mk) * period)
}

/** A whole grid at a tempo set by number, through one beat that stays where it is. */
export function atTempo(beat: Seconds, bpm: Bpm, duration: Seconds): Seconds[] {
  return carriedOn(beat, 60 / bpm, duration)
}
