'use client'

import styled from 'styled-components'
import { type Offset, offsets, strokeOffsets } from '@/core/grid'
import type { SheetLine } from '@/core/station'
import { timeOfTick } from '@/core/time'
import { doubtOf, rowName, soundsLike } from '../../sheet/doubt'
import type { Heard } from '../../state/hear'
import { keepLast } from '../../state/keep-last'
import type { Page } from '../../state/page'
import { desk } from '../../theme/tokens'
import { useCount } from './count-store'

const Check = styled.span`
  position: absolute;
  right: 6px;
  top: 4px;
  padding: 1px 6px;
  border-radius: 7px;
  background: ${desk.amberSoft};
  border: 1.5px solid ${desk.amber};
  color: ${desk.amber};
  font-size: 11.5px;
  font-weight: 700;
`

const Same = styled.span`
  position: absolute;
  right: 6px;
  top: 6px;
  font-size: 11.5px;
  color: ${desk.quiet};
`

const Scale = styled.span<{ $off: boolean }>`
  position: absolute;
  right: 8px;
  bottom: 6px;
  width: 48px;
  height: 12px;
  border-bottom: 1.5px solid ${desk.line};
  &::before { content: ''; position: absolute; left: 50%; top: 2px; bottom: -3px; width: 1.5px; background: ${desk.faint}; }
  i {
    position: absolute;
    bottom: -4px;
    width: 7px;
    height: 7px;
    margin-left: -3px;
    border-radius: 50%;
    background: ${(p) => (p.$off ? desk.amber : desk.leaf)};
    outline: 1.5px solid ${desk.card};
  }
`

/** Further off than this, the sound is not where the count is. */
const OFF_MS = 12
/** Half the width of the scale. */
const WIDEST_MS = 50

function OffsetMark({ offset }: { offset: Offset | undefined }) {
  if (!offset || offset.ms === null) return null
  const ms = Math.round(offset.ms)
  const share = Math.max(-1, Math.min(1, ms / WIDEST_MS))
  const said = ms === 0 ? 'on the counts' : `${Math.abs(ms)} ms ${ms > 0 ? 'after' : 'before'} the counts`
  return (
    <Scale
      $off={Math.abs(ms) > OFF_MS}
      title={`The sound lies ${said}`}
      role="img"
      aria-label={`The sound lies ${said}`}
    >
      <i style={{ left: `${50 + 50 * share}%` }} />
    </Scale>
  )
}

/** How far the sound lies from the counts, phrase by phrase. */
function useOffsets(): readonly Offset[] {
  const page = useCount((s) => s.page)
  const heard = useCount((s) => s.heard)
  const { times, placed } = page
  return offsetsOf(heard, times, placed)
}

// Asked by every row: the same for the same page, and strokes stay where they are while phrases change.
const strokesOf = keepLast((heard: Heard, times: Page['times']) => strokeOffsets(heard.peaks, times))
const offsetsOf = keepLast((heard: Heard | null, times: Page['times'], placed: Page['placed']) => {
  if (!heard || times.length < 2) return []
  const starts = placed.map((p) => timeOfTick(times, p.start))
  return offsets(strokesOf(heard, times), times, starts)
})

/** What the Count station shows beside a row's name: doubt, repetition, and how far the sound lies from the counts. */
export function RowMarks({ line }: { line: SheetLine }) {
  const page = useCount((s) => s.page)
  const heard = useCount((s) => s.heard)
  const offset = useOffsets()[line.index]
  const like = soundsLike(page, heard?.hearing ?? null)
  const doubt = page.renumbered ? null : doubtOf(heard?.hearing ?? null, line)
  const model = doubt ? null : like(line)
  const same = model && rowName(model)
  return (
    <>
      {doubt && <Check title={doubt}>check</Check>}
      {same && <Same title={`Sounds like ${same}`}>= {same}</Same>}
      <OffsetMark offset={offset} />
    </>
  )
}
