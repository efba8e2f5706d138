// @vitest-environment happy-dom
import { act, renderHook } from '@testing-library/react'
import { afterEach, expect, it, vi } from 'vitest'
import { LONG_MS, useLong } from './use-long'

afterEach(() => void vi.useRealTimers())

it('tells what goes on for long, also when it is over, and not what is soon over', () => {
  vi.useFakeTimers()
  const { result, rerender } = renderHook(({ goesOn }) => useLong(goesOn), {
    initialProps: { goesOn: false },
  })
  const after = (ms: number, goesOn: boolean) => {
    act(() => void vi.advanceTimersByTime(ms))
    rerender({ goesOn })
    return result.current
  }
  // Soon over, again and again: their times do not add up.
  expect([after(0, true), after(LONG_MS - 1, false), after(0, true), after(LONG_MS - 1, false)]).toEqual([
    ...[false, false, false, false],
  ])
  expect([after(LONG_MS, true), after(LONG_MS, true), after(10, false), after(10, true)]).toEqual([
    ...[false, true, true, false],
  ])
})
