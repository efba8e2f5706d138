'use client'

import { createContext, useContext } from 'react'
import { useStore } from 'zustand'
import type { Arrival } from '../../state/arrival'
import { useView } from '../../state/view'
import type { makeFloorStore } from './floor-store'
import type { Filmed } from './reel'
import { useArrival } from './use-arrival'
import { useCamera, useFilmed } from './use-camera'
import { type KeptSeen, useKeepSeen } from './use-keep-seen'

/** Camera, films and what this page was loaded for. */
interface FloorDevices {
  camera: ReturnType<typeof useCamera>
  /** The last repetition that was filmed. */
  filmed: Filmed | null
  keepFilmed: (filmed: Filmed) => void
  forgetFilmed: () => void
  /** Whether it is kept with the dance. */
  keptSeen: KeptSeen
  arrival: Arrival | null
  /** Loads this page anew, so that it may ask for a device. */
  load: ReturnType<typeof useArrival>['load']
  /** What was asked for is recorded. */
  said: ReturnType<typeof useArrival>['said']
}

export function useFloorDevices(store: ReturnType<typeof makeFloorStore>): FloorDevices {
  const beside = useView((v) => v.beside)
  const still = useStore(store, (s) => !s.floor.drill && !s.lesson)
  const { filmed, keep: keepFilmed, forget: forgetFilmed } = useFilmed()
  const { arrival, load, said } = useArrival(store)
  const camera = useCamera(beside === 'camera', still, () => load('camera'))
  const keptSeen = useKeepSeen(
    filmed,
    useStore(store, (s) => !s.floor.drill),
  )
  return { camera, filmed, keptSeen, keepFilmed, forgetFilmed, arrival, load, said }
}

const Context = createContext<FloorDevices | null>(null)
export const FloorDevicesProvider = Context.Provider

export function useDevices(): FloorDevices {
  const devices = useContext(Context)
  if (!devices) throw new Error('the floor is not open here')
  return devices
}
