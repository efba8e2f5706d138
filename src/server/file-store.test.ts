import { existsSync, mkdtempSync, readdirSync, readlinkSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { diskStore } from './file-store'

let data: string
beforeEach(() => {
  data = mkdtempSync(path.join(os.tmpdir(), 'azalea-store-'))
  vi.stubEnv('AZALEA_DATA', data)
})
afterEach(() => {
  vi.unstubAllEnvs()
  rmSync(data, { recursive: true, force: true })
})

const MB = new Uint8Array(1024 * 1024)
/** Megabytes that come one after the other, and perhaps a byte more. */
async function* megabytes(n: number, more = 0) {
  for (let i = 0; i < n; i++) yield MB
  if (more) yield new Uint8Array(more)
}
const kept = () => readdirSync(path.join(data, 'audio'))

describe('the store of songs', () => {
  it('takes 200 MB and not a byte more, whatever the request said before; nothing of it is left', async () => {
    await expect(diskStore().receive(megabytes(200, 1))).rejects.toMatchObject({ status: 413 })
    expect(kept()).toEqual([])
  })
  it('keeps a song only when told to', async () => {
    const store = diskStore()
    const song = await store.receive(megabytes(1))
    expect(song.bytes).toBe(MB.length)
    expect(await store.size(song.hash)).toBeNull()
    await song.keep()
    expect(await store.size(song.hash)).toBe(MB.length)
    const other = await store.receive(megabytes(2))
    await other.discard()
    expect(kept()).toEqual([song.hash])
  })
  it('opens a file only when somebody reads, and closes it for whoever leaves early', async (test) => {
    if (!existsSync('/proc/self/fd')) test.skip()
    const store = diskStore()
    const song = await store.receive(megabytes(3))
    await song.keep()
    const open = () =>
      readdirSync('/proc/self/fd').filter((fd) => {
        try {
          return readlinkSync(`/proc/self/fd/${fd}`).endsWith(song.hash)
        } catch {
          return false
        }
      }).length
    // As for a HEAD request: there is a body, and nobody reads it.
    const unread = Array.from({ length: 20 }, () => store.read(song.hash, 0, song.bytes - 1))
    await Promise.resolve()
    expect(open()).toBe(0)
    const reader = store.read(song.hash, 0, song.bytes - 1).getReader()
    await reader.read()
    expect(open()).toBe(1)
    await reader.cancel()
    expect(open()).toBe(0)
    const [whole] = await Promise.all([new Response(unread[0]).arrayBuffer()])
    expect(whole.byteLength).toBe(song.bytes)
    expect(open()).toBe(0)
  })
  it('gives no file that is not named by a hash', () => {
    expect(() => diskStore().read('../azalea.db', 0, 1)).toThrow('not a content hash')
  })
})
