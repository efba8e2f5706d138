'use client'

import { memo, useRef, useState } from 'react'
import { useMove } from 'react-aria'
import styled from 'styled-components'
import type { BodyStep, Finding, Pace } from '@/core/choreo'
import type { DancedCue, Layer, Marked, PlacedPhrase } from '@/core/routine'
import { subCount, TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { CursorBox } from '../../sheet/sheet'
import { desk } from '../../theme/tokens'
import { FootingStrip } from './footing'
import { type ChipActs, CueChip, LANE, LaneName } from './lane'
import { Margin } from './margin'

/** How far a cue may be drawn before the next one of its layer begins. */
function roomAfter(cues: readonly DancedCue[], i: number, end: Ticks): Ticks {
  const cue = cues[i] as DancedCue
  for (let k = i + 1; k < cues.length; k++) {
    const next = cues[k] as DancedCue
    if (next.layer === cue.layer && next.at > cue.at) return Math.min(cue.length, next.at - cue.at)
  }
  return Math.min(cue.length, end - cue.at)
}

/** What a row can ask for; the same object as long as the station is shown. */
export interface RowActs extends ChipActs {
  move: (cue: DancedCue, by: Ticks) => void
  stretch: (cue: DancedCue, by: Ticks) => void
  findings: (finding: Finding) => void
}

const All = styled.div`
  position: absolute;
  inset: 0;
  pointer-events: none;
  > * { pointer-events: auto; }
`

interface CueRowProps {
  placed: PlacedPhrase
  columns: number
  layers: readonly Layer[]
  cues: readonly DancedCue[]
  steps: readonly BodyStep[]
  pace: Pace | undefined
  findings: readonly Finding[]
  top: number
  chosen: string | null
  mirrored: boolean
  acts: RowActs
}

interface Pull {
  id: string
  stretch: boolean
  by: Ticks
}

/** The lanes of one row with their cues, the feet below, pace and findings beside; drawn again only when they change. */
export const CueRow = memo(function CueRow(p: CueRowProps) {
  const box = useRef<HTMLDivElement>(null)
  const pulled = useRef({ id: '', stretch: false, pixels: 0 })
  const [pull, setPull] = useState<Pull | null>(null)
  const unit = subCount(p.placed.phrase.feel)
  const ticksOf = (pixels: number) =>
    Math.round(((pixels / (box.current?.clientWidth ?? 1)) * p.columns * TICKS_PER_COUNT) / unit) * unit
  const { moveProps } = useMove({
    onMove: (e) => {
      const at = pulled.current
      if (e.pointerType === 'keyboard' || !at.id) return
      at.pixels += e.deltaX
      setPull({ id: at.id, stretch: at.stretch, by: ticksOf(at.pixels) })
    },
    onMoveEnd: () => {
      const { id, stretch, pixels } = pulled.current
      const cue = p.cues.find((c) => c.id === id)
      const by = ticksOf(pixels)
      setPull(null)
      pulled.current = { id: '', stretch: false, pixels: 0 }
      if (!cue || by === 0) return
      if (stretch) p.acts.stretch(cue, by)
      else p.acts.move(cue, by)
    },
  })
  const bottom = p.top + p.layers.length * LANE
  return (
    <All ref={box}>
      {p.layers.map((l, i) => (
        <LaneName key={l} style={{ top: p.top + i * LANE }}>
          {l}
        </LaneName>
      ))}
      <div
        {...moveProps}
        onPointerDown={(e) => {
          // A press on a chip is the chip's, not the counts'.
          e.stopPropagation()
          const chip = (e.target as HTMLElement).closest<HTMLElement>('[data-cue]')
          const free = chip && !chip.dataset.linked
          const stretch = (e.target as HTMLElement).dataset.stretch === 'true'
          pulled.current = { id: free ? (chip.dataset.cue ?? '') : '', stretch, pixels: 0 }
          moveProps.onPointerDown?.(e)
        }}
      >
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
            moved={pull?.id === c.id && !pull.stretch ? pull.by : 0}
            stretched={pull?.id === c.id && pull.stretch ? pull.by : 0}
            acts={p.acts}
          />
        ))}
      </div>
      <FootingStrip
        steps={p.steps}
        placed={p.placed}
        columns={p.columns}
        top={bottom + 2}
        mirrored={p.mirrored}
      />
      <Margin pace={p.pace} findings={p.findings} onFindings={p.acts.findings} />
    </All>
  )
}, alike)

/** The same row: a pace that says the same is the same. */
function alike(a: CueRowProps, b: CueRowProps): boolean {
  for (const key of Object.keys(a) as (keyof CueRowProps)[])
    if (key !== 'pace' && a[key] !== b[key]) return false
  return (
    a.pace?.actions === b.pace?.actions &&
    a.pace?.leastGap === b.pace?.leastGap &&
    a.pace?.perSecond === b.pace?.perSecond
  )
}

const Highlight = styled.div`
  position: absolute;
  border: 1.5px dashed ${desk.azalea};
  background: ${desk.azalea}14;
  pointer-events: none;
  z-index: 2;
`

/** What of a row is marked. */
export function MarkedLanes({
  marked: s,
  placed,
  columns,
  layers,
  top,
}: {
  marked: Marked
  placed: PlacedPhrase
  columns: number
  layers: readonly Layer[]
  top: number
}) {
  const [from, to] = [Math.max(s.from, placed.start), Math.min(s.to, placed.end)]
  const inside = layers.filter((l) => s.layers.includes(l))
  const first = layers.indexOf(inside[0] as Layer)
  if (to <= from || first < 0) return null
  const share = (t: Ticks) => `${(t / TICKS_PER_COUNT / columns) * 100}%`
  return (
    <Highlight
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
