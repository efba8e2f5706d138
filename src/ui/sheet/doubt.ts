import { doubtAt, type Hearing, wordsForDoubt } from '@/core/hear'
import type { PlacedPhrase } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
import { keepLast } from '../state/keep-last'
import type { Page } from '../state/page'

/** Why a phrase should be checked, in words; null where there is no reason, or the beats were repaired since. */
export function doubtOf(h: Hearing | null, placed: PlacedPhrase): string | null {
  const doubt = h && doubtAt(h, placed.start / TICKS_PER_COUNT)
  return doubt && wordsForDoubt(doubt)
}

/** The earlier phrase each phrase sounds like, as it was heard; null where it is new. */
export const soundsLike = keepLast(
  (page: Page, h: Hearing | null): ((placed: PlacedPhrase) => PlacedPhrase | null) => {
    if (!h || page.renumbered) return () => null
    const heard = new Map(h.phrases.map((beat, i) => [beat * TICKS_PER_COUNT, i]))
    const byStart = new Map(page.placed.map((p) => [p.start, p]))
    return (placed) => {
      const j = h.same[heard.get(placed.start) ?? -1] ?? -1
      return byStart.get((h.phrases[j] ?? -1) * TICKS_PER_COUNT) ?? null
    }
  },
)

/** "B2": a row in short, by its section's letter. */
export const rowName = (p: PlacedPhrase): string => `${p.section?.letter ?? ''}${p.inSection}`
