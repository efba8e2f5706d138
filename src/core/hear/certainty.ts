import { lastAtOrBefore, type Seconds } from '../time'
import { belonging, strokes } from './extent'
import type { Onsets } from './onsets'

/** How well the strokes of each phrase keep the beat that was found. */
export interface Keeping {
  /** Mean gain of its strokes over free time, as a share of the song's own: about 1 where all is well. */
  share: number
  /** Strokes in the phrase. */
  strokes: number
}

/**
 * For each phrase, how much its strokes lie where this song's strokes lie in the beat.
 * @param starts times of the phrases' beginnings, ascending
 */
export function keeping(o: Onsets, beats: readonly Seconds[], starts: readonly Seconds[]): Keeping[] {
  const list = strokes(o).filter((s) => s.t >= (beats[0] ?? 0) - 0.1 && s.t <= (beats.at(-1) ?? 0) + 0.1)
  const belongs = belonging(beats, list)
  const sums = starts.map(() => ({ gain: 0, strength: 0, n: 0 }))
  let [gain, strength] = [0, 1e-9]
  for (const s of list) {
    const g = s.strength * belongs(s.t)
    gain += g
    strength += s.strength
    const sum = sums[Math.max(0, lastAtOrBefore(starts, s.t + 0.05))]
    if (!sum) continue
    sum.gain += g
    sum.strength += s.strength
    sum.n++
  }
  const usual = Math.max(1e-6, gain / strength)
  return sums.map((s) => ({ share: s.n ? s.gain / s.strength / usual : 0, strokes: s.n }))
}

/** What the strokes of a phrase leave of the certainty of the whole song's beat, 0..1. */
export function localTrust({ share, strokes }: Keeping): number {
  // Counts carried on through silence keep time where the song is steady; nothing speaks for or against them.
  if (strokes < 2) return 0.9
  return Math.max(0, Math.min(1, 0.5 + 0.5 * share))
}
