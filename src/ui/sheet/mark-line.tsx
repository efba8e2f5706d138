'use client'

import styled from 'styled-components'
import { marksIn, type PlacedPhrase } from '@/core/routine'
import { TICKS_PER_COUNT, tickOfTime, timeOfTick } from '@/core/time'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk } from '../theme/tokens'

/** Height of the line of words and sounds above the wave. */
export const MARK_LINE = 19

const Word = styled.span`
  position: absolute;
  top: ${-MARK_LINE + 1}px;
  height: ${MARK_LINE - 2}px;
  padding-left: 4px;
  border-left: 2px solid ${desk.quiet};
  font-size: 12.5px;
  line-height: ${MARK_LINE - 2}px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  pointer-events: none;
  &[data-kind='sound'] { border-left: 2px dashed ${desk.azalea}; font-style: italic; color: ${desk.azalea}; }
`

const Flag = styled.span`
  position: absolute;
  top: 0;
  z-index: 1;
  padding: 0 7px;
  border-radius: 0 0 8px 0;
  background: ${desk.ink};
  color: ${desk.paper};
  font-size: 11.5px;
  line-height: 17px;
  max-width: 160px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  pointer-events: none;
`

/** Words and sounds that begin in a row, above its wave; parts of the dance that begin in it, on the wave. */
export function MarkLine({ page, placed, columns }: { page: Page; placed: PlacedPhrase; columns: number }) {
  const marks = useRoutine((s) => s.routine.marks)
  const parts = useRoutine((s) => s.routine.parts)
  const share = (tick: number) => ((tick - placed.start) / TICKS_PER_COUNT / columns) * 100
  const here = marks.length
    ? marksIn(marks, timeOfTick(page.times, placed.start), timeOfTick(page.times, placed.end))
    : []
  return (
    <>
      {here.map((m, i) => {
        const left = share(tickOfTime(page.times, m.at))
        const next = here[i + 1]
        const right = next ? share(tickOfTime(page.times, next.at)) : share(placed.end)
        return (
          <Word
            key={m.id}
            data-kind={m.kind}
            title={m.text}
            style={{ left: `${left}%`, width: `${Math.max(1, right - left)}%` }}
          >
            {m.text}
          </Word>
        )
      })}
      {parts
        .filter((p) => p.at >= placed.start && p.at < placed.end)
        .map((p) => (
          <Flag key={p.id} title={p.name} style={{ left: `${share(p.at)}%` }}>
            {p.name}
          </Flag>
        ))}
    </>
  )
}
