'use client'

import { useVirtualizer } from '@tanstack/react-virtual'
import { type ReactNode, type PointerEvent as ReactPointerEvent, useEffect, useMemo, useRef } from 'react'
import styled from 'styled-components'
import { labelIn, type PlacedPhrase, phraseAt, placeName, sectionTitle } from '@/core/routine'
import { clockText, TICKS_PER_COUNT, type Ticks, timeOfTick } from '@/core/time'
import { useCursor } from '../state/cursor'
import { type Page, useSong } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk, font, tintOf } from '../theme/tokens'
import { placeOnSheet, useEachFrame } from './playhead'
import { Wave } from './wave'

export const LEFT = 112
const SECTION_LINE = 34

const Frame = styled.div`
  position: relative;
  overflow-y: auto;
  height: 100%;
  outline-offset: -3px !important;
`

const Head = styled.div<{ $right: number }>`
  position: sticky;
  top: 0;
  z-index: 5;
  background: ${desk.paper};
  border-bottom: 1px solid ${desk.line};
  padding-left: ${LEFT}px;
  padding-right: ${(p) => p.$right}px;
  height: 30px;
  display: flex;
  align-items: center;
  span { flex: 1; font-weight: 700; position: relative; font-size: 14px; }
  i { position: absolute; left: 50%; font-style: normal; font-weight: 500; color: ${desk.quiet}; }
`

const Row = styled.div`
  position: absolute;
  left: 0;
  right: 0;
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

const Counts = styled.div<{ $right: number }>`
  position: absolute;
  left: ${LEFT}px;
  right: ${(p) => p.$right}px;
  bottom: 0;
`

const Line = styled.i`
  position: absolute;
  top: 0;
  bottom: 6px;
  width: 1px;
  background: ${desk.line};
`

const Outside = styled.div`
  position: absolute;
  top: 0;
  bottom: 0;
  background: ${desk.paper}99;
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
  display: none;
  z-index: 3;
  i { position: absolute; top: 2px; width: 2.5px; margin-left: -1px; background: ${desk.azalea}; border-radius: 2px; }
