'use client'

import { useRef, useState } from 'react'
import { useMove } from 'react-aria'
import styled from 'styled-components'
import { type Cue, cueText, type PlacedPhrase } from '@/core/routine'
import { countLabel, TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { LEFT } from '../../sheet/row'
import { desk } from '../../theme/tokens'

/** Height of one layer's lane. */
export const LANE = 29

export const LaneName = styled.span`
  position: absolute;
  left: ${-LEFT + 58}px;
  width: ${LEFT - 64}px;
  text-align: right;
  font-size: 11.5px;
  line-height: ${LANE - 2}px;
  color: ${desk.quiet};
  pointer-events: none;
`

const Chip = styled.div<{ $arms: boolean; $chosen: boolean }>`
  position: absolute;
  height: ${LANE - 4}px;
  border: 1.5px solid ${(p) => (p.$chosen ? desk.azalea : '#6F6073')};
  background: ${(p) => (p.$chosen ? desk.azaleaSoft : '#fff')};
  box-shadow: ${(p) => (p.$chosen ? `0 0 0 1.5px ${desk.azalea}` : 'none')};
  border-radius: ${(p) => (p.$arms ? 13 : 5)}px;
  padding: 0 ${(p) => (p.$arms ? 9 : 6)}px;
  font-weight: 550;
  font-size: 13px;
  line-height: ${LANE - 7}px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  cursor: grab;
  touch-action: none;
  z-index: 1;
  &:hover { border-color: ${desk.azalea}; }
`

interface ChipProps {
  cue: Cue
  placed: PlacedPhrase
  columns: number
  top: number
  /** Ticks it may be drawn over. */
  room: Ticks
  chosen: boolean
  onChoose: () => void
  onMove: (by: Ticks) => void
  onWrite: () => void
}

const HALF = TICKS_PER_COUNT / 2

/** One cue in its lane; it can be dragged along the counts. */
export function CueChip({ cue, placed, columns, top, room, chosen, onChoose, onMove, onWrite }: ChipProps) {
  const ref = useRef<HTMLDivElement>(null)
  const pulled = useRef(0)
  const [offset, setOffset] = useState(0)
  const ticksOf = (pixels: number) => {
    const width = ref.current?.parentElement?.clientWidth ?? 1
    return Math.round(((pixels / width) * columns * TICKS_PER_COUNT) / HALF) * HALF
  }
  const { moveProps } = useMove({
    onMoveStart: () => {
      pulled.current = 0
    },
    onMove: (e) => {
      if (e.pointerType === 'keyboard') return
      pulled.current += e.deltaX
      setOffset(ticksOf(pulled.current))
    },
    onMoveEnd: (e) => {
      const by = ticksOf(pulled.current)
      setOffset(0)
      if (e.pointerType !== 'keyboard' && by !== 0) onMove(by)
    },
  })
  const share = (ticks: Ticks) => `${(ticks / TICKS_PER_COUNT / columns) * 100}%`
  const within = cue.at - placed.start
  const text = cueText(cue)
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the sheet's own cursor and keys do the same
    <div
      onPointerDown={(e) => {
        e.stopPropagation()
        onChoose()
      }}
      onDoubleClick={onWrite}
    >
      <Chip
        ref={ref}
        {...moveProps}
        $arms={cue.layer !== 'feet'}
        $chosen={chosen}
        title={`${countLabel(within, placed.phrase.feel, placed.first)} ${text}`}
        data-testid="cue"
        style={{
          top,
          left: share(within + offset),
          width: `calc(${share(room)} - 3px)`,
          ...(room < HALF ? { padding: '0 3px' } : {}),
        }}
      >
        {text}
      </Chip>
    </div>
  )
}
