'use client'

import { placeAfter, type SheetMove } from '@/core/station'
import { bound } from '../keys/table'
import { useCursor } from '../state/cursor'
import { useKeys } from '../state/keys'
import type { Page } from '../state/page'
import { turnFilm } from '../state/view'

/** Moving the cursor over the page: arrows by count and line, or layer; page keys by phrase; digits to a count. */
export function useSheetKeys(page: Page, byLayer?: (step: 1 | -1) => void): void {
  const go = (move: SheetMove) => {
    const { tick, to } = useCursor.getState()
    const next = placeAfter(tick, move, page.lines)
    if (next !== tick) to(next)
  }
  useKeys(
    bound({
      film: turnFilm,
      countBack: () => go('countBack'),
      countOn: () => go('countOn'),
      subBack: () => go('subBack'),
      subOn: () => go('subOn'),
      up: () => (byLayer ? byLayer(-1) : go('up')),
      down: () => (byLayer ? byLayer(1) : go('down')),
      phraseBack: () => go('phraseBack'),
      phraseOn: () => go('phraseOn'),
      toFirst: () => go('toFirst'),
      toLast: () => go('toLast'),
      toCount: (e) => go({ count: Number(e.key) }),
    }),
  )
}
