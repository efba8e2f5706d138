import type { Hearing } from '@/core/hear'
import type { PlacedPhrase } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
import type { Page } from '../state/page'

/** Less sure than this, a phrase should be checked. */
const DOUBTFUL = 0.5

/** Why a phrase should be checked, in words; null where there is no reason, or the beats were repaired since. */
export function doubtOf(h: Hearing | null, placed: PlacedPhrase): string | null {
  const i = h ? h.phrases.indexOf(placed.start / TICKS_PER_COUNT) : -1
  if (!h || i < 0) return null
  const [beats, one] = [h.sure.beats[i] ?? 1, h.sure.ones[i] ?? 1]
  const percent = (x: number) => `${Math.round(100 * x)} %`
  if (beats < DOUBTFUL && beats <= one) return `The beat is ${percent(beats)} sure here`
  if (one < DOUBTFUL) return `The 1 is ${percent(one)} sure here`
  return null
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
