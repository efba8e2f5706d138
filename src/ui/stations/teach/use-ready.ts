'use client'

import { useEffect, useMemo, useState } from 'react'
import { counted, Readiness } from '@/core/drill'
import type { Stretch } from '@/core/time'
import { fetchLog, type LogRow } from '../../state/api'
import type { Page } from '../../state/page'

/** The speed at which a stretch sits, from the log; every row speaks for its counts. */
export function useReady(routineId: string, page: Page): (stretch: Stretch) => number {
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
    const readiness = new Readiness(counted(rows, page.times))
    return (stretch: Stretch) => readiness.of(stretch)
  }, [rows, page.times])
}
