'use client'

import { useDeferredValue, useMemo } from 'react'
import {
  asDanced,
  type BodyStep,
  type DancedCue,
  findings,
  followBody,
  type MoveBook,
  type Pace,
  paceOf,
} from '@/core/choreo'
import type { Routine } from '@/core/routine'
import { dancedOf } from '../../state/choreo'
import { useBook } from '../../state/moves-store'
import type { Page } from '../../state/page'
import { usePlayerState } from '../../state/player'
import { useView } from '../../state/view'

/** Items of a sorted list that lie in a span, by row. */
function byRow<T>(page: Page, items: readonly T[], at: (item: T) => number): T[][] {
  const rows: T[][] = page.placed.map(() => [])
  let row = 0
  for (const item of items) {
    while (row + 1 < page.placed.length && at(item) >= (page.placed[row]?.end ?? 0)) row++
    rows[row]?.push(item)
  }
  return rows
}

export interface Choreo {
  book: MoveBook
  /** Everything danced, whoever and whichever option. */
  all: readonly DancedCue[]
  /** What the view shows. */
  shown: readonly DancedCue[]
  rows: readonly (readonly DancedCue[])[]
  steps: readonly BodyStep[]
  stepRows: readonly (readonly BodyStep[])[]
  pace: readonly Pace[]
  findings: ReturnType<typeof findings>
}

/** A routine as it is danced, followed step by step and checked. @param routine as written, or as a line being typed would make it */
export function useChoreo(page: Page, routine: Routine): Choreo {
  const book = useBook()
  const { role, option } = useView()
  const speed = usePlayerState((s) => s.speed)
  const all = dancedOf(routine)
  const shown = useMemo(() => asDanced(all, role, option), [all, role, option])
  const rows = useMemo(() => byRow(page, shown, (c) => c.at), [page, shown])
  const steps = useMemo(() => followBody(shown, book).steps, [shown, book])
  const stepRows = useMemo(() => byRow(page, steps, (s) => s.at), [page, steps])
  const pace = useMemo(
    () =>
      page.times.length < 2
        ? []
        : page.placed.map((p, i) =>
            paceOf(rows[i] ?? [], page.times, { from: p.start, to: p.end }, null, speed, book),
          ),
    [page, rows, speed, book],
  )
  // Checks may come a moment after what was typed.
  const settled = useDeferredValue(routine)
  const found = useMemo(() => findings(settled, page.times, book), [settled, page.times, book])
  return { book, all, shown, rows, steps, stepRows, pace, findings: found }
}

/** The state of the body at a place: the last step at or before it. */
export function stepAt(steps: readonly BodyStep[], tick: number): BodyStep | null {
  let [low, high] = [0, steps.length]
  while (low < high) {
    const mid = (low + high) >> 1
    if ((steps[mid] as BodyStep).at <= tick) low = mid + 1
    else high = mid
  }
  return steps[low - 1] ?? null
}
