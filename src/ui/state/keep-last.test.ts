import { describe, expect, it, vi } from 'vitest'
import { keepLast } from './keep-last'

describe('what is kept last', () => {
  it('is given again for the very same things, and worked out anew for others', () => {
    const work = vi.fn((a: object, n: number) => ({ a, n }))
    const kept = keepLast(work)
    const [one, other] = [{}, {}]
    const first = kept(one, 1)
    expect(first).toEqual({ a: one, n: 1 })
    expect(kept(one, 1)).toBe(first)
    expect(kept(one, 2)).toEqual({ a: one, n: 2 })
    // Alike is not the same.
    expect(kept(other, 2)).not.toBe(first)
    expect(kept(other, 1).a).toBe(other)
    expect(work).toHaveBeenCalledTimes(4)
    // Only the last is kept.
    expect(kept(one, 1)).not.toBe(first)
    expect(work).toHaveBeenCalledTimes(5)
  })
  it('may be nothing', () => {
    const work = vi.fn(() => null)
    const kept = keepLast(work)
    expect([kept(), kept()]).toEqual([null, null])
    expect(work).toHaveBeenCalledOnce()
  })
})
