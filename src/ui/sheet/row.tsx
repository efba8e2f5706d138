'use client'

import type { ReactNode, PointerEvent as ReactPointerEvent } from 'react'
import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { beginsSection } from '@/core/routine'
import { COLUMNS, type SheetLine } from '@/core/station'
import {
  clockText,
  common,
  countsText,
  type Stretch,
  TICKS_PER_COUNT,
  type Ticks,
  timeOfTick,
} from '@/core/time'
import { Unseen } from '../parts/unseen'
import { useCursor } from '../state/cursor'
import { type Page, useSong } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk, faded, font, tintOf } from '../theme/tokens'
import { MarkLine } from './mark-line'
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

const Line = styled.i`
  position: absolute;
  top: 0;
  bottom: 6px;
  width: 1px;
  background: ${desk.line};
`

/** Where a line does not begin with 1, its counts say their own numbers. */
const OwnNumber = styled.b`
  position: absolute;
  top: -2px;
  z-index: 1;
  padding: 0 5px 0 3px;
  border-radius: 0 0 6px 0;
  background: ${desk.paper};
  font-size: 12.5px;
  line-height: 15px;
  pointer-events: none;
`

const Outside = styled.div`
  position: absolute;
  top: 0;
  bottom: 0;
  background: ${faded(desk.paper, 60)};
  pointer-events: none;
`

const Edge = styled.div`
  position: absolute;
  top: 2px;
  bottom: 6px;
  width: 7px;
  border: solid ${desk.ink};
  pointer-events: none;
`

const Carried = styled.div`
  position: absolute;
  height: 0;
  border-top: 2.5px dotted ${desk.amber};
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
export function SheetRow(p: RowProps) {
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
}

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

/** A line between counts, and their own numbers where the line does not begin with 1. */
function CountLines({ line, counts }: { line: SheetLine; counts: number }) {
  return (
    <>
      {Array.from({ length: counts + 1 }, (_, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the lines are their numbers
        <Line key={i} style={{ left: `${(i / COLUMNS) * 100}%` }} />
      ))}
      {line.first !== 1 &&
        Array.from({ length: counts }, (_, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the numbers are their places
          <OwnNumber key={i} style={{ left: `${(i / COLUMNS) * 100}%` }}>
            {line.first + i}
          </OwnNumber>
        ))}
    </>
  )
}

/** Marks counts that are not heard but carried on through silence; unknown once beats were renumbered. */
function CarriedOn({
  page,
  placed,
  columns,
  top,
}: {
  page: Page
  placed: SheetLine
  columns: number
  top: number
}) {
  const { heard } = useSong()
  if (!heard || page.renumbered) return null
  const [from, to] = [placed.start / TICKS_PER_COUNT, placed.end / TICKS_PER_COUNT]
  return heard.hearing.inferred
    .map(([a, b]) => [Math.max(a, from), Math.min(b + 1, to)] as const)
    .filter(([a, b]) => b > a)
    .map(([a, b]) => (
      <Carried
        key={a}
        title="Nothing is heard here; the counts are carried on"
        style={{ left: `${((a - from) / columns) * 100}%`, width: `${((b - a) / columns) * 100}%`, top }}
      />
    ))
}

const Tinted = styled.i`
  position: absolute;
  top: 0;
  border-radius: 6px;
  background: ${faded(desk.azalea, 13)};
  box-shadow: inset 0 0 0 1.5px ${faded(desk.azalea, 33)};
  forced-color-adjust: none;
  pointer-events: none;
