'use client'

import { useMemo } from 'react'
import { useShallow } from 'zustand/react/shallow'
import {
  asDanced,
  asSeen,
  type BodyStep,
  type Finding,
  findings,
  followBody,
  type LeastGap,
  leastGapOf,
  type MoveBook,
  type Pace,
  paceOf,
  START,
} from '@/core/choreo'
import { placeFindings } from '@/core/places'
import { type DancedCue, danced, findingKey, type Routine, sameDancedCue } from '@/core/routine'
import type { SheetLine } from '@/core/station'
import { useBook } from '../../state/moves-store'
import type { Page } from '../../state/page'
import { usePlayerState } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { useStableRows } from '../../state/stable-rows'
import { useRested } from '../../state/use-rested'
import { useView } from '../../state/view'

const sameFinding = (a: Finding, b: Finding) => findingKey(a.about) === findingKey(b.about)

const sameStep = (a: BodyStep, b: BodyStep) =>
  a.at === b.at &&
  a.weight === b.weight &&
  a.facing === b.facing &&
  a.foot === b.foot &&
  a.cue.id === b.cue.id

/** Items of a sorted list by the row they lie in. */
function byRow<T>(rows: readonly { end: number }[], items: readonly T[], at: (item: T) => number): T[][] {
  const out: T[][] = rows.map(() => [])
  let row = 0
  for (const item of items) {
    while (row + 1 < rows.length && at(item) >= (rows[row]?.end ?? 0)) row++
    out[row]?.push(item)
  }
  return out
}

/** Cues that last into a line from one before. @param rows the cues that begin in each */
function carriedOver(lines: readonly SheetLine[], rows: readonly (readonly DancedCue[])[]): DancedCue[][] {
  const out: DancedCue[][] = lines.map(() => [])
  rows.forEach((cues, row) => {
    for (const cue of cues)
      for (let k = row + 1; k < lines.length && cue.at + cue.length > (lines[k]?.start ?? 0); k++)
        out[k]?.push(cue)
  })
  return out
}

export interface Choreo {
  book: MoveBook
  /** Everything danced, whoever and whichever option. */
  all: readonly DancedCue[]
  /** What the view shows. */
  shown: readonly DancedCue[]
  /** What the one dancer does whose body is followed. */
  body: readonly DancedCue[]
  /** Line by line of the sheet: what begins there, and what lasts into it from before. */
  rows: readonly (readonly DancedCue[])[]
  carried: readonly (readonly DancedCue[])[]
  steps: readonly BodyStep[]
  stepRows: readonly (readonly BodyStep[])[]
  pace: readonly Pace[]
  findings: readonly Finding[]
  findingRows: readonly (readonly Finding[])[]
}

/** A routine as it is danced, followed step by step and checked. @param routine as written, or as a line being typed would make it */
export function useChoreo(page: Page, routine: Routine): Choreo {
  const book = useBook()
  const { role, option } = useView(useShallow(({ role, option }) => ({ role, option })))
  const speed = usePlayerState((s) => s.speed)
  const all = danced(routine)
  const shown = useMemo(() => asSeen(all, role, option), [all, role, option])
  // The body that is followed is one dancer's: for everybody, what all of them do.
  const body = useMemo(() => asDanced(all, role, option), [all, role, option])
  const { lines } = page
  const byLine = useMemo(() => byRow(lines, shown, (c) => c.at), [lines, shown])
  const bodyByLine = useMemo(() => byRow(lines, body, (c) => c.at), [lines, body])
  const rows = useStableRows(byLine, sameDancedCue)
  const over = useMemo(() => carriedOver(lines, byLine), [lines, byLine])
  const carried = useStableRows(over, sameDancedCue)
  const { positions } = routine
  const steps = useMemo(() => followBody(body, book, START, positions).steps, [body, book, positions])
  const stepsByLine = useMemo(() => byRow(lines, steps, (s) => s.at), [lines, steps])
  const stepRows = useStableRows(stepsByLine, sameStep)
  const pace = useMemo(
    () =>
      page.times.length < 2
        ? []
        : lines.map((p, i) =>
            paceOf(bodyByLine[i] ?? [], page.times, { from: p.start, to: p.end }, null, speed, book),
          ),
    [page, lines, bodyByLine, speed, book],
  )
  // Checks come a moment after what was written or moved.
  const settled = useRested(routine)
  const found = useMemo(() => {
    if (page.times.length < 2) return []
    const all = [...findings(settled, page.times, book), ...placeFindings(settled, book)]
    return all.sort((a, b) => a.at - b.at)
  }, [settled, page.times, book])
  const foundByLine = useMemo(() => byRow(lines, found, (f) => f.at), [lines, found])
  const findingRows = useStableRows(foundByLine, sameFinding)
  return { book, all, shown, body, rows, carried, steps, stepRows, pace, findings: found, findingRows }
}

/** What is too fast for the learners of the open routine, and whether somebody said so. */
export function useLeastGap({ times }: Pick<Page, 'times'>): LeastGap {
  const leastGap = useRoutine((s) => s.routine.leastGap)
  const leastGapSaid = useRoutine((s) => s.routine.leastGapSaid)
  const plans = useRoutine((s) => s.routine.plans)
  return useMemo(
    () => leastGapOf({ leastGap, leastGapSaid, plans }, times),
    [leastGap, leastGapSaid, plans, times],
  )
}
