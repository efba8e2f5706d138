import { afterEach, describe, expect, it, vi } from 'vitest'
import { fetchSong } from './song'

afterEach(() => vi.unstubAllGlobals())

/** An answer of so many pieces of a hundred bytes, for a song said to have so many bytes. */
function served(pieces: number, size = pieces * 100) {
  const body = new ReadableStream<Uint8Array>({
    start(out) {
      for (let i = 0; i < pieces; i++) out.enqueue(new Uint8Array(100).fill(i))
      out.close()
    },
  })
  vi.stubGlobal('fetch', async () => new Response(body, { headers: { 'x-size': String(size) } }))
}

describe('a song from the server', () => {
  it('comes whole; how far it is, is told in steps and at the end, however many pieces it has', async () => {
    served(300)
    const shares: number[] = []
    const bytes = new Uint8Array(await fetchSong('/song', (share) => shares.push(share)))
    expect(bytes).toHaveLength(30_000)
    expect([bytes[0], bytes[100], bytes[29_999]]).toEqual([0, 1, 299 % 256])
    expect(shares.at(-1)).toBe(1)
    expect(shares.length).toBeGreaterThan(15)
    expect(shares.length).toBeLessThan(30)
    expect(shares).toEqual([...shares].sort((a, b) => a - b))
  })
  it('is told in words where it is cut short, longer than it was, or not there', async () => {
    served(3, 400)
    await expect(fetchSong('/song', () => {})).rejects.toThrow('The connection broke')
    served(3, 200)
    await expect(fetchSong('/song', () => {})).rejects.toThrow('changed while it was read')
    vi.stubGlobal('fetch', async () =>
      Response.json({ error: { message: 'It is not here.' } }, { status: 404 }),
    )
    await expect(fetchSong('/song', () => {})).rejects.toThrow('It is not here.')
    vi.stubGlobal('fetch', async () => new Response('<html>', { status: 502 }))
    await expect(fetchSong('/song', () => {})).rejects.toThrow('could not be fetched')
  })
})
