'use client'

import { useParams, usePathname } from 'next/navigation'
import type { DrillPlan } from '@/core/drill'
import { isFloor } from '@/core/floor/address'
import type { Stretch } from '@/core/time'
import { useLoadFloor } from '../state/devices'

/**
 * A microphone is the floor's alone: leads there, with these counts to record and the way back.
 * @param plan the floor's, where it is asked there
 */
export function useWayToRecord(stretch: Stretch, plan: DrillPlan | null = null): () => void {
  const { id } = useParams<{ id: string }>()
  const path = usePathname()
  const loadFloor = useLoadFloor()
  const { from, to } = stretch
  return () => {
    const back = isFloor(path) ? null : path
    loadFloor(`/r/${id}/floor`, { kind: 'say', stretch: { from, to }, plan, back })
  }
}
