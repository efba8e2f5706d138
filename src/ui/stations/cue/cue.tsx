'use client'

import { useRef } from 'react'
import { Sides } from '../../parts/panel'
import type { Page } from '../../state/page'
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
  return (
    <CueProvider value={{ store, lines }}>
      <Keys page={page} />
      <Frame id={id}>
        <Sides>
          <CueSheet page={page} frame={frame} />
          <CueSide id={id} page={page} />
        </Sides>
        <Replacing />
      </Frame>
    </CueProvider>
  )
}

function Keys({ page }: { page: Page }) {
  useCueKeys(page)
  usePlaceAddress(page)
  return null
}

function Replacing() {
  const open = useCue((s) => s.replacing)
  const send = useCue((s) => s.send)
  return <ReplaceDialog isOpen={open} close={() => send({ kind: 'replace', open: false })} />
}
