// @vitest-environment happy-dom
import { act, renderHook } from '@testing-library/react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { useRested } from './use-rested'

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
})
const later = (ms: number) => act(() => vi.advanceTimersByTime(ms))

it('is the value at first, and then what it was last once that rests', () => {
  const { result, rerender } = renderHook(({ value }) => useRested(value), { initialProps: { value: 'a' } })
  expect(result.current).toBe('a')
  for (const value of ['b', 'c', 'd']) {
    rerender({ value })
    later(100)
    expect(result.current).toBe('a')
  }
  later(20)
  expect(result.current).toBe('d')
})

it('changes nothing where a value comes back, nor after the page was left', () => {
  const { result, rerender, unmount } = renderHook(({ value }) => useRested(value), {
    initialProps: { value: 'a' },
  })
  rerender({ value: 'b' })
  later(50)
  rerender({ value: 'a' })
  later(500)
  expect(result.current).toBe('a')
  rerender({ value: 'c' })
  unmount()
  later(500)
  expect(vi.getTimerCount()).toBe(0)
})
