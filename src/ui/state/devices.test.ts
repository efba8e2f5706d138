// @vitest-environment happy-dom
import { afterEach, describe, expect, it, vi } from 'vitest'
import { mustLoad } from './devices'

/** A page that was loaded at an address, in a browser whose policy allows these devices. */
function loadedAt(address: string | null, allowed: readonly string[] | null) {
  vi.spyOn(performance, 'getEntriesByType').mockReturnValue(
    address === null ? [] : [{ name: `http://here${address}` } as PerformanceEntry],
  )
  const policy = allowed && { allowsFeature: (device: string) => allowed.includes(device) }
  Object.defineProperty(document, 'featurePolicy', { value: policy ?? undefined, configurable: true })
}
afterEach(() => vi.restoreAllMocks())

describe('a page that is to use the camera or the microphone', () => {
  it('is loaded on the floor first where its own policy forbids them', () => {
    loadedAt('/r/abc/cue', [])
    expect(mustLoad('camera')).toBe(true)
    loadedAt('/r/abc/cue', ['camera'])
    expect(mustLoad('camera')).toBe(false)
    expect(mustLoad('microphone')).toBe(true)
  })
  it('is not loaded a second time for what the floor does not allow either', () => {
    loadedAt('/r/abc/floor', [])
    expect(mustLoad('camera')).toBe(false)
  })
  it('is loaded where nobody knows how it came, and never in a browser without such a policy', () => {
    loadedAt(null, [])
    expect(mustLoad('camera')).toBe(true)
    loadedAt(null, null)
    expect(mustLoad('camera')).toBe(false)
  })
})
