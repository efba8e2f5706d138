'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import styled from 'styled-components'
import { carriedOn } from '@/core/grid'
import { redrawBeats, repair } from '@/core/routine'
import { clockText, TICKS_PER_COUNT } from '@/core/time'
import { Button } from '../../parts/button'
import { Text } from '../../parts/field'
import { More } from '../../parts/more'
import { Part, Tools } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import { type Page, useSong } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'
import type { Commands } from './count-store'
import { Do } from './do'

/** How fast, as a large number. */
export const Tempo = styled.strong`
  font-size: 22px;
  line-height: 1;
  color: ${desk.ink};
`

const TempoTool = styled.div`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
  button { min-height: 36px; }
`

/** Moves on counts alone: there is nothing to hear, only a tempo. */
export function CountsAlone({ page }: { page: Page }) {
  return (
    <Part>
      <h2>Counts alone</h2>
      <p>
        <Tempo>{page.tempo.toFixed(1)}</Tempo> BPM, without a song.
      </p>
      <TempoField page={page} />
    </Part>
  )
}

/** Of which song the first repairs are, where several were cut together: the one the cursor is in. */
function WhichSong({ page: { times, tempi, duration } }: { page: Page }) {
  const at = useCursor((s) => {
    const now = times[Math.floor(s.tick / TICKS_PER_COUNT)] ?? 0
    return Math.max(
      0,
      tempi.findLastIndex(({ from }) => from <= now + 1e-3),
    )
  })
  if (!tempi.length) return null
  const [from, to] = [at ? (tempi[at]?.from ?? 0) : 0, tempi[at + 1]?.from ?? duration]
  return (
    <p role="status">
      Of the song at the cursor, {clockText(from)} to {clockText(to)}:
    </p>
  )
}

/** Repairs of the whole grid, or of it from the cursor on. */
export function BeatPart({ page, commands: c }: { page: Page; commands: Commands }) {
  const { heard } = useSong()
  const repairs = useRoutine((s) => s.routine.repairs.length)
  const isAlone = useRoutine((s) => s.routine.combination)
  if (isAlone) return null
  return (
    <Part>
      <h2>The beat</h2>
      <WhichSong page={page} />
      <Tools>
        {(['double', 'halve', 'half', 'tap'] as const).map((id) => (
          <Do key={id} command={c[id]} quiet={id !== 'tap'} />
        ))}
      </Tools>
      <More name="Finer">
        <Tools>
          {(['meet', 'follow', 'steady', 'pin'] as const).map((id) => (
            <Do key={id} command={c[id]} quiet />
          ))}
          {(['earlier10', 'later10', 'fromEarlier', 'fromLater'] as const).map((id) => (
            <Do key={id} command={c[id]} quiet />
          ))}
        </Tools>
        <TempoField page={page} />
      </More>
      {repairs > 0 && (heard?.hearing.beats.length ?? 0) > 1 && (
        <Tools>
          <Do command={c.heard} />
          <Do command={c.heardHere} />
        </Tools>
      )}
    </Part>
  )
}

/** The tempo set by number; the count at the cursor stays where it is. */
function TempoField({ page }: { page: Page }) {
  const { heard } = useSong()
  const edit = useRoutine((s) => s.edit)
  const tick = useCursor((s) => s.tick)
  const [text, setText] = useState('')
  const bpm = Number(text.replace(',', '.'))
  const good = text.trim() !== '' && bpm >= 30 && bpm <= 300
  const set = () => {
    const at = page.times[Math.floor(tick / TICKS_PER_COUNT)]
    if (!good || at === undefined) return
    const known = heard?.hearing.beats ?? []
    const n = page.times.length
    edit(`${bpm} BPM`, (r) =>
      // Without a song the counts stay what they are; of a song they are as many as it has room for.
      r.combination
        ? redrawBeats(
            r,
            known,
            0,
            Array.from({ length: n }, (_, i) => (page.times[0] ?? 0) + (i * 60) / bpm),
          )
        : repair(
            r,
            known,
            { kind: 'grid', from: 0, to: n, beats: carriedOn(at, 60 / bpm, page.duration) },
            nanoid,
          ),
    )
    setText('')
  }
  return (
    <TempoTool>
      <Text
        label="Set the tempo (30 to 300 BPM)"
        value={text}
        onChange={setText}
        onEnter={set}
        placeholder={page.tempo.toFixed(2)}
        isInvalid={text.trim() !== '' && !good}
      />
      <Button small isDisabled={!good} onPress={set} tip="One exact tempo; the count at the cursor stays">
        Set
      </Button>
    </TempoTool>
  )
}
