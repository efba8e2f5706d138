'use client'

import { type PointerEvent, useRef, useState } from 'react'
import { useMove } from 'react-aria'
import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { cueText, type Layer, type Marked, type PlacedPhrase } from '@/core/routine'
import type { SheetLine } from '@/core/station'
import { holds, subCount, TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { BELOW, STRIP, StillsStrip, useStillsWanted } from '../../film/stills-strip'
import { FormationsInRow } from '../../places/formations-in-row'
import { followPress } from '../../sheet/follow-press'
import { FootingStrip } from '../../sheet/footing'
import { CursorBox } from '../../sheet/sheet'
import { say } from '../../state/spoken'
import { desk, faded } from '../../theme/tokens'
import { useCue } from './cue-store'
import { CueChip, LaneName } from './lane'
import { Margin } from './margin'
import { LINE, type RowLayout, TOP } from './row-layout'

const All = styled.div`
  position: absolute;
  inset: 0;
  pointer-events: none;
  > * { pointer-events: auto; }
`

interface Pull {
  id: string
  stretch: boolean
  by: Ticks
}

const NONE: readonly never[] = []

/** The lanes of one row with their cues, the feet below, pace and findings beside. */
export function CueRow({ line, columns }: { line: SheetLine; columns: number }) {
  const layout = useCue((s) => s.layoutOf(line))
  const page = useCue((s) => s.page)
  const stills = useStillsWanted()
  const mirrored = useCue((s) => s.mirrored)
  const steps = useCue((s) => s.choreo.stepRows[line.row] ?? NONE)
  const pace = useCue(useShallow((s) => s.choreo.pace[line.row]))
  const findings = useCue((s) => s.choreo.findingRows[line.row] ?? NONE)
  const send = useCue((s) => s.send)
  return (
    <All>
      {stills && <StillsStrip {...{ line, columns, page }} top={TOP - 4} />}
      <FormationsInRow
        {...{ page, line, columns }}
        top={TOP - 4 + (stills ? STRIP + BELOW : 0)}
        open={() => send({ kind: 'tab', tab: 'room' })}
      />
      {layout.lanes.map((l) => (
        <LaneName key={l.layer} style={{ top: TOP + l.top }}>
          {l.layer}
        </LaneName>
      ))}
      <Chips line={line} layout={layout} />
      <FootingStrip
        steps={steps}
        placed={line}
        columns={columns}
        top={TOP + layout.height}
        mirrored={mirrored}
      />
      <Margin
        pace={pace}
        findings={findings}
        onFindings={(f) => send({ kind: 'go to finding', at: f.at, layer: f.layer })}
      />
    </All>
  )
}

/** The cues of a row in their lanes: pressed, pulled along the counts, or pulled longer at their end. */
function Chips({ line, layout }: { line: SheetLine; layout: RowLayout }) {
  const pixels = useCue((s) => s.pixels)
  const mirrored = useCue((s) => s.mirrored)
  const send = useCue((s) => s.send)
  const chosen = useCue((s) =>
    s.here && holds({ from: line.start, to: line.end }, s.here.at) ? s.here.id : null,
  )
  const pulled = useRef({ id: '', stretch: false, pixels: 0 })
  const [pull, setPull] = useState<Pull | null>(null)
  const unit = subCount(line.phrase.feel)
  const ticksOf = (moved: number) => Math.round(((moved / pixels) * TICKS_PER_COUNT) / unit) * unit
  const to = (moved: number) => {
    const at = pulled.current
    at.pixels = moved
    if (at.id) setPull({ id: at.id, stretch: at.stretch, by: ticksOf(moved) })
  }
  const end = (letGo = true) => {
    const { id, stretch, pixels: moved } = pulled.current
    const cue = layout.shown.find((s) => s.cue.id === id)?.cue
    const by = ticksOf(moved)
    setPull(null)
    pulled.current = { id: '', stretch: false, pixels: 0 }
    if (letGo && cue && by !== 0) send({ kind: 'work', work: stretch ? 'pull end' : 'pull along', cue, by })
  }
  const { moveProps } = useMove({
    onMove: (e) => e.pointerType !== 'keyboard' && to(pulled.current.pixels + e.deltaX),
    onMoveEnd: () => end(),
  })
  /** A finger scrolls; where it rests first, it takes the cue along. */
  const hold = (press: PointerEvent) => {
    const cue = layout.shown.find((s) => s.cue.id === pulled.current.id)?.cue
    if (!cue) return
    followPress(press, {
      held: () => {
        setPull({ id: cue.id, stretch: pulled.current.stretch, by: 0 })
        say(`Held: ${cueText(cue, mirrored)}. Pull it along its counts.`)
      },
      moved: (e) => to(e.clientX - press.clientX),
      over: end,
    })
  }
  return (
    <div
      {...moveProps}
      onPointerDown={(e) => {
        // A press on a chip is the chip's, not the counts'.
        e.stopPropagation()
        const chip = (e.target as HTMLElement).closest<HTMLElement>('[data-cue]')
        const free = chip && !chip.dataset.linked
        const stretch = (e.target as HTMLElement).dataset.stretch === 'true'
        pulled.current = { id: free ? (chip.dataset.cue ?? '') : '', stretch, pixels: 0 }
        if (e.pointerType === 'touch') hold(e)
        else moveProps.onPointerDown?.(e)
      }}
    >
      {layout.shown.map((one) => (
        <CueChip
          key={`${one.cue.id}${one.carried ? ' on' : ''}`}
          shown={one}
          placed={line}
          pixels={pixels / TICKS_PER_COUNT}
          chosen={one.cue.id === chosen}
          held={pull?.id === one.cue.id}
          mirrored={mirrored}
          moved={pull?.id === one.cue.id && !pull.stretch ? pull.by : 0}
          stretched={pull?.id === one.cue.id && pull.stretch ? pull.by : 0}
          send={send}
        />
      ))}
    </div>
  )
}

const Highlight = styled.div`
  position: absolute;
  border: 1.5px dashed ${desk.azalea};
  background: ${faded(desk.azalea, 8)};
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
