// @vitest-environment happy-dom
import type { PointerEvent as ReactPointerEvent } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { followPress } from './follow-press'

/** A pointer event of a moment, in ms since the press. */
function point(type: string, clientX: number, timeStamp: number, pointerId = 1): void {
  const event = Object.assign(new Event(type), { clientX, clientY: 0, pointerId })
  Object.defineProperty(event, 'timeStamp', { value: timeStamp })
  window.dispatchEvent(event)
}
const pressed = (pointerType: 'mouse' | 'touch') =>
  ({ pointerType, pointerId: 1, clientX: 0, clientY: 0, timeStamp: 0 }) as unknown as ReactPointerEvent

describe('a press that is followed', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())
  function follow(pointerType: 'mouse' | 'touch') {
    const told: string[] = []
    const stop = followPress(pressed(pointerType), {
      held: () => told.push('held'),
      moved: (e, first) => told.push(`${first ? 'first ' : ''}${e.clientX}`),
      over: (letGo) => told.push(letGo ? 'let go' : 'taken away'),
    })
    return { told, stop }
  }
  it('of a mouse is followed at once, once it is no click', () => {
    const { told } = follow('mouse')
    point('pointermove', 3, 5)
    point('pointermove', 9, 10, 2)
    point('pointermove', 9, 10)
    point('pointermove', 4, 15)
    point('pointerup', 4, 20)
    point('pointermove', 50, 25)
    expect(told).toEqual(['first 9', '4', 'let go'])
  })
  it('of a finger scrolls where it moves before it rested, and is followed where it rested', () => {
    const scrolled = follow('touch')
    point('pointermove', 20, 100)
    vi.advanceTimersByTime(1000)
    point('pointerup', 20, 1100)
    expect(scrolled.told).toEqual([])
    const { told } = follow('touch')
    vi.advanceTimersByTime(400)
    point('pointermove', 30, 500)
    point('pointercancel', 30, 600)
    expect(told).toEqual(['held', 'first 30', 'taken away'])
  })
  it('of a finger that moved in time scrolls, also where a busy page is told of it late', () => {
    const { told } = follow('touch')
    vi.advanceTimersByTime(400)
    point('pointermove', 30, 120)
    point('pointermove', 90, 500)
    expect(told).toEqual(['held', 'taken away'])
  })
  it('is followed no more when that is ended', () => {
    const { told, stop } = follow('touch')
    stop()
    vi.advanceTimersByTime(1000)
    point('pointermove', 30, 1000)
    expect(told).toEqual([])
  })
})
