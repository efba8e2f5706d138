'use client'

import styled from 'styled-components'
import { labelIn, placeName } from '@/core/routine'
import { subCount, type Ticks } from '@/core/time'
import type { SheetLine } from './lines'

/** Columns of the sheet as a grid: the row's name, the parts of its counts, and what stands beside it. */
export const PARTS_OF_COUNT = 6
const PART: Ticks = 4

/** A layer of a row as it is read out: its name, and what begins from a tick on. */
export interface SpokenLane {
  name: string
  text: (from: Ticks, to: Ticks) => string
}

/** What a screen reader is told of the row the cursor is in: its lanes, and the lane the cursor is in. */
export interface Spoken {
  lanes: readonly SpokenLane[]
  lane: number
}

/** Seen by nobody, read by screen readers. */
export const Unseen = styled.span`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
  white-space: nowrap;
`

/** "Chorus, eight 3" — a line's name; one that goes on from the line before says so. */
export const lineName = (line: SheetLine): string =>
  line.piece === 0 ? placeName(line) : `${placeName(line)}, from ${labelIn(line, line.start)} on`

/** The id of the cell at a place. */
export const cellId = (lane: number, tick: Ticks): string => `cell-${lane}-${tick}`

/** The beginning of the part of a count a tick lies in. */
export function cellStart(line: SheetLine, tick: Ticks): Ticks {
  const unit = subCount(line.phrase.feel)
  return line.start + Math.floor((tick - line.start) / unit) * unit
}

const aloud = (label: string) => label.replace('&', ' and')

/** The row of the cursor once more, as a table in words: a row a lane, a cell a half or a third of a count. */
export function SpokenRows({ line, spoken, at }: { line: SheetLine; spoken: Spoken; at: Ticks }) {
  const unit = subCount(line.phrase.feel)
  const cells = Array.from({ length: (line.end - line.start) / unit }, (_, i) => line.start + i * unit)
  const here = cellStart(line, at)
  return spoken.lanes.map((lane, n) => (
    <Unseen as="div" role="row" key={lane.name} aria-rowindex={line.row + 2}>
      <span role="rowheader" aria-colindex={1}>
        {[lineName(line), lane.name].filter(Boolean).join(', ')}
      </span>
      {cells.map((tick) => (
        <span
          role="gridcell"
          key={tick}
          id={cellId(n, tick)}
          aria-colindex={2 + (tick - line.start) / PART}
          aria-colspan={unit / PART}
          aria-selected={n === spoken.lane && tick === here}
        >
          {aloud(labelIn(line, tick))}: {lane.text(tick, tick + unit) || 'empty'}
        </span>
      ))}
    </Unseen>
  ))
}
