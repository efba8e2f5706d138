'use client'

import styled from 'styled-components'
import { meant } from '@/core/drill'
import { phraseAt, type VoicePiece } from '@/core/routine'
import { type Stretch, TICKS_PER_COUNT, tickOfTime, timeOfTick } from '@/core/time'
import type { Page } from '../state/page'
import { desk, font } from '../theme/tokens'

const Box = styled.svg`
  width: 100%;
  display: block;
  text { font: 600 13px/1 ${font.display}; fill: ${desk.quiet}; text-anchor: middle; }
  line { stroke: ${desk.line}; }
  rect { fill: ${desk.azaleaSoft}; }
  path { stroke: ${desk.azalea}; stroke-width: 2.5; }
`

const [WIDTH, ROW, TOP] = [640, 62, 22]
/** Counts in a line of the strip. */
const LINE = 16

interface Props {
  page: Page
  stretch: Stretch
  pieces: readonly VoicePiece[]
  exact: boolean
}

/** The pieces of a recording on their counts, as long as they are at full tempo; a stroke stands where each is stressed. */
export function SaidStrip({ page, stretch, pieces, exact }: Props) {
  const counts = Math.ceil((stretch.to - stretch.from) / TICKS_PER_COUNT)
  const lines = Math.ceil(counts / LINE)
  const across = Math.min(LINE, Math.max(4, counts)) * TICKS_PER_COUNT
  const x = (tick: number, line: number) =>
    16 + ((tick - stretch.from - line * LINE * TICKS_PER_COUNT) / across) * (WIDTH - 24)
  const list = Array.from({ length: lines }, (_, i) => i)
  return (
    <Box
      viewBox={`0 0 ${WIDTH} ${lines * ROW}`}
      role="img"
      aria-label={`${pieces.length} ${pieces.length === 1 ? 'piece' : 'pieces'} on ${counts} counts`}
      data-testid="said-strip"
    >
      {list.map((line) => {
        const from = stretch.from + line * LINE * TICKS_PER_COUNT
        const to = Math.min(stretch.to, from + LINE * TICKS_PER_COUNT)
        const here = pieces.filter((p) => (line === 0 || p.at >= from) && p.at < to)
        return (
          <g key={line} transform={`translate(0 ${line * ROW})`}>
            {Array.from({ length: Math.ceil((to - from) / TICKS_PER_COUNT) }, (_, i) => {
              const tick = from + i * TICKS_PER_COUNT
              const phrase = phraseAt(page.placed, tick)
              return (
                <g key={tick}>
                  <line x1={x(tick, line)} x2={x(tick, line)} y1={TOP - 4} y2={ROW - 8} />
                  <text x={x(tick, line)} y={13}>
                    {phrase ? Math.floor((tick - phrase.start) / TICKS_PER_COUNT) + phrase.first : ''}
                  </text>
                </g>
              )
            })}
            {here.map((p) => {
              const at = exact ? p.at : meant(p.at)
              const time = timeOfTick(page.times, at)
              const [a, b] = [time - (p.stress - p.from), time + (p.to - p.stress)].map((t) =>
                x(tickOfTime(page.times, t), line),
              ) as [number, number]
              return (
                <g key={`${p.from}`}>
                  <rect x={a} width={Math.max(4, b - a)} y={TOP + 4} height={22} rx={5} />
                  <path d={`M${x(at, line)} ${TOP} v30`} />
                </g>
              )
            })}
          </g>
        )
      })}
    </Box>
  )
}
