import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { lookAhead, lookAtSent, sendFilm } from './film-upload'

interface Options {
  headers: Record<string, string>
  metadata: Record<string, string>
  onProgress: (bytes: number, all: number | null) => void
  onSuccess: () => void
  onError: (error: Error) => void
}
/** What the library of uploads was told, and what it does when it is started. */
const tus = vi.hoisted(() => ({
  previous: [] as { uploadUrl?: string }[],
  resumed: [] as unknown[],
  aborted: 0,
  start: (_: unknown) => {},
  options: null as unknown,
}))
vi.mock('tus-js-client', () => ({
  Upload: class {
    constructor(
      readonly file: File,
      readonly options: Options,
    ) {
      tus.options = options
    }
    findPreviousUploads = async () => tus.previous
    resumeFromPreviousUpload = (previous: unknown) => tus.resumed.push(previous)
    abort = async () => {
      tus.aborted++
    }
    start = () => tus.start(this.options)
  },
}))
const seen = vi.hoisted(() => ({
  look: { frameRate: 25 } as unknown,
  unseen: null as { what: 'picture' | 'sound'; codec: string } | null,
}))
vi.mock('@/decode/film', async (original) => ({
  ...(await original<typeof import('@/decode/film')>()),
  lookAtFilm: async () => seen.look,
  unseenIn: async () => seen.unseen,
}))

const film = new File(['pictures'], 'Tuesday.mp4')
const KEPT = { fileName: 'Tuesday.mp4', bytes: 8, seconds: 3, width: 16, height: 9 }
let asked: string[] = []
/** A server that knows the films of these ids, and takes in what is sent. */
function serverWith(...ids: string[]) {
  asked = []
  vi.stubGlobal('fetch', async (url: string, init?: RequestInit) => {
    asked.push(`${init?.method ?? 'GET'} ${url}`)
    const id = /films\/([^?]+)/.exec(url)?.[1] ?? ''
    const known = init?.method === 'POST' || ids.includes(id)
    if (known) return Response.json({ id, ...KEPT })
    return Response.json({ error: { code: 'missing', message: 'It is not here.' } }, { status: 404 })
  })
}
const done = (o: unknown) => (o as Options).onSuccess()
const send = (more: Partial<Parameters<typeof sendFilm>[1]> = {}) =>
  sendFilm(film, { progress: () => {}, signal: new AbortController().signal, routine: 'r1', ...more })
const metadata = () => (tus.options as Options).metadata

beforeEach(() => {
  Object.assign(tus, { previous: [], resumed: [], aborted: 0, start: done, options: null })
  Object.assign(seen, { look: { frameRate: 25 }, unseen: null })
  serverWith()
})
afterEach(() => vi.unstubAllGlobals())

describe('a film that is sent', () => {
  it('is begun under an id of its own, and taken in for its routine once it is there', async () => {
    const shares: number[] = []
    tus.start = (o) => {
      ;(o as Options).onProgress(2, 8)
      ;(o as Options).onProgress(8, null)
      done(o)
    }
    const kept = await send({ progress: (share) => shares.push(share) })
    expect(metadata().id).toMatch(/^[\w-]{21}$/)
    expect(metadata()).toEqual({ id: metadata().id, filename: 'Tuesday.mp4' })
    expect(asked).toEqual([`POST /api/films/${metadata().id}?routine=r1`])
    expect(kept).toEqual({ id: metadata().id, ...KEPT })
    expect(shares).toEqual([0.25, 1])
    await send({ silent: true })
    expect(metadata().silent).toBe('yes')
  })
  it('goes on where it was, under the same id', async () => {
    tus.previous = [{ uploadUrl: 'http://here/api/films/incoming/before' }]
    const kept = await send()
    expect(tus.resumed).toEqual(tus.previous)
    expect(kept.id).toBe('before')
    expect(asked).toEqual(['GET /api/films/before', 'POST /api/films/before?routine=r1'])
  })
  it('is not sent again where it came in and only the answer was lost', async () => {
    tus.previous = [{ uploadUrl: 'http://here/api/films/incoming/whole' }]
    serverWith('whole')
    tus.start = () => expect.unreachable()
    expect((await send()).id).toBe('whole')
    expect(asked).toEqual(['GET /api/films/whole'])
  })
  it('is begun anew where the one before has no address', async () => {
    tus.previous = [{}]
    await send()
    expect(tus.resumed).toEqual([])
  })
  it('says why it was not taken, in the server’s words where it has some', async () => {
    const fails = (originalResponse?: object) => {
      tus.start = (o) =>
        (o as Options).onError(Object.assign(new Error('x'), originalResponse && { originalResponse }))
    }
    const answer = (text: string) => ({ getBody: () => text })
    fails()
    await expect(send()).rejects.toMatchObject({ code: 'offline', message: /^The film is not here whole/ })
    fails(answer('{"error":{"code":"full","message":"The disk is full."}}'))
    await expect(send()).rejects.toMatchObject({ code: 'full', message: 'The disk is full.' })
    for (const text of ['<html>', '{}', '']) {
      fails(answer(text))
      await expect(send()).rejects.toMatchObject({ code: 'upload', message: /could not be sent/ })
    }
  })
  it('is let go of when it is stopped, before it is begun or later', async () => {
    const stop = new AbortController()
    tus.start = () => stop.abort()
    await expect(send({ signal: stop.signal })).rejects.toMatchObject({ name: 'AbortError' })
    expect(tus.aborted).toBe(1)
    tus.start = () => expect.unreachable()
    await expect(send({ signal: AbortSignal.abort() })).rejects.toMatchObject({ name: 'AbortError' })
    expect(asked).toEqual([])
  })
})

describe('a film that is looked at before any of it is sent', () => {
  it('is told what is wrong with it', async () => {
    expect(await lookAhead(film)).toEqual({ frameRate: 25 })
    seen.unseen = { what: 'picture', codec: 'H.265 (HEVC)' }
    await expect(lookAhead(film)).rejects.toThrow(/cannot show “Tuesday.mp4”: its picture is H.265/)
    seen.unseen = { what: 'sound', codec: 'AC-3' }
    await expect(lookAhead(film)).rejects.toThrow(/cannot hear “Tuesday.mp4”: its sound is AC-3/)
    seen.look = 'no picture'
    await expect(lookAhead(film)).rejects.toThrow('There is no picture in “Tuesday.mp4”. Nothing was sent.')
  })
  it('is looked at on the server too, where it came from elsewhere', async () => {
    vi.stubGlobal('location', { href: 'http://here/r/1/log' })
    serverWith('theirs')
    expect(await lookAtSent('theirs')).toEqual({ kept: { id: 'theirs', ...KEPT }, frameRate: 25 })
    seen.look = 'broken'
    await expect(lookAtSent('theirs')).rejects.toThrow(/“Tuesday.mp4” is broken.*It was not taken in/)
    await expect(lookAtSent('gone')).rejects.toThrow('It is not here.')
  })
})
