'use client'

import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { COLUMNS, type SheetLine } from '@/core/station'
import { common, type Stretch, TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { useCursor } from '../state/cursor'
import { type Page, useSong } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk, faded } from '../theme/tokens'

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

/** A line between counts, and their own numbers where the line does not begin with 1. */
export function CountLines({ line, counts }: { line: SheetLine; counts: number }) {
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
export function CarriedOn({
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
export function MarkedShade({
  placed,
  columns,
  height,
}: {
  placed: SheetLine
  columns: number
  height: number
}) {
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
export function BorderSigns({ page, line, height }: { page: Page; line: SheetLine; height: number }) {
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
export function LoopBar({ placed }: { placed: SheetLine }) {
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
export function ExcerptShade({ placed, columns }: { placed: SheetLine; columns: number }) {
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
