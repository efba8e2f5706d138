'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import { type Arrival, takeArrival } from '../../state/arrival'
import { useCursor } from '../../state/cursor'
import { useLoadFloor } from '../../state/devices'
import type { makeFloorStore } from './floor-store'

type Said = Extract<Arrival, { kind: 'say' }>

/** What the floor was opened for, where its page was loaded for a camera or a microphone. */
export function useArrival(store: ReturnType<typeof makeFloorStore>) {
  const router = useRouter()
  const loadFloor = useLoadFloor()
  const [arrival, setArrival] = useState<Arrival | null>(null)
  useEffect(() => {
    const came = takeArrival()
    if (!came) return
    setArrival(came)
    const { send } = store.getState()
    // What was chosen outlives the load.
    if (came.plan) send({ kind: 'plan', what: came.plan })
    else if (came.kind === 'say') send({ kind: 'plan', what: { stretch: came.stretch } })
    if (came.kind === 'claps') send({ kind: 'timing', way: 'clap' })
  }, [store])
  return {
    arrival,
    /** Loads this page anew, so that it may ask for a device. */
    load: (kind: 'camera' | 'own counts' | 'claps') =>
      loadFloor(`${window.location.pathname}${window.location.search}`, {
        kind,
        plan: store.getState().plan,
      }),
    /** What was asked for is recorded: back to where it was asked, at the same counts. */
    said: ({ stretch, back }: Said) => {
      setArrival(null)
      if (!back) return
      router.push(back)
      useCursor.getState().to(stretch.from)
      useCursor.getState().mark(stretch)
    },
  }
}
