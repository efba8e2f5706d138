'use client'

import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual'
import { type ReactNode, type RefObject, useEffect, useLayoutEffect, useRef, useState } from 'react'
import styled from 'styled-components'
import { beginsSection, labelIn, phraseAt, placeName } from '@/core/routine'
import type { Ticks } from '@/core/time'
import { useCursor } from '../state/cursor'
import type { Page } from '../state/page'
import { usePlayerState } from '../state/player'
import { useRoutine } from '../state/routine-store'
import { desk } from '../theme/tokens'
import { COLUMNS, type SheetLine } from './lines'
import { MARK_LINE } from './mark-line'
import { placeOnSheet, useGlide, useMoments } from './playhead'
import { LEFT, type OnPoint, SECTION_LINE, SheetRow } from './row'
import { cellId, cellStart, PARTS_OF_COUNT, type Spoken, SpokenRows, Unseen } from './spoken-rows'

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
  background: ${desk.azalea}14;
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
  return Math.max(40, (wide - LEFT - right) / COLUMNS)
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
  inside?: (placed: SheetLine, columns: number) => ReactNode
  /** The box around the cursor. */
  cursor: (placed: SheetLine, columns: number) => ReactNode
  /** What stands beside a row's name. */
  beside?: (placed: SheetLine) => ReactNode
  onPoint: OnPoint
  /** What a screen reader is told of the cursor's row. */
  spoken: Spoken
  /** Said where the place stays the same and what is meant there changes. */
  said?: string
}

/** The song as a page: a row a phrase, its counts in columns, the sound above them. */
export function Sheet({
  page,
  frame: given,
  label,
  rowHeight,
  waveHeight,
  right = 24,
  inside,
  cursor,
  beside,
  onPoint,
  spoken,
  said = '',
}: SheetProps) {
  const own = useRef<HTMLDivElement>(null)
  const frame = given ?? own
  const head = useRef<HTMLDivElement>(null)
  const { lines } = page
  const columns = COLUMNS
  const marked = useRoutine((s) => s.routine.marks.length > 0) ? MARK_LINE : 0
  /** What stands above a row's wave. */
  const above = (p: SheetLine | undefined) => marked + (p && beginsSection(p) ? SECTION_LINE : 0)
  const rowOf = (p: SheetLine) => (typeof rowHeight === 'number' ? rowHeight : rowHeight(p))
  const heightOf = (p: SheetLine | undefined) => (p ? rowOf(p) + above(p) : 0)
  const tick = useCursor((s) => s.tick)
  const atCursor = phraseAt(lines, tick)
  const cursorRow = atCursor?.row ?? 0
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => frame.current,
    estimateSize: (i) => heightOf(lines[i]),
    overscan: 2,
    scrollMargin: 30,
    scrollPaddingStart: 36,
    // The row of the cursor is always there: what is typed in it keeps the focus, wherever the sheet is scrolled.
    rangeExtractor: (range) => {
      const drawn = defaultRangeExtractor(range)
      if (cursorRow >= lines.length || drawn.includes(cursorRow)) return drawn
      return [...drawn, cursorRow].sort((a, b) => a - b)
    },
  })
  // What the virtualizer cannot see: it is told when heights change.
  const heights = lines.map(heightOf).join()
  // biome-ignore lint/correctness/useExhaustiveDependencies: measured again only when heights change
  useLayoutEffect(() => rows.measure(), [heights])
  const before = useRef(-1)
  // biome-ignore lint/correctness/useExhaustiveDependencies: rows that grow push the cursor's row away
  useEffect(() => {
    const seen = before.current < 0 ? null : rows.range
    const leap = Math.abs(cursorRow - before.current) > 1
    before.current = cursorRow
    const inView = seen && cursorRow > seen.startIndex && cursorRow < seen.endIndex
    // After a leap near the top, so that what follows is in view; else only as far as needed.
    if (leap && !inView) rows.scrollToIndex(Math.max(0, cursorRow - 1), { align: 'start' })
    else rows.scrollToIndex(cursorRow, { align: 'auto' })
  }, [cursorRow, rows, heights])
  const playing = usePlayerState((s) => s.playing)
  useGlide(page, head, (now) => {
    const place = placeOnSheet(page, now, columns)
    const start = place ? rows.measurementsCache[place.row]?.start : undefined
    if (!place || start === undefined) return null
    // In pixels: what depends on the size of a box is not moved off the main thread.
    const x = place.share * (head.current?.clientWidth ?? 0)
    return `translate(${x}px, ${start + above(lines[place.row])}px)`
  })
  const lastRow = useRef(-1)
  useMoments(page, (now) => {
    const row = now === null ? -1 : (placeOnSheet(page, now, columns)?.row ?? -1)
    if (row < 0 || row === lastRow.current) return
    lastRow.current = row
    const [stroke, line] = [head.current?.firstElementChild as HTMLElement | null, lines[row]]
    if (stroke && line) stroke.style.height = `${rowOf(line) - 8}px`
    rows.scrollToIndex(Math.min(row + 1, lines.length - 1), { align: 'auto' })
  })
  return (
    <>
      <Unseen role="status">{said}</Unseen>
      <Frame
        ref={frame}
        tabIndex={0}
        role="grid"
        aria-label={label}
        aria-rowcount={lines.length + 1}
        aria-colcount={2 + PARTS_OF_COUNT * columns}
        {...(atCursor ? { 'aria-activedescendant': cellId(spoken.lane, cellStart(atCursor, tick)) } : {})}
        data-testid="sheet"
      >
        <Head $right={right} role="row" aria-rowindex={1}>
          <Unseen role="columnheader" aria-colindex={1}>
            phrase
          </Unseen>
          {Array.from({ length: columns }, (_, i) => (
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
        <div
          role="rowgroup"
          style={{
            height: rows.getTotalSize(),
            position: 'absolute',
            top: 0,
            left: 0,
            right: 0,
            minWidth: LEAST_WIDTH,
          }}
        >
          {rows.getVirtualItems().map((item) => {
            const p = lines[item.index] as SheetLine
            return (
              <SheetRow
                key={p.row}
                {...{ page, placed: p, columns, waveHeight, right, onPoint }}
                rowHeight={rowOf(p)}
                top={item.start}
                size={heightOf(p)}
                beside={beside?.(p)}
              >
                {inside?.(p, columns)}
                {p === atCursor && cursor(p, columns)}
              </SheetRow>
            )
          })}
          {atCursor && <SpokenRows line={atCursor} spoken={spoken} at={tick} />}
          <Playhead ref={head} aria-hidden $right={right} style={{ display: playing ? 'block' : 'none' }}>
            <i />
          </Playhead>
        </div>
      </Frame>
    </>
  )
}

/** "Chorus, eight 3, count 5&" for a tick of the page. */
export function spokenPlace(page: Page, tick: Ticks): string {
  const at = phraseAt(page.placed, tick)
  return at ? `${placeName(at)}, count ${labelIn(at, tick)}` : ''
}
