'use client'

import { useRef } from 'react'

/**
 * Keeps the rows of a list of lists that did not change as the very same arrays, so that what shows them need not be
 * drawn again.
 * @param same whether two items say the same
 */
export function useStableRows<T>(rows: readonly (readonly T[])[], same: (a: T, b: T) => boolean) {
  const last = useRef<readonly (readonly T[])[]>([])
  const kept = rows.map((row, i) => {
    const old = last.current[i]
    const equal = old && old.length === row.length && row.every((x, k) => same(x, old[k] as T))
    return equal ? old : row
  })
  last.current = kept
  return kept
}