`

/** The sound of what is marked. */
function MarkedShade({ placed, columns, height }: { placed: SheetLine; columns: number; height: number }) {
  const piece = useCursor(
    useShallow((s) => s.marked && common(s.marked, { from: placed.start, to: placed.end })),
  )
  if (!piece) return null
  const share = (ticks: Ticks) => `${(ticks / TICKS_PER_COUNT / columns) * 100}%`
  return (
    <Tinted
      data-testid="marked-sound"
      style={{ left: share(piece.from - placed.start), width: share(piece.to - piece.from), height }}
    />
  )
}

const Belongs = styled.i<{ $to: 'next' | 'last' }>`
  position: absolute;
  top: 0;
  z-index: 1;
  border: 0 solid ${desk.azalea};
  border-width: ${(p) => (p.$to === 'next' ? '2.5px 0 0 2.5px' : '2.5px 2.5px 0 0')};
  border-radius: ${(p) => (p.$to === 'next' ? '7px 0 0 0' : '0 7px 0 0')};
  background: repeating-linear-gradient(${(p) => (p.$to === 'next' ? 45 : -45)}deg, ${faded(desk.azalea, 20)} 0 2px, transparent 2px 7px);
  pointer-events: none;
`

/** What of a row belongs over its border: hatched, with a hook where the piece begins or ends. */
function BorderSigns({ page, line, height }: { page: Page; line: SheetLine; height: number }) {
  const next = page.placed[line.index + 1]
  const led = next?.lean
    ? common({ from: next.start - next.lean, to: next.start }, { from: line.start, to: line.end })
    : null
  const landed = line.resolve
    ? common(
        {
          from: page.placed[line.index]?.start ?? 0,
          to: (page.placed[line.index]?.start ?? 0) + line.resolve,
        },
        { from: line.start, to: line.end },
      )
    : null
  const box = (piece: Stretch) => ({
    left: `${((piece.from - line.start) / TICKS_PER_COUNT / COLUMNS) * 100}%`,
    width: `${((piece.to - piece.from) / TICKS_PER_COUNT / COLUMNS) * 100}%`,
    height,
  })
  return (
    <>
      {led && <Belongs $to="next" data-testid="leans" title="Belongs to what follows" style={box(led)} />}
      {landed && (
        <Belongs
          $to="last"
          data-testid="resolves"
          title="Belongs to what came before, too"
          style={box(landed)}
        />
      )}
    </>
  )
}

const Looped = styled.i`
  position: absolute;
  left: -7px;
  width: 4px;
  background: ${desk.azalea};
  forced-color-adjust: none;
`

/** Marks the rows that are played again and again. */
function LoopBar({ placed }: { placed: SheetLine }) {
  const loop = useCursor((s) => s.loop)
  if (!loop || placed.end <= loop.from || placed.start >= loop.to) return null
  return (
    <Looped
      title="Played in a loop"
      data-testid="looped"
      style={{ top: placed.start <= loop.from ? 4 : -40, bottom: placed.end >= loop.to ? 10 : 0 }}
    />
  )
}

/** Dims what lies outside the excerpt, and brackets its ends. */
function ExcerptShade({ placed, columns }: { placed: SheetLine; columns: number }) {
  const excerpt = useRoutine((s) => s.routine.excerpt)
  if (!excerpt) return null
  const share = (tick: Ticks) =>
    Math.max(0, Math.min(1, (tick - placed.start) / TICKS_PER_COUNT / columns)) * 100
  const inside = (tick: Ticks) => tick >= placed.start && tick < placed.end
  const end = share(placed.end)
  return (
    <>
      {excerpt.from > placed.start && (
        <Outside style={{ left: 0, width: `${Math.min(end, share(excerpt.from))}%` }} />
      )}
      {excerpt.to < placed.end && (
        <Outside style={{ left: `${share(excerpt.to)}%`, width: `${end - share(excerpt.to)}%` }} />
      )}
      {inside(excerpt.from) && (
        <Edge style={{ left: `${share(excerpt.from)}%`, borderWidth: '2.5px 0 2.5px 2.5px' }} />
      )}
      {inside(excerpt.to - 1) && (
        <Edge style={{ left: `calc(${share(excerpt.to)}% - 7px)`, borderWidth: '2.5px 2.5px 2.5px 0' }} />
      )}
    </>
  )
}
