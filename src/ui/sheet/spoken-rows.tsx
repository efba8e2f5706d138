'use client'

import { type RefObject, useLayoutEffect } from 'react'
import { type Layer, labelIn, phraseAt, placeName } from '@/core/routine'
import type { SheetLine } from '@/core/station'
import { subCount, type Ticks } from '@/core/time'
import { Unseen } from '../parts/unseen'
import { useCursor } from '../state/cursor'

/** Columns of the sheet as a grid: the row's name, the parts of its counts, and what stands beside it. */
export const PARTS_OF_COUNT = 6
const PART: Ticks = 4

/** A layer of a row as it is read out: its name, and what begins from a tick on. */
export interface SpokenLane {
  name: string
  text: (line: SheetLine, from: Ticks, to: Ticks) => string
}

/** What a screen reader is told of the row the cursor is in: its lanes, and which of them the cursor is in. */
export interface Spoken {
  lanes: readonly SpokenLane[]
  laneOf: (layer: Layer) => number
}

/** "Chorus, eight 3" — a line's name; one that goes on from the line before says so. */
export const lineName = (line: SheetLine): string =>
  line.piece === 0 ? placeName(line) : `${placeName(line)}, from ${labelIn(line, line.start)} on`

/** The id of the cell at a place. */
const cellId = (lane: number, tick: Ticks): string => `cell-${lane}-${tick}`

/** The beginning of the part of a count a tick lies in. */
function cellStart(line: SheetLine, tick: Ticks): Ticks {
  const unit = subCount(line.phrase.feel)
  return line.start + Math.floor((tick - line.start) / unit) * unit
}

const aloud = (label: string) => label.replace('&', ' and')

/** The row of the cursor once more, as a table in words: a row a lane, a cell a half or a third of a count. */
export function SpokenRows({
  frame,
  lines,
  spoken,
}: {
  /** The grid whose active cell the cursor's is. */
  frame: RefObject<HTMLElement | null>
  lines: readonly SheetLine[]
  spoken: Spoken
}) {
  const line = useCursor((s) => phraseAt(lines, s.tick))
  const at = useCursor((s) => (line ? cellStart(line, s.tick) : 0))
  const lane = useCursor((s) => spoken.laneOf(s.layer))
  useLayoutEffect(() => {
    if (line) frame.current?.setAttribute('aria-activedescendant', cellId(lane, at))
    else frame.current?.removeAttribute('aria-activedescendant')
  }, [frame, line, lane, at])
  if (!line) return null
  return spoken.lanes.map((l, n) => (
    <LaneInWords key={l.name} line={line} lane={l} number={n} here={n === lane ? at : null} />
  ))
}

/** One lane. @param here the cell that is meant, where it is in this lane */
function LaneInWords({
  line,
  lane,
  number,
  here,
}: {
  line: SheetLine
  lane: SpokenLane
  number: number
  here: Ticks | null
}) {
  const unit = subCount(line.phrase.feel)
  const cells = Array.from({ length: (line.end - line.start) / unit }, (_, i) => {
    const tick = line.start + i * unit
    return { tick, text: `${aloud(labelIn(line, tick))}: ${lane.text(line, tick, tick + unit) || 'empty'}` }
  })
  return (
    <Unseen as="div" role="row" aria-rowindex={line.row + 2}>
      <span role="rowheader" aria-colindex={1}>
        {[lineName(line), lane.name].filter(Boolean).join(', ')}
      </span>
      {cells.map(({ tick, text }) => (
        <span
          role="gridcell"
          key={tick}
          id={cellId(number, tick)}
          aria-colindex={2 + (tick - line.start) / PART}
          aria-colspan={unit / PART}
          aria-selected={tick === here}
        >
          {text}
        </span>
      ))}
    </Unseen>
  )
}
