import { afterEach, describe, expect, it, vi } from 'vitest'
import { emptyRoutine } from '@/core/routine'
import { ApiError, fetchLog, fetchMoves, fetchRoutine, uploadSong } from './api'

afterEach(() => vi.unstubAllGlobals())

const answers = (response: () => Response | Promise<Response>) =>
  vi.stubGlobal('fetch', async () => response())
const refusal = async (asked: Promise<unknown>) => {
  const error = await asked.then(
    () => null,
    (e: unknown) => e,
  )
  if (!(error instanceof ApiError)) throw new Error(`no refusal: ${error}`)
  return error
}

describe('what the server answers', () => {
  it('is handed on where it has the shape that was asked for', async () => {
    answers(() => Response.json({ revision: 8, routine: emptyRoutine('Song') }))
    expect((await fetchRoutine('r')).revision).toBe(8)
  })
  it('is refused in words where it has another', async () => {
    answers(() => Response.json([{ id: 'a', doneAt: 'yesterday' }]))
    expect(await refusal(fetchLog('r'))).toMatchObject({
      code: 'unreadable',
      message: expect.stringContaining('Load the page again'),
    })
    answers(() => new Response('<html>', { status: 200 }))
    expect((await refusal(fetchMoves())).code).toBe('unreadable')
  })
  it('says in its own words, or by its number, why it refuses', async () => {
    const own = { error: { code: 'conflict', message: 'It was changed in another window.' } }
    answers(() => Response.json(own, { status: 409 }))
    expect(await refusal(fetchMoves())).toMatchObject({ code: 'conflict', message: own.error.message })
    answers(() => new Response('Bad gateway', { status: 502 }))
    expect(await refusal(fetchMoves())).toMatchObject({
      code: 'unanswered',
      message: expect.stringContaining('502'),
    })
  })
  it('is told from no answer at all', async () => {
    answers(() => Promise.reject(new TypeError('Failed to fetch')))
    expect(await refusal(fetchMoves())).toMatchObject({
      code: 'offline',
      message: expect.stringContaining('stays in this window'),
    })
  })
})

/** A request whose fate the test decides. */
class Upload {
  static last: Upload
  upload: { onprogress?: (e: { total: number; loaded: number }) => void } = {}
  headers: Record<string, string> = {}
  status = 0
  responseText = ''
  onload = () => {}
  onerror = () => {}
  onabort = () => {}
  constructor() {
    Upload.last = this
  }
  open() {}
  send() {}
  setRequestHeader(name: string, value: string) {
    this.headers[name] = value
  }
  abort() {
    this.onabort()
  }
  ends(status: number, text: string) {
    this.status = status
    this.responseText = text
    this.onload()
  }
}

describe('the upload of a song', () => {
  const begin = (name = 'Song.mp3') => {
    vi.stubGlobal('XMLHttpRequest', Upload)
    const shares: number[] = []
    const stop = new AbortController()
    const done = uploadSong(new File(['x'], name), (share) => shares.push(share), stop.signal)
    return { done, shares, stop, request: Upload.last }
  }
  it('tells how far it is, and what became of it', async () => {
    const { done, shares, request } = begin()
    request.upload.onprogress?.({ total: 4, loaded: 1 })
    request.upload.onprogress?.({ total: 4, loaded: 4 })
    const taken = { songId: 's', fresh: true, routines: [{ id: 'r', title: 'Song' }] }
    request.ends(200, JSON.stringify(taken))
    expect([await done, shares]).toEqual([taken, [0.25, 1]])
  })
  it('says what went wrong: refused, broken off, stopped, or answered by something else', async () => {
    const refused = begin()
    refused.request.ends(415, JSON.stringify({ error: { code: 'audio', message: 'This is no sound file.' } }))
    expect(await refusal(refused.done)).toMatchObject({ code: 'audio', message: 'This is no sound file.' })
    const broken = begin()
    broken.request.onerror()
    expect((await refusal(broken.done)).code).toBe('offline')
    const stopped = begin()
    stopped.stop.abort()
    await expect(stopped.done).rejects.toMatchObject({ name: 'AbortError' })
    const strange = begin()
    strange.request.ends(200, '<html>')
    expect((await refusal(strange.done)).code).toBe('failed')
  })
  it('asks a busy server again by itself, until it is stopped', async () => {
    vi.useFakeTimers()
    const busy = () =>
      Upload.last.ends(503, JSON.stringify({ error: { code: 'busy', message: 'Too many.' } }))
    const { done, stop, request } = begin()
    busy()
    await vi.advanceTimersByTimeAsync(1000)
    const second = Upload.last
    expect(second).not.toBe(request)
    busy()
    await vi.advanceTimersByTimeAsync(2000)
    Upload.last.ends(200, JSON.stringify({ songId: 's', fresh: true, routines: [] }))
    expect((await done).songId).toBe('s')
    const other = begin()
    busy()
    await vi.advanceTimersByTimeAsync(10)
    other.stop.abort()
    await expect(other.done).rejects.toMatchObject({ name: 'AbortError' })
    expect(stop.signal.aborted).toBe(false)
    vi.useRealTimers()
  })
  it('takes names of any characters, and of any length', () => {
    for (const name of ['Größe ♪.mp3', `${'a'.repeat(299)}😀😀.mp3`, 'half \uD83D.mp3', '%zz.mp3']) {
      const sent = decodeURIComponent(begin(name).request.headers['x-file-name'] ?? '')
      expect([...sent].length).toBeLessThanOrEqual(300)
      expect(sent.slice(0, 4)).toBe(name.slice(0, 4))
    }
  })
})
