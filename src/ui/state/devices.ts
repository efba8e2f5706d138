'use client'

import { isFloor } from '@/core/floor/address'
import { type Arrival, keepArrival } from './arrival'
import { outbox } from './outbox-window'
import { usePlayer } from './player'
import { writeDown } from './routine-store'

export type Device = 'camera' | 'microphone'

const AWAY = 'The floor cannot be opened for this: the server does not answer. Start it, then try again.'
/** What waits to be saved is given so long before a page is left for another, in ms. */
const PATIENCE = 2000

interface Policy {
  allowsFeature: (feature: string) => boolean
}

/**
 * Whether a page must be loaded before a device can be asked for. Only documents of the floor may use camera and
 * microphone (Permissions Policy); a document keeps its policy while it goes from station to station. Browsers that know
 * no such policy never need it, and what was loaded on the floor is not loaded for it a second time.
 */
export function mustLoad(device: Device): boolean {
  if (typeof document === 'undefined') return false
  const { featurePolicy } = document as Document & { featurePolicy?: Policy }
  if (featurePolicy?.allowsFeature(device) ?? true) return false
  const [load] = performance.getEntriesByType('navigation')
  return !load || !isFloor(new URL(load.name).pathname)
}

/**
 * Loads a page of the floor that may use a device, once what waits is saved. Where the server does not answer the page that
 * is open stays, and says so beside what it plays.
 */
export function useLoadFloor(): (address: string, arrival: Arrival | null) => Promise<void> {
  const player = usePlayer()
  return async (address, arrival) => {
    if (!(await isThere())) return player.state.setState({ problem: AWAY })
    if (arrival) keepArrival(arrival)
    writeDown()
    await outbox().whenSaved(PATIENCE)
    window.location.assign(address)
  }
}

/** Whether the server answers at this moment. */
const isThere = () =>
  fetch('/icon.svg', { method: 'HEAD', cache: 'no-store' }).then(
    (answer) => answer.ok,
    () => false,
  )
