// @vitest-environment happy-dom
import { renderHook } from '@testing-library/react'
import { createElement } from 'react'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { mustLoad, useLoadFloor } from './devices'
import { Player, PlayerProvider } from './player'

const { outbox, writeDown } = vi.hoisted(() => ({
  outbox: { whenSaved: vi.fn(async () => {}) },
  writeDown: vi.fn(),
}))
vi.mock('./outbox-window', () => ({ outbox: () => outbox }))
vi.mock('./routine-store', () => ({ writeDown }))

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

describe('loading a page of the floor', () => {
  const loads = async (there: () => Promise<{ ok: boolean }>) => {
    vi.clearAllMocks()
    const fetch = vi.fn(there)
    vi.stubGlobal('fetch', fetch)
    const assign = vi.spyOn(window.location, 'assign').mockImplementation(() => {})
    const player = new Player('/song')
    const { result } = renderHook(() => useLoadFloor(), {
      wrapper: ({ children }) => createElement(PlayerProvider, { value: player }, children),
    })
    await result.current('/r/a/floor', { kind: 'timing' } as never)
    expect(fetch).toHaveBeenCalledWith('/icon.svg', { method: 'HEAD', cache: 'no-store' })
    return { assign, problem: player.state.getState().problem }
  }
  it('is done once what waits is written down and sent', async () => {
    const { assign, problem } = await loads(async () => ({ ok: true }))
    expect([assign.mock.calls, problem]).toEqual([[['/r/a/floor']], ''])
    expect(writeDown).toHaveBeenCalledBefore(outbox.whenSaved)
    expect(outbox.whenSaved).toHaveBeenCalledBefore(assign)
    expect(sessionStorage.length).toBe(1)
    sessionStorage.clear()
  })
  it('is not done where the server does not answer: the page stays, and says so', async () => {
    for (const there of [async () => ({ ok: false }), () => Promise.reject(new TypeError('away'))]) {
      const { assign, problem } = await loads(there)
      expect([assign.mock.calls.length, sessionStorage.length]).toEqual([0, 0])
      expect(problem).toContain('does not answer')
    }
  })
})
