import { labelIn, phraseAt } from '@/core/routine'
import type { Ticks } from '@/core/time'
import type { Page } from '../../state/page'

/** What a dancer calls a place of the page: "3&". */
export function placeLabel(page: Page, tick: Ticks): string {
  const at = phraseAt(page.placed, tick)
  return at ? labelIn(at, tick) : ''
}
