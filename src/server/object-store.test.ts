/* The same store far away: by the SDK against a stand-in that speaks S3. */
import { createHash, randomBytes } from 'node:crypto'
import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import os from 'node:os'
import path from 'node:path'
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { diskStore, filmStore } from './file-store'
import { guardOf } from './guard'
import { BUCKET, objectServer, objectsIn } from './object-store.test-tools'
import { objectPlace } from './settings'

const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-objects-'))
const before = { ...process.env }
let end = async () => {}
let url = ''
beforeAll(async () => {
  const server = await objectServer(path.join(dir, 'objects'))
  end = server.end
  url = server.url
  Object.assign(process.env, {
    AZALEA_DATA: path.join(dir, 'data'),
    AZALEA_STORE: `s3://${BUCKET}/school/`,
    AZALEA_STORE_ENDPOINT: url,
    AWS_ACCESS_KEY_ID: 'S3RVER',
    AWS_SECRET_ACCESS_KEY: 'S3RVER',
  })
})
afterAll(async () => {
  process.env = before
  await end()
  rmSync(dir, { recursive: true, force: true })
})

const kept = (folder = 'audio') => objectsIn(path.join(dir, 'objects'), `school/${folder}`)
const passing = () => readdirSync(path.join(dir, 'data/passing'))
const hashOf = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex')
async function* pieces(bytes: Buffer) {
  for (let i = 0; i < bytes.length; i += 300_000) yield bytes.subarray(i, i + 300_000)
}
const readAll = async (stream: ReadableStream<Uint8Array>) =>
  Buffer.from(await new Response(stream).arrayBuffer())

describe('a store far away', () => {
  it('takes a file in by parts, gives any range of it, and leaves nothing here', async () => {
    const store = diskStore()
    // Three parts.
    const bytes = randomBytes(23_000_001)
    const incoming = await store.receive(pieces(bytes))
    expect(incoming).toMatchObject({ hash: hashOf(bytes), bytes: bytes.length })
    expect(await store.size(incoming.hash)).toBeNull()
    await incoming.keep()
    await incoming.discard()
    expect(passing()).toEqual([])
    expect(kept()).toEqual([incoming.hash])
    expect(await store.size(incoming.hash)).toBe(bytes.length)
    for (const [from, to] of [
      // The stand-in gives all for a single first byte.
      [0, 1],
      [8_388_607, 8_388_610],
      [22_999_000, 23_000_000],
      [0, bytes.length - 1],
    ] as const)
      expect(hashOf(await readAll(store.read(incoming.hash, from, to)))).toBe(
        hashOf(bytes.subarray(from, to + 1)),
      )
    await store.remove(incoming.hash)
    await store.remove(incoming.hash)
    expect(await store.size(incoming.hash)).toBeNull()
    expect(kept()).toEqual([])
  })
  it('keeps what is looked at first, and what was taken away between staging and keeping', async () => {
    const store = diskStore()
    const bytes = randomBytes(1000)
    const incoming = await store.receive(pieces(bytes))
    expect(await incoming.asFile(async (file) => existsSync(file))).toBe(true)
    await incoming.stage()
    expect(kept()).toEqual([incoming.hash])
    await store.remove(incoming.hash)
    await incoming.keep()
    expect(kept()).toEqual([incoming.hash])
    await incoming.discard()
    // What is refused is nowhere.
    const other = await store.receive(pieces(randomBytes(10)))
    await other.discard()
    expect(kept()).toHaveLength(1)
    expect(() => store.read('../../etc/passwd', 0, 1)).toThrow('not a content hash')
  })
  it('takes over a file of this machine, and gives a link to it where that is wished', async () => {
    const store = filmStore()
    const bytes = randomBytes(5000)
    const file = path.join(dir, 'film')
    writeFileSync(file, bytes)
    const hash = hashOf(bytes)
    await store.stage(file, hash)
    expect(existsSync(file)).toBe(true)
    await store.adopt(file, hash)
    expect(existsSync(file)).toBe(false)
    expect(await filmStore().link(hash, 'video/mp4')).toBeNull()
    expect(guardOf('x', false).policy).not.toContain(url)
    process.env.AZALEA_STORE_DIRECT = '1'
    const link = (await filmStore().link(hash, 'video/mp4')) ?? ''
    const part = await fetch(link, { headers: { range: 'bytes=10-19' } })
    expect(part.status).toBe(206)
    expect(Buffer.from(await part.arrayBuffer()).equals(bytes.subarray(10, 20))).toBe(true)
    // Of another file it is none.
    expect((await fetch(link.replace(hash, hashOf(Buffer.from('x'))))).ok).toBe(false)
    expect(guardOf('x', false).policy).toContain(`media-src 'self' blob: ${new URL(url).origin};`)
    delete process.env.AZALEA_STORE_DIRECT
  })
  it('is named by an address, and by no other words', () => {
    expect(objectPlace()).toMatchObject({ bucket: BUCKET, prefix: 'school/', endpoint: url })
    for (const wrong of ['azalea', 'https://x/y', 's3://', 's3://UP/x']) {
      process.env.AZALEA_STORE = wrong
      expect(() => objectPlace()).toThrow('AZALEA_STORE')
    }
    process.env.AZALEA_STORE = ''
    expect(objectPlace()).toBeNull()
  })
})

