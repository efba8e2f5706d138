'use client'

import type { PointerEvent } from 'react'
import type { SheetLine } from '@/core/station'
import { FilmPart } from '../../film/film-part'
import { bound } from '../../keys/table'
import { Panel, Sides } from '../../parts/panel'
import type { Pointed } from '../../sheet/row'
import { Sheet } from '../../sheet/sheet'
import type { Spoken } from '../../sheet/spoken-rows'
import { useKeys } from '../../state/keys'
import type { Page } from '../../state/page'
import { FirstStepLine } from '../first-step'
import { Frame } from '../frame'
import { useSheetKeys } from '../sheet-keys'
import { usePlaceAddress } from '../use-place-address'
import { usePull } from '../use-pull'
import { CountPanel } from './count-panel'
import { CountProvider, useCommands, useCount, useCountStation } from './count-store'
import { Files } from './files'
import { BeatHandle } from './handle'
import { RowMarks } from './row-marks'
import { Tapping } from './tapping'
import { Words } from './words'

/** Counts have nothing on them here but themselves. */
const SPOKEN: Spoken = { lanes: [{ name: '', text: () => 'count' }], laneOf: () => 0 }
const WAVE = 46

/** The Count station: from what was heard to what is right. */
export function Count({ id }: { id: string }) {
  const { page, store } = useCountStation()
  return (
    <CountProvider value={store}>
      <Keys page={page} />
      <Frame id={id}>
        <Sides>
          <CountSheet page={page} />
          <Panel aria-label="Setting the counts right">
            <FirstStepLine id={id} page={page} station="count" />
            <FilmPart page={page} />
            <Beside id={id} page={page} />
          </Panel>
        </Sides>
        <OpenFiles page={page} />
      </Frame>
    </CountProvider>
  )
}

function Keys({ page }: { page: Page }) {
  usePlaceAddress(page)
  const send = useCount((s) => s.send)
  const commands = useCommands()
  useSheetKeys(page)
  useKeys(
    bound({
      ...Object.fromEntries(Object.values(commands).map((c) => [c.id, c.run])),
      unmark: () => send({ kind: 'escape' }),
    }),
  )
  return null
}

function CountSheet({ page }: { page: Page }) {
  const send = useCount((s) => s.send)
  const pull = usePull(page, (at, first) => send({ kind: 'pull', at: at.tick, first }))
  const point = (at: Pointed, event: PointerEvent) => {
    send({ kind: 'press', at: at.tick, shift: event.shiftKey })
    if (!event.shiftKey) pull(event)
  }
  return (
    <Sheet
      page={page}
      label="Counts of the song. Arrow keys move by count and by phrase. Question mark shows all keys."
      rowHeight={62}
      waveHeight={WAVE}
      onPoint={point}
      spoken={SPOKEN}
      Beside={RowMarks}
      Cursor={Cursor}
    />
  )
}

function Cursor({ line, columns }: { line: SheetLine; columns: number }) {
  return <BeatHandle line={line} columns={columns} height={WAVE} />
}

/** What stands beside the sheet: the repairs, or what was opened instead. */
function Beside({ id, page }: { id: string; page: Page }) {
  const tapping = useCount((s) => s.tapping)
  const words = useCount((s) => s.aside === 'words')
  const send = useCount((s) => s.send)
  if (tapping) return <Tapping page={page} close={() => send({ kind: 'close', what: 'tapping' })} />
  if (words) return <Words page={page} close={() => send({ kind: 'close', what: 'aside' })} />
  return <CountPanel id={id} page={page} />
}

function OpenFiles({ page }: { page: Page }) {
  const open = useCount((s) => s.aside === 'files')
  const send = useCount((s) => s.send)
  return <Files page={page} isOpen={open} close={() => send({ kind: 'close', what: 'aside' })} />
}
