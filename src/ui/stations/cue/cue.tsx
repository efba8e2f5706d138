'use client'

import { type RefObject, useRef } from 'react'
import styled from 'styled-components'
import { Compare } from '../../film/compare'
import { Sides } from '../../parts/panel'
import { PlacesLarge } from '../../places/places-large'
import { PlacesProvider, usePlacesStation } from '../../places/places-store'
import { useFilmsState } from '../../state/films'
import type { Page } from '../../state/page'
import { useView } from '../../state/view'
import { Frame } from '../frame'
import { usePlaceAddress } from '../use-place-address'
import { useCueKeys } from './cue-keys'
import { CueSheet } from './cue-sheet'
import { CueSide } from './cue-side'
import { CueProvider, useCue } from './cue-store'
import { ReplaceDialog } from './replace-dialog'
import { useCueStation } from './use-cue-station'

/** The Cue station: moves on counts, layer by layer. */
export function Cue({ id }: { id: string }) {
  const frame = useRef<HTMLDivElement>(null)
  const { page, store, lines } = useCueStation(frame)
  const places = usePlacesStation()
  return (
    <CueProvider value={{ store, lines }}>
      <PlacesProvider value={places}>
        <Keys page={page} />
        <Frame id={id}>
          <Sides>
            <Stack>
              <SheetBelow page={page} frame={frame} />
              <Comparing page={page} />
              <LargePlan page={page} />
            </Stack>
            <CueSide id={id} page={page} />
          </Sides>
          <Replacing />
        </Frame>
      </PlacesProvider>
    </CueProvider>
  )
}

function Keys({ page }: { page: Page }) {
  useCueKeys(page)
  usePlaceAddress(page)
  return null
}

const Stack = styled.div`
  position: relative;
  display: grid;
  min-width: 0;
  min-height: 0;
`

/** The sheet; under two films it is out of reach, and its keys go on. */
function SheetBelow({ page, frame }: { page: Page; frame: RefObject<HTMLDivElement | null> }) {
  const compared = useFilmsState((s) => s.compare !== null)
  const planned = usePlanLarge()
  return (
    <Stack inert={compared || planned}>
      <CueSheet page={page} frame={frame} />
    </Stack>
  )
}

/** Two films, over the sheet. */
function Comparing({ page }: { page: Page }) {
  const on = useFilmsState((s) => s.compare !== null)
  return on && <Compare page={page} />
}

/** The plan of the floor, over the sheet. */
function LargePlan({ page }: { page: Page }) {
  return usePlanLarge() && <PlacesLarge page={page} />
}

/** It stands there while the room is what is looked at. */
function usePlanLarge(): boolean {
  const room = useCue((s) => s.tab === 'room')
  return useView((v) => v.planLarge) && room
}

function Replacing() {
  const open = useCue((s) => s.replacing)
  const send = useCue((s) => s.send)
  return <ReplaceDialog isOpen={open} close={() => send({ kind: 'replace', open: false })} />
}
