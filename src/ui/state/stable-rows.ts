'use client'

import { useState } from 'react'

/** Remembers the rows it gave last. */
class RowMemory<T> {
  private asked: readonly (readonly T[])[] = []
  private given: readonly (readonly T[])[] = []

  /** The rows, those that say the same as last time as the very same arrays; all of them as the very same where none changed. */
  keep(rows: readonly (readonly T[])[], same: (a: T, b: T) => boolean): readonly (readonly T[])[] {
    if (rows === this.asked) return this.given
    this.asked = rows
    let changed = rows.length !== this.given.length
    const next = rows.map((row, i) => {
      const old = this.given[i]
      const equal = old && old.length === row.length && row.every((x, k) => same(x, old[k] as T))
      if (!equal) changed = true
      return equal ? old : row
    })
    if (changed) this.given = next
    return this.given
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
