'use client'

import { phraseAt } from '@/core/routine'
import { subCount, TICKS_PER_COUNT } from '@/core/time'
import { useCursor } from '../state/cursor'
import { useKeys } from '../state/keys'
import type { Page } from '../state/page'

/** Moving the cursor over the page: arrows by count and phrase, shift by half counts, or thirds, page keys by four phrases. */
export function useSheetKeys(page: Page, byLayer?: (step: number) => void): void {
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const end = page.placed.at(-1)?.end ?? 0
  const part = subCount(phraseAt(page.placed, tick)?.phrase.feel ?? 'straight')
  const by = (ticks: number) => to(Math.max(0, Math.min(end - part, tick + ticks)))
  const rows = (n: number) => {
    const here = phraseAt(page.placed, tick)
    if (!here) return
    const there = page.placed[Math.max(0, Math.min(page.placed.length - 1, here.index + n))]
    // The same number in the other phrase, also when one of them is a pick-up.
    const within = tick - here.start + (here.first - (there?.first ?? 1)) * TICKS_PER_COUNT
    if (there) to(there.start + Math.max(0, Math.min(there.end - there.start - TICKS_PER_COUNT, within)))
  }
  const whole = (step: number) => {
    const rest = tick % TICKS_PER_COUNT
    by(rest === 0 ? step * TICKS_PER_COUNT : step > 0 ? TICKS_PER_COUNT - rest : -rest)
  }
  useKeys({
    ArrowLeft: () => whole(-1),
    ArrowRight: () => whole(1),
    'Shift+ArrowLeft': () => by(-part),
    'Shift+ArrowRight': () => by(part),
    ArrowUp: () => (byLayer ? byLayer(-1) : rows(-1)),
    ArrowDown: () => (byLayer ? byLayer(1) : rows(1)),
    PageUp: () => rows(byLayer ? -1 : -4),
    PageDown: () => rows(byLayer ? 1 : 4),
    Home: () => to(0),
    End: () => to(page.placed.at(-1)?.start ?? 0),
  })
}
