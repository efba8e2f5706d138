// @vitest-environment happy-dom
import { act, cleanup, renderHook } from '@testing-library/react'
import type { FocusEvent } from 'react'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { placePhrases } from '@/core/routine'
import { cuesOf, page as pageOf } from '@/core/routine/hand.test-tools'
import type { Stretch } from '@/core/time'
import { usePlaceText } from './place-text'

const routine = pageOf(2, cuesOf(['1 kick R; 3 kick L; 5 turn', '']))
const page = { placed: placePhrases(routine), times: Array.from({ length: 17 }, (_, k) => k / 2) }
const eight = (i: number): Stretch => ({ from: 192 * i, to: 192 * (i + 1) })
const away = {
  currentTarget: document.createElement('div'),
  relatedTarget: null,
} as unknown as FocusEvent<HTMLElement>

afterEach(cleanup)

/** A box over a stretch that the test chooses. */
function box() {
  const choose = vi.fn()
  const hook = renderHook(({ at }) => usePlaceText({ page, routine, here: at.from }, at, choose), {
    initialProps: { at: eight(0) },
  })
  const type = (text: string) => act(() => hook.result.current.type(text))
  return { choose, hook, type, now: () => hook.result.current }
}

describe('the text of a box for counts', () => {
  it('is the name until something is typed; enter takes the first meaning, once', () => {
    const { choose, type, now } = box()
    expect([now().text, now().meant]).toEqual(['Eight 1', []])
    type('kick')
    expect(now().meant.map((m) => m.stretch.from / 24)).toEqual([0, 2])
    act(() => now().done())
    expect(choose.mock.calls).toEqual([[{ from: 0, to: expect.any(Number) }]])
    expect([now().text, now().meant]).toEqual(['Eight 1', []])
  })
  it('that is left takes what can only be meant so, and guesses nothing', () => {
    const { choose, type, now } = box()
    type('kick')
    act(() => now().left(away))
    expect([choose.mock.calls.length, now().text]).toEqual([0, 'kick'])
    type('turn')
    act(() => now().left(away))
    expect(choose.mock.calls[0]?.[0]).toMatchObject({ from: 4 * 24 })
  })
  it('that means nothing stays with the reason, until other counts are chosen', () => {
    const { choose, hook, type, now } = box()
    type('somersault')
    act(() => now().left(away))
    expect([now().text, now().problem]).toEqual(['somersault', expect.stringContaining('names no place')])
    hook.rerender({ at: eight(1) })
    expect([now().text, now().problem]).toEqual(['Eight 2', ''])
    expect(choose).not.toHaveBeenCalled()
  })
})
