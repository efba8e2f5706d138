import { type Doubt, doubts, type Hearing } from '@/core/hear'
import type { PlacedPhrase } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
import type { Page } from '../state/page'

const known = new WeakMap<Hearing, readonly (Doubt | null)[]>()

/** Why a phrase should be checked, in words; null where there is no reason, or the beats were repaired since. */
export function doubtOf(h: Hearing | null, placed: PlacedPhrase): string | null {
  const i = h ? h.phrases.indexOf(placed.start / TICKS_PER_COUNT) : -1
  if (!h || i < 0) return null
  let list = known.get(h)
  if (!list) {
    list = doubts(h)
    known.set(h, list)
  }
  const doubt = list[i]
  if (!doubt) return null
  return doubt.of === 'beat'
    ? 'Many strokes here lie beside the beat: it may be lost for a while'
    : `The 1 may lie elsewhere here than in the rest of the song (${Math.round(100 * doubt.sure)} % sure)`
}

/** The first doubtful phrase after the cursor, from the top again after the last. */
export function nextDoubt(page: Page, h: Hearing | null, tick: number): PlacedPhrase | null {
  if (page.renumbered) return null
  const doubtful = page.placed.filter((p) => doubtOf(h, p) !== null)
  return doubtful.find((p) => p.start > tick) ?? doubtful[0] ?? null
}

/** The row a phrase repeats, as it was heard: "B 2"; null where it is new. */
export function repeats(page: Page, h: Hearing | null, placed: PlacedPhrase): string | null {
  if (!h || page.renumbered) return null
  const i = h.phrases.indexOf(placed.start / TICKS_PER_COUNT)
  const j = i < 0 ? -1 : (h.same[i] ?? -1)
  const start = j < 0 ? undefined : h.phrases[j]
  const model = page.placed.find((p) => p.start === (start ?? -1) * TICKS_PER_COUNT)
  return model ? `${model.section?.letter ?? ''}${model.inSection}` : null
}
