'use client'

import { useRef, useState } from 'react'
import { useMove } from 'react-aria'
import styled from 'styled-components'
import type { DancedCue } from '@/core/choreo'
import { cueText, type PlacedPhrase } from '@/core/routine'
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

const Chip = styled.div<{ $arms: boolean; $chosen: boolean; $linked: boolean; $differs: boolean }>`
  position: absolute;
  height: ${LANE - 4}px;
  border: 1.5px ${(p) => (p.$linked ? 'dashed' : 'solid')} ${(p) => (p.$chosen ? desk.azalea : '#6F6073')};
  ${(p) => p.$differs && `border-left: 6px double ${desk.azalea};`}
  background: ${(p) => (p.$chosen ? desk.azaleaSoft : p.$linked ? 'transparent' : '#fff')};
  box-shadow: ${(p) => (p.$chosen ? `0 0 0 1.5px ${desk.azalea}` : 'none')};
  border-radius: ${(p) => (p.$arms ? 13 : 5)}px;
  padding: 0 ${(p) => (p.$arms ? 9 : 6)}px;
  font-weight: 550;
  font-size: 13px;
  line-height: ${LANE - 7}px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  cursor: ${(p) => (p.$linked ? 'default' : 'grab')};
  touch-action: none;
  z-index: 1;
  &:hover { border-color: ${desk.azalea}; }
  small { font-size: 11px; color: ${desk.quiet}; font-weight: 500; }
`

const Stretch = styled.i`
  position: absolute;
  right: 0;
  top: 0;
  bottom: 0;
  width: 7px;
  cursor: ew-resize;
  touch-action: none;
`

interface ChipProps {
  cue: DancedCue
  placed: PlacedPhrase
  columns: number
  top: number
  /** Ticks it may be drawn over. */
  room: Ticks
  chosen: boolean
  mirrored: boolean
  onChoose: () => void
  onMove: (by: Ticks) => void
  onStretch: (by: Ticks) => void
  onWrite: () => void
}

const HALF = TICKS_PER_COUNT / 2

/** Pulling with the pointer along the counts, in half counts. */
function usePull(columns: number, width: () => number, done: (by: Ticks) => void) {
  const pulled = useRef(0)
  const [offset, setOffset] = useState(0)
  const ticksOf = (pixels: number) =>
    Math.round(((pixels / width()) * columns * TICKS_PER_COUNT) / HALF) * HALF
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
      if (e.pointerType !== 'keyboard' && by !== 0) done(by)
    },
  })
  return { moveProps, offset }
}

/** One cue in its lane: dragged along the counts, pulled longer at its end; one that is linked stays where it is. */
export function CueChip(p: ChipProps) {
  const { cue, placed, columns, room, chosen, mirrored } = p
  const ref = useRef<HTMLDivElement>(null)
  const width = () => ref.current?.parentElement?.parentElement?.clientWidth ?? 1
  const linked = cue.link !== null
  const move = usePull(columns, width, p.onMove)
  const stretch = usePull(columns, width, p.onStretch)
  const share = (ticks: Ticks) => `${(ticks / TICKS_PER_COUNT / columns) * 100}%`
  const within = cue.at - placed.start
  const text = cueText(cue, mirrored)
  const more = [cue.role, cue.option && cue.option !== 'base' ? cue.option : ''].filter(Boolean).join(', ')
  const on = cue.trigger ? `, on the ${cue.trigger.kind === 'lyric' ? 'words' : 'sound'}` : ''
  const said = linked ? ', linked' : cue.differs ? ', differs from what it repeats' : ''
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the sheet's own cursor and keys do the same
    <div
      onPointerDown={(e) => {
        e.stopPropagation()
        p.onChoose()
      }}
      onDoubleClick={p.onWrite}
    >
      <Chip
        ref={ref}
        {...(linked ? {} : move.moveProps)}
        $arms={cue.layer !== 'feet'}
        $chosen={chosen}
        $linked={linked}
        $differs={cue.differs}
        title={`${countLabel(within, placed.phrase.feel, placed.first)} ${text}${more ? ` (${more})` : ''}${on}${said}${cue.tip ? `. ${cue.tip}` : ''}`}
        data-testid="cue"
        data-linked={linked || undefined}
        style={{
          top: p.top,
          left: share(within + move.offset),
          width: `calc(${share(Math.max(HALF / 2, room + stretch.offset))} - 3px)`,
          ...(room < HALF ? { padding: '0 3px' } : {}),
        }}
      >
        {cue.trigger && '♪ '}
        {text}
        {more && <small> {more}</small>}
        {!linked && <Stretch {...stretch.moveProps} data-testid="stretch" />}
      </Chip>
    </div>
  )
}
