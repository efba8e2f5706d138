// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { afterPaint } from './after-paint'

describe('what is done after the page was painted', () => {
  let frames: FrameRequestCallback[] = []
  const paint = () => {
    for (const frame of frames.splice(0)) frame(0)
  }
  beforeEach(() => {
    frames = []
    vi.useFakeTimers()
    vi.stubGlobal('requestAnimationFrame', (frame: FrameRequestCallback) => frames.push(frame))
  })
  afterEach(() => {
    vi.useRealTimers()
    vi.unstubAllGlobals()
  })

  it('waits for the frame, and for the task after it', () => {
    const work = vi.fn()
    afterPaint(work)
    vi.advanceTimersByTime(50)
    expect(work).not.toHaveBeenCalled()
    paint()
    expect(work).not.toHaveBeenCalled()
    vi.advanceTimersByTime(1)
    expect(work).toHaveBeenCalledTimes(1)
    vi.advanceTimersByTime(1000)
    expect(work).toHaveBeenCalledTimes(1)
  })
  it.each(['keydown', 'pointerdown', 'pagehide', 'visibilitychange'])(
    'is done before anything hears of %s, and once',
    (name) => {
      const order: string[] = []
      const button = document.body.appendChild(document.createElement('button'))
      button.addEventListener(name, () => order.push('heard'))
      afterPaint(() => order.push('done'))
      button.dispatchEvent(new Event(name, { bubbles: true }))
      button.dispatchEvent(new Event(name, { bubbles: true }))
      paint()
      vi.advanceTimersByTime(1000)
      expect(order).toEqual(['done', 'heard', 'heard'])
      button.remove()
    },
  )
  it('does not wait for a page that is never painted', () => {
    const work = vi.fn()
    afterPaint(work)
    vi.advanceTimersByTime(100)
    expect(work).toHaveBeenCalledTimes(1)
    paint()
    vi.advanceTimersByTime(10)
    expect(work).toHaveBeenCalledTimes(1)
  })
})