describe('a store that is away', () => {
  const away = { status: 503, code: 'away', message: expect.stringMatching(/does not answer/) }
  beforeAll(() => {
    process.env.AZALEA_STORE = `s3://${BUCKET}/school/`
  })
  afterEach(() => {
    process.env.AZALEA_STORE_ENDPOINT = url
  })
  it('is told as that, whether nobody is there or it cannot', async () => {
    const ill = createServer((_, answer) => void answer.writeHead(503).end())
    await new Promise<void>((ready) => ill.listen(0, '127.0.0.1', ready))
    const at = `http://127.0.0.1:${(ill.address() as AddressInfo).port}`
    const bytes = randomBytes(1000)
    for (const endpoint of [at, 'http://127.0.0.1:1']) {
      process.env.AZALEA_STORE_ENDPOINT = endpoint
      const store = diskStore()
      await expect(store.size(hashOf(bytes))).rejects.toMatchObject(away)
      await expect(readAll(store.read(hashOf(bytes), 0, 9))).rejects.toMatchObject(away)
      await expect(store.remove(hashOf(bytes))).rejects.toMatchObject(away)
      const incoming = await store.receive(pieces(bytes))
      await expect(incoming.keep()).rejects.toMatchObject(away)
      await incoming.discard()
    }
    ill.close()
    expect(passing()).toEqual([])
  })
  it('is told as that where it takes a connection and says nothing', async () => {
    const mute = createServer(() => {})
    await new Promise<void>((ready) => mute.listen(0, '127.0.0.1', ready))
    process.env.AZALEA_STORE_ENDPOINT = `http://127.0.0.1:${(mute.address() as AddressInfo).port}`
    process.env.AZALEA_STORE_SILENCE = '0.2'
    await expect(diskStore().size(hashOf(randomBytes(9)))).rejects.toMatchObject(away)
    delete process.env.AZALEA_STORE_SILENCE
    mute.closeAllConnections()
    mute.close()
  })
  it('is not what a wrong key is told as', async () => {
    const strict = createServer((_, answer) => void answer.writeHead(403).end())
    await new Promise<void>((ready) => strict.listen(0, '127.0.0.1', ready))
    process.env.AZALEA_STORE_ENDPOINT = `http://127.0.0.1:${(strict.address() as AddressInfo).port}`
    await expect(diskStore().size(hashOf(randomBytes(9)))).rejects.not.toMatchObject({ code: 'away' })
    strict.close()
  })
})
