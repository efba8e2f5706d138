'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useEffectEvent, useState } from 'react'
import type { DrillPlan } from '@/core/drill'
import { type Arrival, takeArrival } from '../../state/arrival'
import { useCursor } from '../../state/cursor'
import { useLoadFloor } from '../../state/devices'

type Said = Extract<Arrival, { kind: 'say' }>

/**
 * What the floor was opened for, where its page was loaded for a camera or a microphone.
 * @param plan what is chosen now, which outlives a load
 * @param came told once, what was chosen before it
 */
export function useArrival(plan: DrillPlan, came: (arrival: Arrival) => void) {
  const router = useRouter()
  const loadFloor = useLoadFloor()
  const [arrival, setArrival] = useState<Arrival | null>(null)
  const latest = useEffectEvent(came)
  useEffect(() => {
    const found = takeArrival()
    if (!found) return
    setArrival(found)
    latest(found)
  }, [])
  return {
    arrival,
    /** Loads this page anew, so that it may ask for a device. */
    load: (kind: 'camera' | 'own counts' | 'claps') =>
      loadFloor(`${window.location.pathname}${window.location.search}`, { kind, plan }),
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
