'use client'

import { phraseAt } from '@/core/routine'
import { subCount, TICKS_PER_COUNT } from '@/core/time'
import { bound } from '../keys/table'
import { COLUMNS, type SheetLine } from '../sheet/lines'
import { useCursor } from '../state/cursor'
import { useKeys } from '../state/keys'
import type { Page } from '../state/page'

/** Moving the cursor over the page: arrows by count and line, or layer; page keys by phrase; digits to a count. */
export function useSheetKeys(page: Page, byLayer?: (step: number) => void): void {
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const end = page.placed.at(-1)?.end ?? 0
  const part = subCount(phraseAt(page.placed, tick)?.phrase.feel ?? 'straight')
  const by = (ticks: number) => to(Math.max(0, Math.min(end - part, tick + ticks)))
  /** The same count so many lines, or phrases, away. */
  const rows = (list: readonly SheetLine[], n: number) => {
    const here = phraseAt(list, tick)
    if (!here) return
    const there = list[Math.max(0, Math.min(list.length - 1, list.indexOf(here) + n))]
    if (!there) return
    // The same number in the other phrase, also when one of them is a pick-up; below one another in a long phrase.
    const begins = (l: SheetLine) => l.first - l.piece * COLUMNS
    const within = tick - here.start + (begins(here) - begins(there)) * TICKS_PER_COUNT
    to(there.start + Math.max(0, Math.min(there.end - there.start - TICKS_PER_COUNT, within)))
  }
  const firsts = page.lines.filter((l) => l.piece === 0)
  /** To a numbered count of the phrase, where it has one. */
  const toCount = (n: number) => {
    const row = phraseAt(page.placed, tick)
    const at = row && row.start + (n - row.first) * TICKS_PER_COUNT
    if (row && at !== null && at >= row.start && at < row.end) to(at)
  }
  const whole = (step: number) => {
    const rest = tick % TICKS_PER_COUNT
    by(rest === 0 ? step * TICKS_PER_COUNT : step > 0 ? TICKS_PER_COUNT - rest : -rest)
  }
  useKeys(
    bound({
      countBack: () => whole(-1),
      countOn: () => whole(1),
      subBack: () => by(-part),
      subOn: () => by(part),
      up: () => (byLayer ? byLayer(-1) : rows(page.lines, -1)),
      down: () => (byLayer ? byLayer(1) : rows(page.lines, 1)),
      phraseBack: () => rows(firsts, -1),
      phraseOn: () => rows(firsts, 1),
      toFirst: () => to(0),
      toLast: () => to(page.placed.at(-1)?.start ?? 0),
      toCount: (e) => toCount(Number(e.key)),
    }),
  )
}
