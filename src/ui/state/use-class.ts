'use client'

import { useMemo } from 'react'
import { type CountedRow, counted, Readiness } from '@/core/drill'
import type { Stretch } from '@/core/time'
import { fetchLog, type LogRow } from './api-log'
import type { Page } from './page'
import { type Read, useLog } from './use-log'

/** What a class danced so far, and how it sits. */
export interface ClassLog extends Pick<Read<LogRow>, 'there' | 'problem' | 'read'> {
  /** On the counts of the page; of one class, or all there is where none is named. */
  rows: readonly CountedRow<LogRow>[]
  ready: (stretch: Stretch) => number
  /** Every class in the log of the routine. */
  groups: readonly string[]
}

/** The log of a class. @param group its name; '' for everything that was danced */
export function useClass(routineId: string, page: Page, group: string): ClassLog {
  const { rows, there, problem, read } = useLog(fetchLog, routineId, true)
  return useMemo(() => {
    const own = counted(group ? rows.filter((r) => r.group === group) : rows, page.times)
    const readiness = new Readiness(own)
    return {
      rows: own,
      ready: (stretch) => readiness.of(stretch),
      groups: [...new Set(rows.flatMap((r) => r.group || []))],
      ...{ there, problem, read },
    }
  }, [rows, there, problem, read, page.times, group])
}
