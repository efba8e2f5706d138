'use client'

import { useDeferredValue, useMemo } from 'react'
import {
  asDanced,
  type BodyStep,
  type Finding,
  findings,
  followBody,
  type MoveBook,
  type Pace,
  paceOf,
} from '@/core/choreo'
import { type DancedCue, danced, type Routine } from '@/core/routine'
import { useBook } from '../../state/moves-store'
import type { Page } from '../../state/page'
import { usePlayerState } from '../../state/player'
import { useView } from '../../state/view'
import { useStableRows } from './stable'

const sameCue = (a: DancedCue, b: DancedCue) =>
  a === b ||
  (a.link !== null &&
    a.id === b.id &&
    a.at === b.at &&
    a.length === b.length &&
    a.move === b.move &&
    a.side === b.side &&
    a.layer === b.layer &&
    a.role === b.role &&
    a.option === b.option &&
    a.tip === b.tip)

const sameStep = (a: BodyStep, b: BodyStep) =>
  a.at === b.at &&
  a.weight === b.weight &&
  a.facing === b.facing &&
  a.foot === b.foot &&
  a.cue.id === b.cue.id

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
  findings: readonly Finding[]
  findingRows: readonly (readonly Finding[])[]
}

/** A routine as it is danced, followed step by step and checked. @param routine as written, or as a line being typed would make it */
export function useChoreo(page: Page, routine: Routine): Choreo {
  const book = useBook()
  const { role, option } = useView()
  const speed = usePlayerState((s) => s.speed)
  const all = danced(routine)
  const shown = useMemo(() => asDanced(all, role, option), [all, role, option])
  const byPhrase = useMemo(() => byRow(page, shown, (c) => c.at), [page, shown])
  const rows = useStableRows(byPhrase, sameCue)
  const steps = useMemo(() => followBody(shown, book).steps, [shown, book])
  const stepsByPhrase = useMemo(() => byRow(page, steps, (s) => s.at), [page, steps])
  const stepRows = useStableRows(stepsByPhrase, sameStep)
  const pace = useMemo(
    () =>
      page.times.length < 2
        ? []
        : page.placed.map((p, i) =>
            paceOf(byPhrase[i] ?? [], page.times, { from: p.start, to: p.end }, null, speed, book),
          ),
    [page, byPhrase, speed, book],
  )
  // Checks may come a moment after what was typed.
  const settled = useDeferredValue(routine)
  const found = useMemo(() => findings(settled, page.times, book), [settled, page.times, book])
  const foundByPhrase = useMemo(() => byRow(page, found, (f) => f.at), [page, found])
  const findingRows = useStableRows(foundByPhrase, (a, b) => a.key === b.key)
  return { book, all, shown, rows, steps, stepRows, pace, findings: found, findingRows }
}
