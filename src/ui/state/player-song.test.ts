import { beforeEach, describe, expect, it, vi } from 'vitest'
import { packMeasure } from '@/core/stretch'
import { PlayerSong } from './player-song'

const found = { times: 0, fails: false }
const packed = packMeasure([1, 2.5], [0.01, 0.02])
vi.mock('@/audio/song', () => ({
  fetchSong: async () => new ArrayBuffer(8),
  decodeSong: async () => ({ duration: 20 }),
}))
vi.mock('./measure', async (original) => ({
  ...(await original<typeof import('./measure')>()),
  measureInWorker: async () => {
    found.times++
    if (found.fails) throw new Error('No memory.')
    return packed
  },
}))
beforeEach(() => Object.assign(found, { times: 0, fails: false }))

describe('what playing a song needs to know of it', () => {
  const song = (get: () => Promise<Uint8Array | null>, put = vi.fn(async (_: Uint8Array) => {})) => ({
    song: new PlayerSong('/song', () => {}, { get, put }),
    put,
  })
  it('is found once, and kept', async () => {
    const { song: one, put } = song(async () => null)
    const [a, b] = await Promise.all([one.measure(), one.measure()])
    expect(a).toBe(b)
    expect(a.strokes).toEqual(Float64Array.of(1, 2.5))
    expect(found.times).toBe(1)
    expect(put.mock.calls).toEqual([[packed]])
  })
  it('is not looked for where it was kept, nor is the song waited for', async () => {
    const { song: one, put } = song(async () => packed)
    const audio = vi.spyOn(one, 'audio')
    expect((await one.measure()).strokes).toEqual(Float64Array.of(1, 2.5))
    expect([found.times, put.mock.calls, audio.mock.calls]).toEqual([0, [], []])
  })
  it.each<[string, () => Promise<Uint8Array | null>]>([
    ['cannot be read', async () => Uint8Array.of(0, 1)],
    ['cannot be had', () => Promise.reject(new Error('offline'))],
  ])('is found anew where what was kept %s, also where it cannot be kept again', async (_, get) => {
    const { song: one } = song(
      get,
      vi.fn(async (_) => Promise.reject(new Error('offline'))),
    )
    expect((await one.measure()).strokes).toHaveLength(2)
    expect(found.times).toBe(1)
  })
  it('is looked for again after it could not be found', async () => {
    const { song: one } = song(async () => null)
    found.fails = true
    await expect(one.measure()).rejects.toThrow('No memory.')
    found.fails = false
    expect((await one.measure()).strokes).toHaveLength(2)
  })
})