`

const Said = styled.div`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
`

interface SheetProps {
  page: Page
  label: string
  /** Height of a row without its section line. */
  rowHeight: number
  waveHeight: number
  /** Room on the right for what stands beside a row. */
  right?: number
  /** What the row holds below its wave. */
  inside?: (placed: PlacedPhrase, columns: number) => ReactNode
  /** The box around the cursor; by default a whole count over the wave. */
  cursor?: (placed: PlacedPhrase, columns: number) => ReactNode
  onPoint: (tick: number, y: number) => void
  /** What is said of the cursor's place to a screen reader. */
  said?: string
}

/** The song as a page: a row a phrase, its counts in columns, the sound above them. */
export function Sheet({
  page,
  label,
  rowHeight,
  waveHeight,
  right = 24,
  inside,
  cursor,
  onPoint,
  said,
}: SheetProps) {
  const frame = useRef<HTMLDivElement>(null)
  const head = useRef<HTMLDivElement>(null)
  const { placed } = page
  const columns = useMemo(() => placed.reduce((n, p) => Math.max(n, p.phrase.length), 8), [placed])
  const heightOf = (p: PlacedPhrase | undefined) => rowHeight + (p && begins(p) ? SECTION_LINE : 0)
  const rows = useVirtualizer({
    count: placed.length,
    getScrollElement: () => frame.current,
    estimateSize: (i) => heightOf(placed[i]),
    overscan: 4,
    scrollMargin: 30,
    scrollPaddingStart: 36,
  })
  // biome-ignore lint/correctness/useExhaustiveDependencies: row heights follow the page, which the virtualizer cannot see
  useEffect(() => rows.measure(), [placed, rowHeight])
  const tick = useCursor((s) => s.tick)
  const atCursor = phraseAt(placed, tick)
  const cursorRow = atCursor?.index ?? 0
  useEffect(() => {
    const seen = rows.range
    const far = !seen || cursorRow < seen.startIndex - 1 || cursorRow > seen.endIndex + 1
    // After a leap near the top, so that what follows is in view; else only as far as needed.
    if (far) rows.scrollToIndex(Math.max(0, cursorRow - 1), { align: 'start' })
    else rows.scrollToIndex(cursorRow, { align: 'auto' })
  }, [cursorRow, rows])
  const lastRow = useRef(-1)
  useEachFrame(page, (now) => {
    const line = head.current
    if (!line) return
    const place = now === null ? null : placeOnSheet(page, now, columns)
    line.style.display = place ? 'block' : 'none'
    if (!place) return
    const p = placed[place.row]
    const offset = rows.getOffsetForIndex(place.row, 'start')?.[0] ?? 0
    const start = rows.measurementsCache[place.row]?.start ?? offset
    const bar = line.firstElementChild as HTMLElement
    line.style.transform = `translateY(${start + (p && begins(p) ? SECTION_LINE : 0)}px)`
    bar.style.height = `${rowHeight - 8}px`
    bar.style.left = `${place.share * 100}%`
    if (place.row !== lastRow.current) {
      lastRow.current = place.row
      rows.scrollToIndex(Math.min(place.row + 1, placed.length - 1), { align: 'auto' })
    }
  })
  return (
    <Frame ref={frame} tabIndex={0} role="group" aria-label={label} data-testid="sheet">
      <Said role="status">{said}</Said>
      <Head $right={right} aria-hidden>
        {Array.from({ length: columns }, (_, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the columns are their numbers
          <span key={i}>
            {i + 1}
            <i>&</i>
          </span>
        ))}
      </Head>
      <div style={{ height: rows.getTotalSize(), position: 'absolute', top: 0, left: 0, right: 0 }}>
        {rows.getVirtualItems().map((item) => {
          const p = placed[item.index] as PlacedPhrase
          return (
            <SheetRow
              key={p.phrase.id}
              {...{ page, placed: p, columns, waveHeight, rowHeight, right, onPoint }}
              top={item.start}
              size={heightOf(p)}
            >
              {inside?.(p, columns)}
              {p === atCursor &&
                (cursor ? (
                  cursor(p, columns)
                ) : (
                  <CountCursor placed={p} columns={columns} height={waveHeight} />
                ))}
            </SheetRow>
          )
        })}
        <Playhead ref={head} $right={right}>
          <i />
        </Playhead>
      </div>
    </Frame>
  )
}

const begins = (p: PlacedPhrase) => p.section?.phrase === p.phrase.id

function CountCursor({ placed, columns, height }: { placed: PlacedPhrase; columns: number; height: number }) {
  const tick = useCursor((s) => s.tick)
  const left = (tick - placed.start) / TICKS_PER_COUNT / columns
  return (
    <CursorBox
      data-testid="cursor"
      style={{ left: `${left * 100}%`, width: `${100 / columns}%`, top: 0, height: height + 4 }}
    />
  )
}

interface RowProps {
  page: Page
  placed: PlacedPhrase
  columns: number
  rowHeight: number
  waveHeight: number
  right: number
  top: number
  size: number
  onPoint: (tick: number, y: number) => void
  children: ReactNode
}

function SheetRow({
  page,
  placed,
  columns,
  rowHeight,
  waveHeight,
  right,
  top,
  size,
  onPoint,
  children,
}: RowProps) {
  const { heard } = useSong()
  const { section, phrase } = placed
  const tint = tintOf(section?.letter)
  const first = begins(placed)
  const point = (e: ReactPointerEvent<HTMLDivElement>) => {
    const box = e.currentTarget.getBoundingClientRect()
    const share = (e.clientX - box.left) / box.width
    const tick = placed.start + share * columns * TICKS_PER_COUNT
    onPoint(Math.max(placed.start, Math.min(placed.end - 1, tick)), e.clientY - box.top)
  }
  return (
    <Row style={{ transform: `translateY(${top}px)`, height: size }} data-row={placed.index}>
      {first && section && (
        <SectionName>
          <b style={{ background: tint.ground, color: tint.ink }}>{section.letter}</b>
          {sectionTitle(section)}
        </SectionName>
      )}
      <Band $pattern={tint.pattern} $ground={tint.ground} style={{ top: first ? SECTION_LINE : 0 }} />
      <Name style={{ bottom: rowHeight - 50 }}>
        <strong>{phrase.pickUp ? '·' : placed.inSection}</strong>
        <span>
          {clockText(timeOfTick(page.times, placed.start))}
          {phrase.length !== 8 && ` · ${phrase.pickUp ? 'pick-up' : `${phrase.length} counts`}`}
        </span>
      </Name>
      <Counts $right={right} style={{ height: rowHeight }} onPointerDown={point} data-counts={phrase.length}>
        {Array.from({ length: phrase.length + 1 }, (_, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the lines are their numbers
          <Line key={i} style={{ left: `${(i / columns) * 100}%` }} />
        ))}
        {heard && (
          <Wave
            peaks={heard.peaks}
            times={page.times}
            from={placed.start}
            counts={phrase.length}
            columns={columns}
            height={waveHeight}
            colour={tint.ink}
          />
        )}
        {children}
        <CarriedOn placed={placed} columns={columns} top={waveHeight - 1} />
        <ExcerptShade placed={placed} columns={columns} />
      </Counts>
    </Row>
  )
}

/** Marks counts that are not heard but carried on through silence; unknown once the beats were repaired. */
function CarriedOn({ placed, columns, top }: { placed: PlacedPhrase; columns: number; top: number }) {
  const { heard } = useSong()
  const repaired = useRoutine((s) => s.routine.repairs.length > 0)
  if (!heard || repaired) return null
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

/** Dims what lies outside the excerpt, and brackets its ends. */
function ExcerptShade({ placed, columns }: { placed: PlacedPhrase; columns: number }) {
  const excerpt = useRoutine((s) => s.routine.excerpt)
  if (!excerpt) return null
  const share = (tick: Ticks) =>
    Math.max(0, Math.min(1, (tick - placed.start) / TICKS_PER_COUNT / columns)) * 100
  const inside = (tick: Ticks) => tick >= placed.start && tick < placed.end
  const end = share(placed.end)
  return (
    <>
      {excerpt.start > placed.start && (
        <Outside style={{ left: 0, width: `${Math.min(end, share(excerpt.start))}%` }} />
      )}
      {excerpt.end < placed.end && (
        <Outside style={{ left: `${share(excerpt.end)}%`, width: `${end - share(excerpt.end)}%` }} />
      )}
      {inside(excerpt.start) && (
        <Edge style={{ left: `${share(excerpt.start)}%`, borderWidth: '2.5px 0 2.5px 2.5px' }} />
      )}
      {inside(excerpt.end - 1) && (
        <Edge style={{ left: `calc(${share(excerpt.end)}% - 7px)`, borderWidth: '2.5px 2.5px 2.5px 0' }} />
      )}
    </>
  )
}

/** "Chorus, eight 3, count 5&" for a tick of the page. */
export function spokenPlace(page: Page, tick: Ticks): string {
  const at = phraseAt(page.placed, tick)
  return at ? `${placeName(at)}, count ${labelIn(at, tick)}` : ''
}
