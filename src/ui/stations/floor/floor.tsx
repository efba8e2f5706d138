'use client'

import { useEffect } from 'react'
import { isAnnounced } from '@/core/station'
import { KeySheet } from '../../keys/key-sheet'
import { SayDialog } from '../../say/say-dialog'
import { Announce } from './announce'
import { Dancing } from './dancing'
import { FloorDevicesProvider, useDevices, useFloorDevices } from './floor-devices'
import { useFloorKeys } from './floor-keys'
import { FloorProvider, useFloor } from './floor-store'
import { SimulatedPedal } from './pedal'
import { Setting } from './setting'
import { TimingTrainer } from './timing'
import { useFloorStation } from './use-floor-station'

/** The Floor station: drills and runs, readable from four metres. */
export function Floor({ id }: { id: string }) {
  const store = useFloorStation(id)
  const devices = useFloorDevices(store)
  useDarkPage()
  return (
    <FloorProvider value={store}>
      <FloorDevicesProvider value={devices}>
        <Under id={id} />
      </FloorDevicesProvider>
    </FloorProvider>
  )
}

/** The body behind the floor is dark too, also where the page is pulled beyond its end. */
function useDarkPage(): void {
  useEffect(() => {
    document.body.style.background = '#1A1220'
    return () => {
      document.body.style.background = ''
    }
  }, [])
}

/** What is under way: the trainer, a step that is announced, what is danced, or the choice of it. */
function Under({ id }: { id: string }) {
  const timing = useFloor((s) => s.timing)
  const announced = useFloor((s) => isAnnounced(s, s.floor) && s.floor.going !== null)
  const dancing = useFloor((s) => s.floor.drill !== null)
  useFloorKeys()
  if (timing) return <TimingTrainer id={id} first={timing} />
  if (announced || dancing)
    return (
      <>
        <SimulatedPedal />
        {announced ? <Announce /> : <Dancing />}
      </>
    )
  return (
    <>
      <KeySheet station="floor" button={false} />
      <Setting id={id} />
      <Saying />
    </>
  )
}

/** The floor was opened to record these counts. */
function Saying() {
  const page = useFloor((s) => s.page)
  const { arrival, said } = useDevices()
  if (arrival?.kind !== 'say') return null
  return (
    <SayDialog
      page={page}
      stretch={arrival.stretch}
      fromDesk={arrival.back !== null}
      close={() => said(arrival)}
    />
  )
}
