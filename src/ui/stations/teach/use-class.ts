'use client'

import { useEffect, useMemo, useState } from 'react'
import { type CountedRow, counted, Readiness } from '@/core/drill'
import type { Stretch } from '@/core/time'
import { fetchLog, type LogRow } from '../../state/api'
import type { Page } from '../../state/page'

/** What a class danced so far, and how it sits. */
export interface ClassLog {
  /** On the counts of the page; of one class, or all there is where none is named. */
  rows: readonly CountedRow<LogRow>[]
  ready: (stretch: Stretch) => number
  /** Every class in the log of the routine. */
  groups: readonly string[]
}

/** The log of a class. @param group its name; '' for everything that was danced */
export function useClass(routineId: string, page: Page, group: string): ClassLog {
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
    const own = counted(group ? rows.filter((r) => r.group === group) : rows, page.times)
    const readiness = new Readiness(own)
    return {
      rows: own,
      ready: (stretch) => readiness.of(stretch),
      groups: [...new Set(rows.flatMap((r) => r.group || []))],
    }
  }, [rows, page.times, group])
}
