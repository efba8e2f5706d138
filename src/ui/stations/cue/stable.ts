'use client'

import { useState } from 'react'

/** Remembers the rows it gave last. */
class RowMemory<T> {
  private last: readonly (readonly T[])[] = []

  /** The rows, those that say the same as last time as the very same arrays. */
  keep(rows: readonly (readonly T[])[], same: (a: T, b: T) => boolean): readonly (readonly T[])[] {
    this.last = rows.map((row, i) => {
      const old = this.last[i]
      const equal = old && old.length === row.length && row.every((x, k) => same(x, old[k] as T))
      return equal ? old : row
    })
    return this.last
  }
}

/**
 * Keeps the rows of a list of lists that did not change as the very same arrays, so that what shows them need not be
 * drawn again.
 * @param same whether two items say the same
 */
export function useStableRows<T>(rows: readonly (readonly T[])[], same: (a: T, b: T) => boolean) {
  const [memory] = useState(() => new RowMemory<T>())
  return memory.keep(rows, same)
}
