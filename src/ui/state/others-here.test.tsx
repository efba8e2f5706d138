// @vitest-environment happy-dom
import { act, renderHook } from '@testing-library/react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { useOthersHere } from './others-here'

const told = vi.hoisted(() => ({ answers: [] as unknown[], asked: [] as unknown[][] }))
vi.mock('./school', () => ({
  tellHere: async (...asked: unknown[]) => {
    told.asked.push(asked)
    const answer = told.answers.shift() ?? { others: [], revision: 0 }
    if (answer instanceof Error) throw answer
    return answer
  },
}))
vi.mock('./outbox-window', () => ({ outbox: () => ({ window: 'this-window' }) }))

const store = (revision: number) => ({ saves: { revision, look: vi.fn(async () => {}) } })
const settle = () => act(async () => vi.advanceTimersByTimeAsync(0))
const hidden = (is: boolean) => Object.defineProperty(document, 'hidden', { value: is, configurable: true })

beforeEach(() => {
  vi.useFakeTimers()
  Object.assign(told, { answers: [], asked: [] })
  document.documentElement.dataset.person = 'kim'
  hidden(false)
})
afterEach(() => vi.useRealTimers())

it('says every quarter of a minute that the page is there, and hears who else is', async () => {
  told.answers = [{ others: ['Nora'], revision: 3 }, new Error('away'), { others: [], revision: 3 }]
  const here = store(3)
  const { result, unmount } = renderHook(() => useOthersHere('r1', here as never))
  await settle()
  expect(told.asked).toEqual([['r1', 'this-window']])
  expect(result.current).toEqual(['Nora'])
  // Where nobody answers, who was heard of stays.
  await act(async () => vi.advanceTimersByTimeAsync(15_000))
  expect([told.asked.length, result.current]).toEqual([2, ['Nora']])
  await act(async () => vi.advanceTimersByTimeAsync(15_000))
  expect([told.asked.length, result.current]).toEqual([3, []])
  expect(here.saves.look).not.toHaveBeenCalled()
  unmount()
  document.dispatchEvent(new Event('visibilitychange'))
  await vi.advanceTimersByTimeAsync(60_000)
  expect(told.asked).toHaveLength(3)
})

it('looks at what was saved elsewhere meanwhile, and says nothing while nobody sees the page', async () => {
  hidden(true)
  const here = store(3)
  renderHook(() => useOthersHere('r1', here as never))
  await settle()
  expect(told.asked).toEqual([])
  hidden(false)
  told.answers = [{ others: [], revision: 4 }]
  await act(async () => document.dispatchEvent(new Event('visibilitychange')))
  await settle()
  expect(here.saves.look).toHaveBeenCalledTimes(1)
})

it('says nothing on a machine where nobody signs in', async () => {
  delete document.documentElement.dataset.person
  const { result } = renderHook(() => useOthersHere('r1', store(1) as never))
  await settle()
  expect([told.asked, result.current]).toEqual([[], []])
})
