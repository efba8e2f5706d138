'use client'

import { type ReactNode, type RefObject, useLayoutEffect, useRef, useState } from 'react'
import styled from 'styled-components'
import { beginsSection, labelIn, phraseAt, placeName } from '@/core/routine'
import { COLUMNS, type SheetLine } from '@/core/station'
import type { Ticks } from '@/core/time'
import { Unseen } from '../parts/unseen'
import { useCursor } from '../state/cursor'
import type { Page } from '../state/page'
import { usePlayerState } from '../state/player'
import { useRoutine } from '../state/routine-store'
import { desk, faded } from '../theme/tokens'
import { useHeldStill } from './follow-press'
import { MARK_LINE } from './mark-line'
import { placeOnSheet, useGlide, useMoments } from './playhead'
import { LEFT, type OnPoint, type RowPart, SECTION_LINE, SheetRow } from './row'
import { PARTS_OF_COUNT, type Spoken, SpokenRows } from './spoken-rows'
import { useRows } from './use-rows'

/** Narrower than this a row is not readable: the sheet scrolls sideways instead. */
const LEAST_WIDTH = 700

const Frame = styled.div`
  position: relative;
  overflow: auto;
  height: 100%;
  outline-offset: -3px !important;
`

const Head = styled.div<{ $right: number }>`
  position: sticky;
  top: 0;
  z-index: 5;
  background: ${desk.paper};
  border-bottom: 1px solid ${desk.line};
  min-width: ${LEAST_WIDTH}px;
  padding-left: ${LEFT}px;
  padding-right: ${(p) => p.$right}px;
  height: 30px;
  display: flex;
  align-items: center;
  > span:not(:first-child) { flex: 1; font-weight: 700; position: relative; font-size: 14px; }
  i { position: absolute; left: 50%; font-style: normal; font-weight: 500; color: ${desk.quiet}; }
`

export const CursorBox = styled.div`
  position: absolute;
  border: 2.5px solid ${desk.azalea};
  border-radius: 7px;
  background: ${faded(desk.azalea, 8)};
  pointer-events: none;
  z-index: 2;
`

const Playhead = styled.div<{ $right: number }>`
  position: absolute;
  top: 0;
  left: ${LEFT}px;
  right: ${(p) => p.$right}px;
  height: 0;
  pointer-events: none;
  z-index: 3;
  will-change: transform;
  i { position: absolute; left: 0; top: 2px; width: 2.5px; margin-left: -1px; background: ${desk.azalea}; border-radius: 2px; }
`

/** Pixels of a count as long as nobody knows how wide the sheet is. */
export const UNMEASURED = 40

/** How many pixels wide a count is on a sheet. @param right room on the right of its counts */
export function useCountPixels(frame: RefObject<HTMLElement | null>, right: number): number {
  const [wide, setWide] = useState(0)
  useLayoutEffect(() => {
    const element = frame.current
    if (!element) return
    const see = () => setWide(Math.max(LEAST_WIDTH, element.clientWidth))
    see()
    const watch = new ResizeObserver(see)
    watch.observe(element)
    return () => watch.disconnect()
  }, [frame])
  return Math.max(UNMEASURED, (wide - LEFT - right) / COLUMNS)
}

interface SheetProps {
  page: Page
  /** The element that scrolls, where the station measures it. */
  frame?: RefObject<HTMLDivElement | null>
  label: string
  /** Height of a row without its section line, of all rows or of each. */
  rowHeight: number | ((line: SheetLine) => number)
  waveHeight: number
  /** Room on the right for what stands beside a row. */
  right?: number
  /** What the row holds below its wave. */
  Inside?: RowPart
  /** The box around the cursor, in its row. */
  Cursor: RowPart
  /** What stands beside a row's name. */
  Beside?: RowPart
  onPoint: OnPoint
  /** What a screen reader is told of the cursor's row. */
  spoken: Spoken
  /** Whether the station knows already how its rows are laid out. */
  laidOut?: boolean
  /** Said where the place stays the same and what is meant there changes. */
  said?: ReactNode
}

/** The song as a page: a row a phrase, its counts in columns, the sound above them. */
export function Sheet({ frame: given, said, laidOut = true, ...rows }: SheetProps) {
  const own = useRef<HTMLDivElement>(null)
  const frame = given ?? own
  useHeldStill(frame)
  const { page, label, right = 24 } = rows
  // Which rows are in view is known once the sheet has a size: they are drawn then, where the cursor is.
  const [sized, setSized] = useState(false)
  useLayoutEffect(() => setSized(true), [])
  return (
    <>
      <Unseen role="status">{said}</Unseen>
      <Frame
        ref={frame}
        tabIndex={0}
        role="grid"
        aria-label={label}
        aria-rowcount={page.lines.length + 1}
        aria-colcount={2 + PARTS_OF_COUNT * COLUMNS}
        data-testid="sheet"
      >
        <Columns right={right} />
        {sized && laidOut && <Rows {...rows} right={right} frame={frame} />}
      </Frame>
    </>
  )
}

