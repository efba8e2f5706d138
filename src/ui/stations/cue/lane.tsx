'use client'

import { memo } from 'react'
import styled from 'styled-components'
import { cueText, type DancedCue, type PlacedPhrase } from '@/core/routine'
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

/** What a row's chips can ask for; the same object as long as the row is shown. */
export interface ChipActs {
  /** @param shift pressed with shift: everything up to it */
  choose: (cue: DancedCue, shift: boolean) => void
  write: () => void
}

interface ChipProps {
  cue: DancedCue
  placed: PlacedPhrase
  columns: number
  top: number
  /** Ticks it may be drawn over. */
  room: Ticks
  chosen: boolean
  mirrored: boolean
  /** Ticks it is being dragged by, and by which it is being stretched. */
  moved: Ticks
  stretched: Ticks
  acts: ChipActs
}

/** No cue is drawn shorter than half a count. */
const HALF = TICKS_PER_COUNT / 2

/** One cue in its lane. Its row moves it along the counts, or pulls it longer at its end; one that is linked stays. */
export const CueChip = memo(function CueChip(p: ChipProps) {
  const { cue, placed, columns, room, chosen, mirrored } = p
  const linked = cue.link !== null
  const share = (ticks: Ticks) => `${(ticks / TICKS_PER_COUNT / columns) * 100}%`
  const within = cue.at - placed.start
  const text = cueText(cue, mirrored)
  const more = [cue.role, cue.option && cue.option !== 'base' ? cue.option : ''].filter(Boolean).join(', ')
  const on = cue.trigger ? `, on the ${cue.trigger.kind === 'lyric' ? 'words' : 'sound'}` : ''
  const said = linked ? ', linked' : cue.differs ? ', differs from what it repeats' : ''
  return (
    <Chip
      $arms={cue.layer !== 'feet'}
      $chosen={chosen}
      $linked={linked}
      $differs={cue.differs}
      title={`${countLabel(within, placed.phrase.feel, placed.first)} ${text}${more ? ` (${more})` : ''}${on}${said}${cue.tip ? `. ${cue.tip}` : ''}`}
      data-testid="cue"
      data-cue={cue.id}
      data-linked={linked || undefined}
      onDoubleClick={p.acts.write}
      onPointerDown={(e) => p.acts.choose(cue, e.shiftKey)}
      style={{
        top: p.top,
        left: share(within + p.moved),
        width: `calc(${share(Math.max(HALF / 2, room + p.stretched))} - 3px)`,
        ...(room < HALF ? { padding: '0 3px' } : {}),
      }}
    >
      {cue.trigger && '♪ '}
      {text}
      {more && <small> {more}</small>}
      {!linked && <Stretch data-stretch="true" data-testid="stretch" />}
    </Chip>
  )
})
