// @vitest-environment happy-dom
import { renderHook } from '@testing-library/react'
import { describe, expect, it, vi } from 'vitest'
import { useStableRows } from './stable-rows'

interface Item {
  says: string
}
const rowsOf = (...rows: string[]): Item[][] => rows.map((r) => [...r].map((says) => ({ says })))
const same = (a: Item, b: Item) => a.says === b.says

describe('rows that are kept', () => {
  it('are the very same arrays where they say the same, all of them where none changed', () => {
    const first = rowsOf('ab', 'c', '')
    const { result, rerender } = renderHook(({ rows }) => useStableRows(rows, same), {
      initialProps: { rows: first },
    })
    expect(result.current).toEqual(first)
    const given = result.current
    rerender({ rows: rowsOf('ab', 'c', '') })
    expect(result.current).toBe(given)
    rerender({ rows: rowsOf('ab', 'd', '') })
    expect(result.current.map((row, i) => row === given[i])).toEqual([true, false, true])
    expect(result.current).toEqual(rowsOf('ab', 'd', ''))
    for (const more of [rowsOf('ab', 'd'), rowsOf('ab', 'd', '', 'e'), rowsOf('a', 'd'), rowsOf('ba')]) {
      rerender({ rows: more })
      expect(result.current).toEqual(more)
    }
  })
  it('are compared once', () => {
    const compared = vi.fn(same)
    const rows = rowsOf('abc')
    const { rerender } = renderHook(() => useStableRows(rows, compared))
    rerender()
    const times = compared.mock.calls.length
    rerender()
    expect(compared.mock.calls.length).toBe(times)
  })
})