interface RowsProps extends Omit<SheetProps, 'label' | 'said' | 'laidOut'> {
  frame: RefObject<HTMLDivElement | null>
  right: number
}

/** Those in view, and what goes over them. */
function Rows({ page, frame, rowHeight, right, ...parts }: RowsProps) {
  const { lines } = page
  const marked = useRoutine((s) => s.routine.marks.length > 0) ? MARK_LINE : 0
  /** What stands above a row's wave. */
  const above = (p: SheetLine) => marked + (beginsSection(p) ? SECTION_LINE : 0)
  const rowOf = (p: SheetLine) => (typeof rowHeight === 'number' ? rowHeight : rowHeight(p))
  const heights = lines.map((p) => rowOf(p) + above(p))
  const cursorRow = useCursor((s) => phraseAt(lines, s.tick)?.row ?? 0)
  const rows = useRows(frame, heights, cursorRow)
  return (
    <div role="rowgroup" style={{ ...ROWS, height: rows.total }}>
      {rows.drawn.map(({ row, start }) => {
        const line = lines[row]
        return (
          line && (
            <SheetRow
              key={row}
              {...{ page, line, right, ...parts }}
              rowHeight={rowOf(line)}
              top={start}
              size={heights[row] ?? 0}
              hasCursor={row === cursorRow}
            />
          )
        )
      })}
      <SpokenRows frame={frame} lines={lines} spoken={parts.spoken} />
      <PlayingLine
        {...{ page, right, rows }}
        above={(row) => (lines[row] ? above(lines[row]) : 0)}
        height={(row) => (lines[row] ? rowOf(lines[row]) - 8 : 0)}
      />
    </div>
  )
}

const ROWS = { position: 'absolute', top: 0, left: 0, right: 0, minWidth: LEAST_WIDTH } as const

/** The numbers of the counts, above the rows. */
function Columns({ right }: { right: number }) {
  return (
    <Head $right={right} role="row" aria-rowindex={1}>
      <Unseen role="columnheader" aria-colindex={1}>
        phrase
      </Unseen>
      {Array.from({ length: COLUMNS }, (_, i) => (
        <span
          // biome-ignore lint/suspicious/noArrayIndexKey: the columns are their numbers
          key={i}
          role="columnheader"
          aria-colindex={2 + PARTS_OF_COUNT * i}
          aria-colspan={PARTS_OF_COUNT}
          aria-label={`count ${i + 1}`}
        >
          {i + 1}
          <i>&</i>
        </span>
      ))}
    </Head>
  )
}

/** The line that moves over the rows while the song plays; the sheet follows it. */
function PlayingLine({
  page,
  right,
  rows,
  above,
  height,
}: {
  page: Page
  right: number
  rows: { startOf: (row: number) => number | null; show: (row: number) => void }
  /** Pixels of a row above its wave, and of the line in it. */
  above: (row: number) => number
  height: (row: number) => number
}) {
  const head = useRef<HTMLDivElement>(null)
  const stroke = useRef<HTMLElement>(null)
  const playing = usePlayerState((s) => s.playing)
  useGlide(page, head, (now) => {
    const place = placeOnSheet(page, now, COLUMNS)
    const start = place && rows.startOf(place.row)
    if (!place || start === null) return null
    // In pixels: what depends on the size of a box is not moved off the main thread.
    const x = place.share * (head.current?.clientWidth ?? 0)
    return `translate(${x}px, ${start + above(place.row)}px)`
  })
  const lastRow = useRef(-1)
  useMoments(page, (now) => {
    const row = now === null ? -1 : (placeOnSheet(page, now, COLUMNS)?.row ?? -1)
    if (row < 0 || row === lastRow.current) return
    lastRow.current = row
    if (stroke.current) stroke.current.style.height = `${height(row)}px`
    rows.show(Math.min(row + 1, page.lines.length - 1))
  })
  return (
    <Playhead ref={head} aria-hidden $right={right} style={{ display: playing ? 'block' : 'none' }}>
      <i ref={stroke} />
    </Playhead>
  )
}

/** "Chorus, eight 3, count 5&" for a tick of the page. */
export function spokenPlace(page: Page, tick: Ticks): string {
  const at = phraseAt(page.placed, tick)
  return at ? `${placeName(at)}, count ${labelIn(at, tick)}` : ''
}
