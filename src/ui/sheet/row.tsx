'use client'

import { memo, type ReactNode, type PointerEvent as ReactPointerEvent } from 'react'
import styled from 'styled-components'
import { beginsSection } from '@/core/routine'
import { COLUMNS, type SheetLine } from '@/core/station'
import { clockText, countsText, TICKS_PER_COUNT, timeOfTick } from '@/core/time'
import { Unseen } from '../parts/unseen'
import { type Page, useSong } from '../state/page'
import { desk, font, tintOf } from '../theme/tokens'
import { MarkLine } from './mark-line'
import { BorderSigns, CarriedOn, CountLines, ExcerptShade, LoopBar, MarkedShade } from './on-counts'
import { lineName, PARTS_OF_COUNT } from './spoken-rows'
import { Wave } from './wave'

/** Room at the left of the counts, for the name of the row. */
export const LEFT = 136
/** Height of the line above a row that begins a section. */
export const SECTION_LINE = 34

const Row = styled.div`
  position: absolute;
  left: 0;
  right: 0;
  contain: layout style;
`

const SectionName = styled.div`
  position: absolute;
  top: 8px;
  left: 20px;
  display: flex;
  align-items: center;
  gap: 8px;
  font: 650 14.5px/1 ${font.display};
  b { display: inline-grid; place-items: center; min-width: 21px; height: 21px; border-radius: 6px; font-size: 12.5px; }
`

const Band = styled.div<{ $pattern: string; $ground: string }>`
  position: absolute;
  left: 0;
  bottom: 0;
  width: 10px;
  background: ${(p) => p.$pattern}, ${(p) => p.$ground};
`

const Name = styled.div`
  position: absolute;
  left: 20px;
  width: ${LEFT - 30}px;
  strong { display: block; font: 700 21px/1.1 ${font.display}; }
  span { display: block; font-size: 12px; color: ${desk.quiet}; line-height: 1.3; }
`

const BesideName = styled.div`
  position: absolute;
  left: 60px;
  bottom: 0;
  width: ${LEFT - 62}px;
`

const Counts = styled.div<{ $right: number }>`
  position: absolute;
  left: ${LEFT}px;
  right: ${(p) => p.$right}px;
  bottom: 0;
  user-select: none;
`

interface RowProps {
  page: Page
  line: SheetLine
  rowHeight: number
  waveHeight: number
  right: number
  top: number
  size: number
  hasCursor: boolean
  onPoint: OnPoint
  Inside?: RowPart
  Cursor: RowPart
  Beside?: RowPart
}

/** What a station puts into a row. */
export type RowPart = (props: { line: SheetLine; columns: number }) => ReactNode

/** A place on the sheet that is pointed at: a tick, and pixels below the top of its row's counts. */
export interface Pointed {
  tick: number
  y: number
}
export type OnPoint = (at: Pointed, event: ReactPointerEvent) => void

function pointed(counts: HTMLElement, placed: SheetLine, x: number, y: number): Pointed {
  const box = counts.getBoundingClientRect()
  const share = (x - box.left) / box.width
  const tick = placed.start + share * Number(counts.dataset.columns) * TICKS_PER_COUNT
  return { tick: Math.max(placed.start, Math.min(placed.end - 1, tick)), y: y - box.top }
}

/** The place under a point of the window; null where no row's counts are. */
export function placeUnder(page: Page, x: number, y: number): Pointed | null {
  const counts = document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-counts]')
  const placed = page.lines[Number(counts?.closest<HTMLElement>('[data-row]')?.dataset.row)]
  return counts && placed ? pointed(counts, placed, x, y) : null
}

/** One line of the sheet: its name, its sound above its counts, and what the station puts below. */
export const SheetRow = memo(function SheetRow(p: RowProps) {
  const { page, line, rowHeight, Beside } = p
  const { section } = line
  const tint = tintOf(section?.letter)
  const first = beginsSection(line)
  return (
    <Row
      role="row"
      aria-rowindex={line.row + 2}
      style={{ transform: `translateY(${p.top}px)`, height: p.size }}
      data-row={line.row}
    >
      <Unseen role="rowheader" aria-colindex={1}>
        {lineName(line)}, {clockText(timeOfTick(page.times, line.start))}
      </Unseen>
      {first && section && (
        <SectionName aria-hidden>
          <b style={{ background: tint.ground, color: tint.ink }}>{section.letter}</b>
          {line.title}
        </SectionName>
      )}
      <Band $pattern={tint.pattern} $ground={tint.ground} style={{ top: first ? SECTION_LINE : 0 }} />
      <RowName page={page} line={line} rowHeight={rowHeight} />
      {Beside && (
        <BesideName
          role="gridcell"
          aria-colindex={2 + PARTS_OF_COUNT * COLUMNS}
          style={{ height: rowHeight }}
        >
          <Beside line={line} columns={COLUMNS} />
        </BesideName>
      )}
      <RowCounts {...p} />
    </Row>
  )
})

function RowName({ page, line, rowHeight }: { page: Page; line: SheetLine; rowHeight: number }) {
  const { phrase } = line
  if (line.piece > 0) return null
  return (
    <Name aria-hidden style={{ bottom: rowHeight - 50 }}>
      <strong>{phrase.pickUp ? '·' : line.inSection}</strong>
      <span>
        {clockText(timeOfTick(page.times, line.start))}
        {phrase.length !== 8 && ` · ${phrase.pickUp ? 'pick-up' : countsText(phrase.length)}`}
      </span>
    </Name>
  )
}

/** The counts of a row: their sound, what stands on them, and what of them is marked, looped or outside the dance. */
function RowCounts({
  page,
  line,
  rowHeight,
  waveHeight,
  right,
  hasCursor,
  onPoint,
  Inside,
  Cursor,
}: RowProps) {
  const { heard } = useSong()
  const counts = (line.end - line.start) / TICKS_PER_COUNT
  const point = (e: ReactPointerEvent<HTMLDivElement>) =>
    onPoint(pointed(e.currentTarget, line, e.clientX, e.clientY), e)
  return (
    <Counts
      $right={right}
      role="gridcell"
      aria-colindex={2}
      aria-colspan={PARTS_OF_COUNT * counts}
      style={{ height: rowHeight }}
      onPointerDown={point}
      data-counts={counts}
      data-columns={COLUMNS}
    >
      <CountLines line={line} counts={counts} />
      {heard && (
        <Wave
          peaks={heard.peaks}
          times={page.times}
          from={line.start}
          counts={counts}
          columns={COLUMNS}
          height={waveHeight}
          colour={tintOf(line.section?.letter).ink}
        />
      )}
      <MarkLine page={page} placed={line} columns={COLUMNS} />
      {Inside && <Inside line={line} columns={COLUMNS} />}
      {hasCursor && <Cursor line={line} columns={COLUMNS} />}
      <CarriedOn page={page} placed={line} columns={COLUMNS} top={waveHeight - 1} />
      <BorderSigns page={page} line={line} height={waveHeight} />
      <ExcerptShade placed={line} columns={COLUMNS} />
      <MarkedShade placed={line} columns={COLUMNS} height={waveHeight} />
      <LoopBar placed={line} />
    </Counts>
  )
}
