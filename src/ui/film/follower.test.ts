import { beforeEach, describe, expect, it, vi } from 'vitest'
import { Follower } from './follower'

/** A video as far as it is followed: it plays when told, and is where it is put at once. */
class FakeVideo {
  duration = 60
  currentTime = 0
  playbackRate = 1
  paused = true
  seeking = false
  muted = true
  readyState = 4
  style = { visibility: '' }
  play() {
    this.paused = false
    return Promise.resolve()
  }
  pause() {
    this.paused = true
  }
}

beforeEach(() => {
  vi.stubGlobal('HTMLMediaElement', { HAVE_CURRENT_DATA: 2 })
})
const two = (sounding = false) => {
  const [a, b] = [new FakeVideo(), new FakeVideo()]
  const follower = new Follower(a as never, b as never, sounding)
  return { a, b, follower }
}

describe('two videos of one film', () => {
  it('one is seen and follows, the other waits where the sound goes next; at the join they change places', () => {
    const { a, b, follower } = two(true)
    follower.tick({ at: 10, rate: 0.6 }, 4)
    expect([a.style.visibility, b.style.visibility]).toEqual(['visible', 'hidden'])
    expect(a.paused).toBe(false)
    expect(a.playbackRate).toBe(0.6)
    expect([b.currentTime, b.paused]).toEqual([4, true])
    expect([a.muted, b.muted]).toEqual([false, true])
    a.currentTime = 18
    follower.tick({ at: 4.02, rate: 0.6 }, 4)
    expect([a.style.visibility, b.style.visibility]).toEqual(['hidden', 'visible'])
    expect([a.paused, b.paused]).toEqual([true, false])
    expect(follower.at).toBe(4)
    // And the one that was seen waits for the next join.
    expect(a.currentTime).toBe(4)
    expect([a.muted, b.muted]).toEqual([true, false])
  })

  it('does not change places while the one that waits is not there yet', () => {
    const { a, b, follower } = two()
    follower.tick({ at: 10, rate: 1 }, 4)
    b.seeking = true
    a.currentTime = 18
    follower.tick({ at: 4, rate: 1 }, 4)
    expect(a.style.visibility).toBe('visible')
    expect(a.currentTime).toBeGreaterThan(4)
    expect(a.currentTime).toBeLessThan(4.1)
  })

  it('stands still where the film shows nothing of it, and on a still', () => {
    const { a, follower } = two()
    follower.tick({ at: 10, rate: 1 })
    follower.tick(null)
    expect(a.paused).toBe(true)
    follower.tick({ at: 12, rate: 0 })
    expect([a.currentTime, a.paused]).toEqual([12, true])
    // Beyond its end there is its last picture.
    follower.tick({ at: 99, rate: 0 })
    expect(a.currentTime).toBeCloseTo(59.99)
  })
})
