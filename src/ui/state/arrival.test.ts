import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type Arrival, keepArrival, takeArrival } from './arrival'

let kept: Map<string, string>
beforeEach(() => {
  kept = new Map()
  vi.useFakeTimers({ toFake: ['Date'] })
  vi.stubGlobal('sessionStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, text: string) => void kept.set(key, text),
    removeItem: (key: string) => void kept.delete(key),
  })
})
afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

const say: Arrival = { kind: 'say', stretch: { from: 24, to: 96 }, plan: null, back: '/r/a-song/cue' }

describe('what a page of the floor was loaded for', () => {
  it('is said to the page that is loaded, once', () => {
    keepArrival(say)
    vi.advanceTimersByTime(59_000)
    expect(takeArrival()).toEqual(say)
    expect(takeArrival()).toBeNull()
  })
  it('is forgotten where the page was not loaded after all', () => {
    keepArrival(say)
    vi.advanceTimersByTime(60_000)
    expect(takeArrival()).toBeNull()
  })
  it('is nothing where it cannot be read, or leads elsewhere', () => {
    const from = (arrival: unknown) => {
      kept.set('azalea-arrival', JSON.stringify({ at: Date.now(), arrival }))
      return takeArrival()
    }
    expect(from({ ...say, back: '//elsewhere.example/r/a/cue' })).toBeNull()
    expect(from({ ...say, stretch: { from: 'here', to: 96 } })).toBeNull()
    expect(from({ kind: 'camera', plan: null })).toBeNull()
    expect(from(say)).toEqual(say)
    kept.set('azalea-arrival', '{')
    expect(takeArrival()).toBeNull()
    vi.stubGlobal('sessionStorage', undefined)
    keepArrival(say)
    expect(takeArrival()).toBeNull()
  })
})
