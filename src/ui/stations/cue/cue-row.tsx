'use client'

import { memo, useRef, useState } from 'react'
import { useMove } from 'react-aria'
import styled from 'styled-components'
import type { BodyStep, Finding, Pace } from '@/core/choreo'
import type { DancedCue, Layer, Marked, PlacedPhrase } from '@/core/routine'
import { subCount, TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { FootingStrip } from '../../sheet/footing'
import type { SheetLine } from '../../sheet/lines'
import { CursorBox } from '../../sheet/sheet'
import { desk } from '../../theme/tokens'
import { type ChipActs, CueChip, LaneName } from './lane'
import { Margin } from './margin'
import { LINE, type RowLayout } from './row-layout'

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
  placed: SheetLine
  columns: number
  layout: RowLayout
  /** Pixels of one count. */
  pixels: number
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
  const pulled = useRef({ id: '', stretch: false, pixels: 0 })
  const [pull, setPull] = useState<Pull | null>(null)
  const unit = subCount(p.placed.phrase.feel)
  const ticksOf = (pixels: number) => Math.round(((pixels / p.pixels) * TICKS_PER_COUNT) / unit) * unit
  const { moveProps } = useMove({
    onMove: (e) => {
      const at = pulled.current
      if (e.pointerType === 'keyboard' || !at.id) return
      at.pixels += e.deltaX
      setPull({ id: at.id, stretch: at.stretch, by: ticksOf(at.pixels) })
    },
    onMoveEnd: () => {
      const { id, stretch, pixels } = pulled.current
      const cue = p.layout.shown.find((s) => s.cue.id === id)?.cue
      const by = ticksOf(pixels)
      setPull(null)
      pulled.current = { id: '', stretch: false, pixels: 0 }
      if (!cue || by === 0) return
      if (stretch) p.acts.stretch(cue, by)
      else p.acts.move(cue, by)
    },
  })
  return (
    <All>
      {p.layout.lanes.map((l) => (
        <LaneName key={l.layer} style={{ top: p.top + l.top }}>
          {l.layer}
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
        {p.layout.shown.map((one) => (
          <CueChip
            key={`${one.cue.id}${one.carried ? ' on' : ''}`}
            shown={one}
            placed={p.placed}
            pixels={p.pixels / TICKS_PER_COUNT}
            top={p.top}
            chosen={one.cue.id === p.chosen}
            mirrored={p.mirrored}
            moved={pull?.id === one.cue.id && !pull.stretch ? pull.by : 0}
            stretched={pull?.id === one.cue.id && pull.stretch ? pull.by : 0}
            acts={p.acts}
          />
        ))}
      </div>
      <FootingStrip
        steps={p.steps}
        placed={p.placed}
        columns={p.columns}
        top={p.top + p.layout.height}
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
  layout,
  top,
}: {
  marked: Marked
  placed: PlacedPhrase
  columns: number
  layout: RowLayout
  top: number
}) {
  const [from, to] = [Math.max(s.from, placed.start), Math.min(s.to, placed.end)]
  const inside = layout.lanes.filter((l) => s.layers.includes(l.layer))
  const [first, last] = [inside[0], inside.at(-1)]
  if (to <= from || !first || !last) return null
  const share = (t: Ticks) => `${(t / TICKS_PER_COUNT / columns) * 100}%`
  return (
    <Highlight
      data-testid="marked"
      style={{
        left: share(from - placed.start),
        width: share(to - from),
        top: top + first.top - 1,
        height: last.top + last.height - first.top,
      }}
    />
  )
}

/** The cursor where no cue is. */
export function LaneCursor({
  tick,
  layer,
  placed,
  columns,
  layout,
  top,
}: {
  tick: Ticks
  layer: Layer
  placed: PlacedPhrase
  columns: number
  layout: RowLayout
  top: number
}) {
  const lane = layout.lanes.find((l) => l.layer === layer)
  return (
    <CursorBox
      data-testid="cursor"
      style={{
        left: `${((tick - placed.start) / TICKS_PER_COUNT / columns) * 100}%`,
        width: `${50 / columns}%`,
        top: top + (lane?.top ?? 0) - 1,
        height: LINE - 1,
      }}
    />
  )
}
