'use client'

import { useEffect, useMemo, useState } from 'react'
import { practice } from '@/core/drill'
import { fetchLog, type LogRow } from '../../state/api'

/** Speed at which each phrase sat so far, from the log: of drills of that phrase alone. */
export function useReady(routineId: string): (phrase: string) => number {
  const [rows, setRows] = useState<readonly LogRow[]>([])
  useEffect(() => {
    let here = true
    // Without the log a plan is laid out as for something never drilled.
    fetchLog(routineId).then(
      (r) => here && setRows(r),
      () => {},
    )
    return () => {
      here = false
    }
  }, [routineId])
  return useMemo(() => {
    const lines = practice(rows)
    return (phrase: string) =>
      lines.find((l) => l.firstPhrase === phrase && l.lastPhrase === phrase && l.layer === 'all')?.ready ?? 0
  }, [rows])
}
