'use client'

import { useCallback, useEffect, useState } from 'react'
import { said } from '../../parts/said'
import { useOutbox } from '../../state/outbox-window'

/** Rows of a log, read when the station is entered, when what waited is saved, and whenever asked. @param fetch must be the same while what it fetches is */
export function useLog<Row>(fetch: (id: string) => Promise<Row[]>, id: string) {
  const [rows, setRows] = useState<Row[]>([])
  const [problem, setProblem] = useState('')
  const read = useCallback(
    () =>
      fetch(id).then(
        (r) => {
          setRows(r)
          setProblem('')
        },
        (e: unknown) => setProblem(said(e)),
      ),
    [fetch, id],
  )
  const saved = useOutbox((s) => s.waiting === 0)
  // biome-ignore lint/correctness/useExhaustiveDependencies: that all is saved is the reason to read again
  useEffect(() => {
    read()
  }, [read, saved])
  return { rows, problem, read }
}
