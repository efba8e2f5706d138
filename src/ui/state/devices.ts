'use client'

import * as v from 'valibot'
import { DrillPlanSchema } from '@/core/drill'
import { isFloor } from '@/core/floor/address'
import { outbox } from './outbox-window'
import { usePlayer } from './player'
import { writeDown } from './routine-store'

export type Device = 'camera' | 'microphone'

const tick = v.pipe(v.number(), v.integer())

/** What the floor was opened for, where a page had to be loaded for it. */
const ArrivalSchema = v.variant('kind', [
  /** The camera stands beside the counts. */
  v.object({ kind: v.literal('camera'), plan: DrillPlanSchema }),
  v.object({ kind: v.literal('own counts'), plan: DrillPlanSchema }),
  v.object({ kind: v.literal('claps'), plan: DrillPlanSchema }),
  /** These counts are called in one's own voice; afterwards it goes back to the page it was asked on. */
  v.object({
    kind: v.literal('say'),
    stretch: v.object({ from: tick, to: tick }),
    plan: v.nullable(DrillPlanSchema),
    back: v.nullable(v.pipe(v.string(), v.regex(/^\/r\/[^/]+\/[a-z-]+$/))),
  }),
])
export type Arrival = v.InferOutput<typeof ArrivalSchema>

const KeptSchema = v.object({ at: v.number(), arrival: ArrivalSchema })

const KEY = 'azalea-arrival'
const AWAY = 'The floor cannot be opened for this: the server does not answer. Start it, then try again.'
/** What waits to be saved is given so long before a page is left for another, in ms. */
const PATIENCE = 2000
/** A page that was loaded is there within this time, in ms. */
const FRESH = 60_000

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
    try {
      const kept = { at: Date.now(), arrival }
      if (arrival) sessionStorage.setItem(KEY, JSON.stringify(kept))
    } catch {
      // Where nothing is kept the floor is opened all the same, and asked there once more.
    }
    writeDown()
    await saved(PATIENCE)
    window.location.assign(address)
  }
}

/** Why this page was loaded; said once. Whoever stayed after all is not met with it later. */
export function takeArrival(): Arrival | null {
  try {
    const text = sessionStorage.getItem(KEY)
    sessionStorage.removeItem(KEY)
    if (text === null) return null
    const { at, arrival } = v.parse(KeptSchema, JSON.parse(text))
    return Math.abs(Date.now() - at) < FRESH ? arrival : null
  } catch {
    return null
  }
}

/** Whether the server answers at this moment. */
const isThere = () =>
  fetch('/icon.svg', { method: 'HEAD', cache: 'no-store' }).then(
    (answer) => answer.ok,
    () => false,
  )

/** Resolves when nothing waits to be saved, or after some time. */
function saved(ms: number): Promise<void> {
  const { state } = outbox()
  if (state.getState().waiting === 0) return Promise.resolve()
  return new Promise((done) => {
    const timer = setTimeout(end, ms)
    const forget = state.subscribe(({ waiting }) => waiting === 0 && end())
    function end() {
      clearTimeout(timer)
      forget()
      done()
    }
  })
}
