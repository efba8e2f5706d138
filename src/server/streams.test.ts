import { readdirSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { Readable } from 'node:stream'
import { describe, expect, it } from 'vitest'
import { loopTrack } from '../../e2e/sounds'
import { makeBackup } from './backup'
import { ownData } from './own-data.test-tools'
import { dataDirectory } from './settings'
import { takeIn } from './songs'
import { answerOf, withBodyFile } from './streams'

ownData()
const left = (what: string) =>
  readdirSync(path.join(dataDirectory(), 'passing'))
    .filter((n) => n.endsWith(what))
    .sort()

describe('a stream as an answer', () => {
  it('is read to its end, and what was made for it is let go once', async () => {
    let done = 0
    const body = answerOf(Readable.from([Buffer.from('one '), Buffer.from('two')]), async () => {
      done++
    })
    expect(await new Response(body).text()).toBe('one two')
    expect(done).toBe(1)
  })
  it('a backup nobody reads on leaves nothing behind', async () => {
    async function* bytes() {
      yield loopTrack(97, 20)
    }
    await takeIn(bytes(), 'Left.wav')
    const before = left('.backup')
    const { stream, close } = await makeBackup()
    expect(left('.backup').length).toBe(before.length + 1)
    const reader = answerOf(stream, close).getReader()
    expect((await reader.read()).value?.length).toBeGreaterThan(0)
    await reader.cancel()
    expect(left('.backup')).toEqual(before)
  })
})

describe('the body of a request as a file', () => {
  const request = (...parts: string[]) =>
    new Request('http://localhost/', {
      method: 'PUT',
      body: Readable.toWeb(Readable.from(parts.map((p) => Buffer.from(p)))) as never,
      duplex: 'half',
    } as RequestInit)
  const own = () => left('.part')
  it('is there while it is worked with, and gone afterwards', async () => {
    const before = own()
    const text = await withBodyFile(request('one ', 'two'), 100, (file) => readFile(file, 'utf8'))
    expect(text).toBe('one two')
    await expect(withBodyFile(request('x'), 100, () => Promise.reject(new Error('no')))).rejects.toThrow('no')
    expect(own()).toEqual(before)
  })
  it('is refused while it comes where it is too large, and where there is none', async () => {
    const before = own()
    const large = withBodyFile(request('0123456789', '0123456789'), 15, async () => 'never')
    await expect(large).rejects.toMatchObject({ status: 413 })
    const none = withBodyFile(new Request('http://localhost/', { method: 'PUT' }), 15, async () => 'never')
    await expect(none).rejects.toMatchObject({ status: 415 })
    expect(own()).toEqual(before)
  })
})
