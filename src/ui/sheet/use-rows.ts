'use client'

import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual'
import { type RefObject, useEffect, useLayoutEffect, useRef, useState } from 'react'

/** Where a row stands on the sheet, in pixels from its top. */
export interface RowPlace {
  row: number
  start: number
}

/** Pixels that stay free above a row that is scrolled to. */
const ROOM_ABOVE = 36
/** What stands above the first row: the numbers of the counts. */
const HEAD = 30

interface Rows {
  /** The rows that are drawn. */
  drawn: readonly RowPlace[]
  total: number
  /** Where a row begins; null while it is not known. */
  startOf: (row: number) => number | null
  /** Scrolls only as far as is needed. */
  show: (row: number) => void
}

/**
 * The rows of a sheet that are in view, and the cursor's, which is always drawn: what is typed in it keeps the focus, wherever the
 * sheet is scrolled. The sheet follows the cursor.
 * @param heights of all rows, in pixels
 */
export function useRows(
  frame: RefObject<HTMLElement | null>,
  heights: readonly number[],
  cursorRow: number,
): Rows {
  'use no memo' // What the virtualizer gives changes without its object changing.
  const [opened] = useState(() => whereOpened(frame.current, heights, cursorRow))
  const rows = useVirtualizer({
    ...opened,
    count: heights.length,
    getScrollElement: () => frame.current,
    estimateSize: (i) => heights[i] ?? 0,
    overscan: 2,
    scrollMargin: HEAD,
    scrollPaddingStart: ROOM_ABOVE,
    rangeExtractor: (range) => {
      const drawn = defaultRangeExtractor(range)
      if (cursorRow >= heights.length || drawn.includes(cursorRow)) return drawn
      return [...drawn, cursorRow].sort((a, b) => a - b)
    },
  })
  // What the virtualizer cannot see: it is told when heights change.
  const key = heights.join()
  // biome-ignore lint/correctness/useExhaustiveDependencies: measured again only when heights change
  useLayoutEffect(() => rows.measure(), [key])
  const before = useRef(-1)
  const touched = useTouched()
  // biome-ignore lint/correctness/useExhaustiveDependencies: rows that grow push the cursor's row away
  useEffect(() => {
    const untouched = !touched.current
    const seen = before.current < 0 ? null : rows.range
    const leap = Math.abs(cursorRow - before.current) > 1
    before.current = cursorRow
    const inView = seen && cursorRow > seen.startIndex && cursorRow < seen.endIndex
    const top = Math.max(0, cursorRow - 1)
    // A page that is opened lies there already; to ask how far it scrolls, it would have to be laid out at once.
    if (untouched && !top && !rows.scrollOffset) return
    // A page that was opened scrolls there once it was laid out anyway, each time it finds other heights.
    if (untouched && frame.current)
      return onceLaidOut(frame.current, (sheet) => {
        const start = rows.measurementsCache[top]?.start
        if (start !== undefined) sheet.scrollTop = start - ROOM_ABOVE
      })
    // After a leap near the top, so that what follows is in view; else only as far as needed.
    if (leap && !inView) rows.scrollToIndex(top, { align: 'start' })
    else rows.scrollToIndex(cursorRow, { align: 'auto' })
  }, [cursorRow, rows, key])
  return {
    drawn: rows.getVirtualItems().map(({ index, start }) => ({ row: index, start })),
    total: rows.getTotalSize(),
    startOf: (row) => rows.measurementsCache[row]?.start ?? null,
    show: (row) => rows.scrollToIndex(row, { align: 'auto' }),
  }
}

/** What is in view of a sheet that opens at a row: its rows are drawn once, not at its top first. */
function whereOpened(frame: HTMLElement | null, heights: readonly number[], cursorRow: number) {
  const [width, height] = [frame?.clientWidth ?? 0, frame?.clientHeight ?? 0]
  const below = (row: number) => heights.slice(0, row).reduce((sum, h) => sum + h, HEAD)
  const furthest = Math.max(0, below(heights.length) - height)
  const initialOffset = cursorRow > 1 ? Math.min(below(cursorRow - 1) - ROOM_ABOVE, furthest) : 0
  return { initialRect: { width, height }, initialOffset }
}

/** Does something with an element as soon as it is laid out for the next picture: asked before, it would be laid out once more. @returns lets it be */
function onceLaidOut(element: HTMLElement, work: (element: HTMLElement) => void): () => void {
  const watch = new ResizeObserver(() => {
    watch.disconnect()
    work(element)
  })
  watch.observe(element)
  return () => watch.disconnect()
}

/** Whether anybody has done something on the page since it was opened. */
function useTouched(): RefObject<boolean> {
  const touched = useRef(false)
  useEffect(() => {
    const touch = () => {
      touched.current = true
    }
    const kinds = ['keydown', 'pointerdown', 'wheel'] as const
    const how = { capture: true, passive: true }
    for (const kind of kinds) window.addEventListener(kind, touch, how)
    return () => {
      for (const kind of kinds) window.removeEventListener(kind, touch, how)
    }
  }, [])
  return touched
}
