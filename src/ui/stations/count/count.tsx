'use client'

import { nanoid } from 'nanoid'
import { type PointerEvent, useState } from 'react'
import { canRepair, type Repair, repair } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
import { bound } from '../../keys/table'
import { Panel, Sides } from '../../parts/panel'
import type { Pointed } from '../../sheet/row'
import { Sheet } from '../../sheet/sheet'
import type { Spoken } from '../../sheet/spoken-rows'
import { useCalls, useStarts } from '../../state/choreo'
import { useCursor } from '../../state/cursor'
import { useKeys } from '../../state/keys'
import { usePage, useSong } from '../../state/page'
import { usePlayer, usePlayerState } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { FirstStepLine } from '../first-step'
import { Frame } from '../frame'
import { useSheetKeys } from '../sheet-keys'
import { usePull } from '../use-pull'
import { useCommands } from './commands'
import { CountPanel } from './count-panel'
import { Files } from './files'
import { BeatHandle } from './handle'
import type { Aside } from './page-commands'
import { useRowMarks } from './row-marks'
import { Tapping } from './tapping'
import { Words } from './words'

/** Counts have nothing on them here but themselves. */
const SPOKEN: Spoken = { lanes: [{ name: '', text: () => 'count' }], lane: 0 }

/** The Count station: from what was heard to what is right. */
export function Count({ id }: { id: string }) {
  const page = usePage()
  const { heard } = useSong()
  const edit = useRoutine((s) => s.edit)
  const routine = useRoutine((s) => s.routine)
  const starts = useStarts()
  const calls = useCalls(page)
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const player = usePlayer()
  const playing = usePlayerState((s) => s.playing)
  const [tapping, setTapping] = useState(page.times.length < 2)
  const [said, setSaid] = useState('')
  const [aside, setAside] = useState<Aside | null>(null)
  const commands = useCommands(page, () => setTapping(true), setSaid, setAside)
  const marks = useRowMarks(page)
  useSheetKeys(page)
  useKeys(
    bound({
      ...Object.fromEntries(Object.values(commands).map((c) => [c.id, c.run])),
      unmark: () => (aside ? setAside(null) : useCursor.getState().markFrom(null)),
    }),
  )
  const countAt = (at: Pointed) => Math.floor(at.tick / TICKS_PER_COUNT) * TICKS_PER_COUNT
  const pull = usePull(page, (at, first) => {
    if (first) useCursor.getState().markFrom({ tick, layer: 'feet', pulled: true })
    to(countAt(at))
  })
  const point = (at: Pointed, event: PointerEvent) => {
    const next = countAt(at)
    const { anchor, markFrom } = useCursor.getState()
    if (event.shiftKey) markFrom(anchor ?? { tick, layer: 'feet', pulled: true })
    else if (anchor?.pulled || useCursor.getState().marked) markFrom(null)
    to(next)
    if (!event.shiftKey) pull(event)
    if (playing) player.playFrom(page, next, starts, useCursor.getState().loop, calls)
  }
  const beats = heard?.hearing.beats ?? []
  const count = Math.floor(tick / TICKS_PER_COUNT)
  const pin = (seconds: number) => {
    const at = page.times[count]
    if (at === undefined) return
    const change: Repair = { kind: 'pin', beat: count, at: at + seconds }
    edit('drag the count', (r) => repair(r, beats, change, nanoid))
  }
  const fits = (seconds: number) => {
    const at = page.times[count]
    return (
      at !== undefined && canRepair(beats, routine.repairs, { kind: 'pin', beat: count, at: at + seconds })
    )
  }
  return (
    <Frame id={id}>
      <Sides>
        <Sheet
          page={page}
          label="Counts of the song. Arrow keys move by count and by phrase. Question mark shows all keys."
          rowHeight={62}
          waveHeight={46}
          onPoint={point}
          spoken={SPOKEN}
          beside={marks}
          cursor={(placed, columns) => (
            <BeatHandle page={page} placed={placed} columns={columns} height={46} drop={pin} fits={fits} />
          )}
        />
        <Panel aria-label="Setting the counts right">
          <FirstStepLine id={id} page={page} station="count" />
          {tapping ? (
            <Tapping page={page} close={() => setTapping(false)} />
          ) : aside === 'words' ? (
            <Words page={page} close={() => setAside(null)} />
          ) : (
            <CountPanel id={id} page={page} commands={commands} said={said} />
          )}
        </Panel>
      </Sides>
      <Files page={page} isOpen={aside === 'files'} close={() => setAside(null)} />
    </Frame>
  )
}
