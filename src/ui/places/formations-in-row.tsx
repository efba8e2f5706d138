'use client'

import styled from 'styled-components'
import type { SheetLine } from '@/core/station'
import { holds, TICKS_PER_COUNT } from '@/core/time'
import { useCursor } from '../state/cursor'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk } from '../theme/tokens'
import { SmallPlan } from './formation-strip'
import { formationName } from './group-plan'
import { usePlaces } from './places-store'

/** Height of formations over the lanes, the room below them included. */
export const PLANS = 50
const [WIDE, HIGH] = [86, 42]

const Box = styled.div`
  position: absolute;
  left: 0;
  right: 0;
  height: ${HIGH}px;
  pointer-events: none !important;
  button {
    position: absolute;
    pointer-events: auto;
    display: flex;
    gap: 6px;
    align-items: center;
    height: ${HIGH}px;
    padding: 0 7px 0 2px;
    border: 1.5px solid ${desk.line};
    border-left: 2.5px solid ${desk.ink};
    border-radius: 0 8px 8px 0;
    background: ${desk.card};
    font: inherit;
    font-size: 12.5px;
    font-weight: 600;
    color: inherit;
    white-space: nowrap;
    cursor: pointer;
    overflow: hidden;
  }
  svg { flex: none; }
  /* On the last count of a narrow sheet it is smaller, not cut. */
  svg:only-child { flex: 0 1 auto; min-width: 0; }
  span { overflow: hidden; text-overflow: ellipsis; }
`

/** True where a line of the sheet has a formation over it: several dance, and stand otherwise from a count of it on. */
export function useFormationRows(): (line: SheetLine) => boolean {
  const several = useRoutine((s) => s.routine.dancers.length > 1)
  const formations = useRoutine((s) => s.routine.formations)
  return (line) => several && formations.some((f) => holds({ from: line.start, to: line.end }, f.at))
}

/** Formations that begin in a row, as small plans over their counts: a press leads to them. */
export function FormationsInRow({
  page,
  line,
  columns,
  top,
  open,
}: {
  page: Page
  line: SheetLine
  columns: number
  top: number
  /** Shows the room beside the sheet. */
  open: () => void
}) {
  const dancers = useRoutine((s) => s.routine.dancers)
  const standing = usePlaces((s) => s.standing)
  const to = useCursor((s) => s.to)
  const here = standing.formations.filter((f) => holds({ from: line.start, to: line.end }, f.at))
  if (dancers.length < 2 || !here.length) return null
  return (
    <Box style={{ top }}>
      {here.map((f) => {
        const count = (f.at - line.start) / TICKS_PER_COUNT
        const name = formationName(page, f)
        // Where it is says the row; on the last count there is room for the plan alone.
        const named = f.name !== '' && count < columns - 1.5
        return (
          <button
            key={f.id}
            type="button"
            data-testid="formation-in-row"
            aria-label={name}
            title={name}
            style={{
              left: `${(100 * count) / columns}%`,
              maxWidth: `${Math.max(100 / columns, (100 * (columns - count)) / columns)}%`,
            }}
            // A press on it is its own, not the counts'.
            onPointerDown={(e) => e.stopPropagation()}
            onClick={() => {
              to(f.at)
              open()
            }}
          >
            <SmallPlan formation={f.id} width={WIDE} height={HIGH - 6} />
            {named && <span>{f.name}</span>}
          </button>
        )
      })}
    </Box>
  )
}
