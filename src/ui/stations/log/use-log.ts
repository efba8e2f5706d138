'use client'

import { useCallback, useEffect, useState } from 'react'
import { said } from '../../parts/said'

/** Rows of a log, read when the station is entered and whenever asked. @param fetch must be the same while what it fetches is */
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
  useEffect(() => {
    read()
  }, [read])
  return { rows, problem, read }
}
