import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { FakeWorker } from './fake-worker.test-tools'
import { Stills } from './stills'
import { searchTakes } from './take-search'

const revoke = vi.fn()
beforeEach(() => {
  FakeWorker.all = []
  revoke.mockClear()
  vi.stubGlobal('Worker', FakeWorker)
  vi.stubGlobal('location', { href: 'http://here/r/x/cue' })
  let n = 0
  vi.spyOn(URL, 'createObjectURL').mockImplementation(() => `blob:${n++}`)
  vi.spyOn(URL, 'revokeObjectURL').mockImplementation(revoke)
})
afterEach(() => {
  vi.unstubAllGlobals()
  vi.restoreAllMocks()
})

interface Request {
  id: number
  url: string
  times: number[]
}
const asked = () => FakeWorker.last.sent.map((s) => (s as { request: Request }).request)
const still = (id: number, time: number) =>
  FakeWorker.last.answers({ kind: 'still', id, time, picture: new Blob(['x']) })
const soon = () => new Promise<void>((then) => queueMicrotask(then))

describe('stills of films', () => {
  it('are asked for in one request a film and moment, from early to late, each once', async () => {
    const stills = new Stills(100)
    const told: (string | null)[] = []
    for (const t of [4, 2, 3, 2]) stills.ask('/api/films/a/file', t, (s) => told.push(s))
    await soon()
    expect(asked()).toEqual([{ id: 0, times: [2, 3, 4], width: 100, url: 'http://here/api/films/a/file' }])
    still(0, 2)
    still(0, 3)
    expect(told).toEqual(['blob:0', 'blob:0', 'blob:1'])
    // What is there is given at once.
    stills.ask('/api/films/a/file', 3, (s) => told.push(s))
    expect([told.at(-1), stills.there('/api/films/a/file', 3)]).toEqual(['blob:1', 'blob:1'])
    expect(stills.there('/api/films/a/file', 4)).toBeUndefined()
    stills.close()
  })

  it('that do not come are none, and nobody waits for them', async () => {
    const stills = new Stills(100)
    const told: (string | null)[] = []
    stills.ask('/f', 1, (s) => told.push(s))
    stills.ask('/f', 2, (s) => told.push(s))
    const gone = stills.ask('/f', 2, () => told.push('not wanted'))
    gone()
    await soon()
    still(0, 1)
    FakeWorker.last.answers({ kind: 'failed', id: 0, message: 'broken' })
    expect(told).toEqual(['blob:0', null])
    // What cannot be read is nothing.
    FakeWorker.last.answers({ kind: 'still', id: 0, time: 'x' })
    stills.close()
    expect(revoke).toHaveBeenCalledWith('blob:0')
    expect(FakeWorker.last.ended).toBe(true)
  })
})

describe('looking for takes in a film', () => {
  it('names the film by its whole address, tells how far it is, and gives what was found', async () => {
    const told: number[] = []
    const takes = [{ from: 0, to: 8, at: 1, rate: 0.75, sure: 0.6 }]
    const song = Uint8Array.of(1)
    const looked = searchTakes('/api/films/a/file', song, (s) => told.push(s), new AbortController().signal)
    expect(asked()[0]).toEqual({ url: 'http://here/api/films/a/file', song })
    FakeWorker.last.answers({ kind: 'progress', share: 0.5 })
    FakeWorker.last.answers({ kind: 'done', takes })
    expect(await looked).toEqual(takes)
    expect([told, FakeWorker.last.ended]).toEqual([[0.5], true])
  })

  it('says why it could not, and ends at once where it is stopped', async () => {
    const stop = new AbortController()
    const failed = searchTakes('/f', Uint8Array.of(), () => {}, stop.signal)
    FakeWorker.last.answers({ kind: 'failed', message: 'There is no sound in this film.' })
    await expect(failed).rejects.toThrow('no sound')
    const stopped = searchTakes('/f', Uint8Array.of(), () => {}, stop.signal)
    stop.abort()
    await expect(stopped).rejects.toMatchObject({ name: 'AbortError' })
    expect(FakeWorker.last.ended).toBe(true)
  })
})
