'use client'

import { type PointerEvent as ReactPointerEvent, useState } from 'react'
import styled from 'styled-components'
import { type SheetLine, standsDrag } from '@/core/station'
import { TICKS_PER_COUNT, timeOfTick } from '@/core/time'
import { CursorBox } from '../../sheet/sheet'
import { useCursor } from '../../state/cursor'
import { desk } from '../../theme/tokens'
import { useCount } from './count-store'

const Grip = styled.div`
  position: absolute;
  left: -8px;
  bottom: -9px;
  width: 16px;
  height: 16px;
  border-radius: 8px 8px 8px 2px;
  background: ${desk.azalea};
  border: 2px solid ${desk.card};
  cursor: ew-resize;
  pointer-events: auto;
  touch-action: none;
`

const Moved = styled.div<{ $bad: boolean }>`
  position: absolute;
  left: 14px;
  bottom: -12px;
  padding: 1px 6px;
  border-radius: 6px;
  font-size: 12px;
  font-weight: 650;
  white-space: nowrap;
  color: ${desk.on};
  background: ${(p) => (p.$bad ? desk.danger : desk.ink)};
`

interface Props {
  line: SheetLine
  columns: number
  height: number
}

/** The count at the cursor, with a grip that drags it to its sound. */
export function BeatHandle({ line, columns, height }: Props) {
  const page = useCount((s) => s.page)
  const send = useCount((s) => s.send)
  const seen = useCount((s) => s.seen)
  const tick = useCursor((s) => s.tick)
  const fits = (seconds: number) => standsDrag(seen(), tick, seconds)
  const [by, setBy] = useState<{ share: number; seconds: number } | null>(null)
  const left = (tick - line.start) / TICKS_PER_COUNT / columns
  const grab = (e: ReactPointerEvent<HTMLDivElement>) => {
    e.stopPropagation()
    const row = e.currentTarget.parentElement?.parentElement
    if (!row) return
    const width = row.clientWidth
    const from = e.clientX
    const grip = e.currentTarget
    grip.setPointerCapture(e.pointerId)
    const at = timeOfTick(page.times, tick)
    const moved = (x: number) => {
      const share = (x - from) / width
      return { share, seconds: timeOfTick(page.times, tick + share * columns * TICKS_PER_COUNT) - at }
    }
    const move = (m: PointerEvent) => setBy(moved(m.clientX))
    const end = (up: PointerEvent) => {
      grip.removeEventListener('pointermove', move)
      setBy(null)
      const { seconds } = moved(up.clientX)
      if (up.type === 'pointerup' && Math.abs(seconds) > 0.004 && fits(seconds))
        send({ kind: 'drag', by: seconds })
    }
    grip.addEventListener('pointermove', move)
    grip.addEventListener('pointerup', end, { once: true })
    grip.addEventListener('pointercancel', end, { once: true })
  }
  return (
    <CursorBox
      data-testid="cursor"
      style={{
        left: `${(left + (by?.share ?? 0)) * 100}%`,
        width: `${100 / columns}%`,
        top: 0,
        height: height + 4,
      }}
    >
      <Grip data-testid="grip" title="Drag this count to its sound" onPointerDown={grab} />
      {by && (
        <Moved $bad={!fits(by.seconds)}>
          {by.seconds > 0 ? '+' : '−'}
          {Math.abs(Math.round(by.seconds * 1000))} ms
        </Moved>
      )}
    </CursorBox>
  )
}
