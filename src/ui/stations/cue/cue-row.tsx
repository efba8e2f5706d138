'use client'

import styled from 'styled-components'
import type { DancedCue } from '@/core/choreo'
import type { Layer, PlacedPhrase } from '@/core/routine'
import { TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { CursorBox } from '../../sheet/sheet'
import { desk } from '../../theme/tokens'
import { CueChip, LANE, LaneName } from './lane'
import type { Anchor } from './use-edits'
import { stretchOf } from './use-edits'

/** How far a cue may be drawn before the next one of its layer begins. */
function roomAfter(cues: readonly DancedCue[], i: number, end: Ticks): Ticks {
  const cue = cues[i] as DancedCue
  for (let k = i + 1; k < cues.length; k++) {
    const next = cues[k] as DancedCue
    if (next.layer === cue.layer && next.at > cue.at) return Math.min(cue.length, next.at - cue.at)
  }
  return Math.min(cue.length, end - cue.at)
}

interface LanesProps {
  placed: PlacedPhrase
  columns: number
  layers: readonly Layer[]
  cues: readonly DancedCue[]
  top: number
  chosen: string | null
  mirrored: boolean
  onChoose: (c: DancedCue) => void
  onMove: (c: DancedCue, by: Ticks) => void
  onStretch: (c: DancedCue, by: Ticks) => void
  onWrite: () => void
}

/** The lanes of one row with their cues. */
export function Lanes(p: LanesProps) {
  return (
    <>
      {p.layers.map((l, i) => (
        <LaneName key={l} style={{ top: p.top + i * LANE }}>
          {l}
        </LaneName>
      ))}
      {p.cues.map((c, i) => (
        <CueChip
          key={c.id}
          cue={c}
          placed={p.placed}
          columns={p.columns}
          top={p.top + p.layers.indexOf(c.layer) * LANE}
          room={roomAfter(p.cues, i, p.placed.end)}
          chosen={c.id === p.chosen}
          mirrored={p.mirrored}
          onChoose={() => p.onChoose(c)}
          onMove={(by) => p.onMove(c, by)}
          onStretch={(by) => p.onStretch(c, by)}
          onWrite={p.onWrite}
        />
      ))}
    </>
  )
}

const Marked = styled.div`
  position: absolute;
  border: 1.5px dashed ${desk.azalea};
  background: ${desk.azalea}14;
  pointer-events: none;
  z-index: 2;
`

/** The part of a row that lies in the marked stretch. */
export function MarkedStretch({
  anchor,
  tick,
  layer,
  placed,
  columns,
  layers,
  top,
}: {
  anchor: Anchor
  tick: Ticks
  layer: Layer
  placed: PlacedPhrase
  columns: number
  layers: readonly Layer[]
  top: number
}) {
  const s = stretchOf(anchor, tick, layer)
  const [from, to] = [Math.max(s.from, placed.start), Math.min(s.to, placed.end)]
  const inside = layers.filter((l) => s.layers.includes(l))
  const first = layers.indexOf(inside[0] as Layer)
  if (to <= from || first < 0) return null
  const share = (t: Ticks) => `${(t / TICKS_PER_COUNT / columns) * 100}%`
  return (
    <Marked
      data-testid="marked"
      style={{
        left: share(from - placed.start),
        width: share(to - from),
        top: top + first * LANE,
        height: inside.length * LANE - 2,
      }}
    />
  )
}

/** The cursor where no cue is. */
export function LaneCursor({
  tick,
  placed,
  columns,
  top,
}: {
  tick: Ticks
  placed: PlacedPhrase
  columns: number
  top: number
}) {
  return (
    <CursorBox
      data-testid="cursor"
      style={{
        left: `${((tick - placed.start) / TICKS_PER_COUNT / columns) * 100}%`,
        width: `${50 / columns}%`,
        top: top + 1,
        height: LANE - 4,
      }}
    />
  )
}
