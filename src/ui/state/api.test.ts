import { afterEach, describe, expect, it, vi } from 'vitest'
import { PERSON_HEADER } from '@/core/formats/person-header'
import { emptyRoutine } from '@/core/routine'
import { fetchMoves, fetchNewer, fetchOwnCounts, fetchPresets, fetchRoutine, hasTrace } from './api'
import { fetchLessons, fetchLog, fetchTimings } from './api-log'
import { fetchCombinations, fetchShelf } from './api-shelf'
import { ApiError, request } from './ask-server'
import { askedIn, fetchPracticePage } from './fetch-made'
import { personHere } from './person'
import { openRoutineFile, restoreBackup, uploadSong } from './send-file'

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
  it('says in a school whose page asks, beside what else is said', async () => {
    const sent: unknown[] = []
    vi.stubGlobal('fetch', async (_: string, init?: RequestInit) => {
      sent.push(init?.headers)
      return Response.json({})
    })
    await request('/api/x')
    vi.stubGlobal('document', { documentElement: { dataset: { person: 'kim' } } })
    await request('/api/x')
    await request('/api/x', { method: 'PUT', headers: { 'content-type': 'a/b' } })
    expect(sent).toEqual([
      undefined,
      { [PERSON_HEADER]: 'kim' },
      { 'content-type': 'a/b', [PERSON_HEADER]: 'kim' },
    ])
    vi.stubGlobal('document', { documentElement: { dataset: {} } })
    expect(personHere()).toBe('')
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
  asked = ''
  open(method: string, url: string) {
    this.asked = `${method} ${url}`
  }
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
    expect(await refusal(broken.done)).toMatchObject({
      code: 'offline',
      message: expect.stringContaining('Nothing was kept'),
    })
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

describe('what is asked of the server', () => {
  /** Answers everything with this, and keeps what was asked. */
  const asking = (answer: unknown) => {
    const asked: string[] = []
    vi.stubGlobal('fetch', async (url: string) => {
      asked.push(url)
      return Response.json(answer)
    })
    return asked
  }
  it.each<[string, () => Promise<unknown>, unknown]>([
    ['/api/routines/r/repetitions', () => fetchLog('r'), []],
    ['/api/routines/r/lessons', () => fetchLessons('r'), []],
    ['/api/routines/r/timings', () => fetchTimings('r'), []],
    ['/api/voice/own', () => fetchOwnCounts(), [{ call: '1', wav: 'w', stressMs: 4 }]],
    ['/api/presets', () => fetchPresets(), []],
    [
      '/api/shelf?search=a+%26+b&order=title&from=40',
      () => fetchShelf('a & b', 'title', 40),
      { items: [], total: 0, all: 3, unreadable: [] },
    ],
  ])('%s', async (url, ask, answer) => {
    const asked = asking(answer)
    expect(await ask()).toEqual(answer)
    expect(asked).toEqual([url])
  })
  it('is whether it is known how a song sounds, and whether there is a later state', async () => {
    expect([asking({ there: true }), await hasTrace('s')]).toEqual([['/api/songs/s/trace'], true])
    asking({ there: false })
    expect(await hasTrace('s')).toBe(false)
    const asked = asking(null)
    expect(await fetchNewer('r', 7)).toBeNull()
    expect(asked).toEqual(['/api/routines/r?after=7'])
  })
  it('is a part of the shelf, and moves without a song', async () => {
    const asked: string[] = []
    vi.stubGlobal('fetch', async (url: string) => {
      asked.push(url)
      return Response.json(
        url.includes('shelf')
          ? { items: [], more: false, all: 0 }
          : { combinations: [{ id: 'c', title: 'Warm-up' }] },
      )
    })
    await fetchShelf('blue & green', 'name', 40).catch(() => {})
    expect(await fetchCombinations()).toEqual([{ id: 'c', title: 'Warm-up' }])
    expect(asked).toEqual(['/api/shelf?search=blue+%26+green&order=name&from=40', '/api/combinations'])
    answers(() => Response.json({ combinations: [{ id: 'c' }] }))
    await expect(fetchCombinations()).rejects.toThrow()
  })
  it('of a routine that this page cannot read is said as that', async () => {
    asking({ revision: 1, routine: { title: 7 } })
    expect(await refusal(fetchRoutine('r'))).toMatchObject({
      code: 'unreadable',
      message: expect.stringContaining('cannot be read by this page'),
    })
  })
  it('of a dance is its stretch and how it is shown, as an address can say it', () => {
    const contents = { stretch: { from: 0, to: 96 }, mirrored: true, role: '' } as never
    expect(String(askedIn(contents, { size: 'A4', wall: false }))).toBe(
      'from=0&to=96&mirrored=1&role=&size=A4&wall=0',
    )
  })
})

describe('a hand-out that is made', () => {
  const contents = { stretch: { from: 0, to: 96 } } as never
  const never = new AbortController().signal
  it('comes as it is', async () => {
    answers(() => new Response('<html>'))
    expect(await fetchPracticePage('r', contents, never)).toBe('<html>')
  })
  it('says why there is none, in the server’s words where it has some', async () => {
    const made = () => refusal(fetchPracticePage('r', contents, never))
    answers(() => Response.json({ error: { code: 'failed', message: 'Too long.' } }, { status: 422 }))
    expect((await made()).message).toBe('Too long.')
    answers(() => new Response('Bad gateway', { status: 502 }))
    expect((await made()).message).toContain('(502)')
    answers(() => Promise.reject(new TypeError('Failed to fetch')))
    expect(await made()).toMatchObject({ code: 'offline' })
    answers(() => Promise.reject(new DOMException('stopped', 'AbortError')))
    await expect(fetchPracticePage('r', contents, never)).rejects.toMatchObject({ name: 'AbortError' })
  })
})

describe('a file from elsewhere', () => {
  const file = new File(['{}'], 'Dance.azalea.json')
  const never = new AbortController().signal
  const opened = { id: 'r', title: 'Dance', said: [] }
  it('is opened as itself, or as another, on this song where its own is another copy', async () => {
    vi.stubGlobal('XMLHttpRequest', Upload)
    const plain = openRoutineFile(file, null, null, () => {}, never)
    expect(Upload.last.asked).toBe('PUT /api/routines/open?')
    expect(Upload.last.headers).toEqual({})
    Upload.last.ends(200, JSON.stringify(opened))
    expect(await plain).toEqual(opened)
    const takes = [{ from: 0, to: 1, at: 0, rate: 1, sure: 1 }]
    const other = openRoutineFile(file, 'new', { song: 's', takes }, () => {}, never)
    expect(Upload.last.asked).toBe('PUT /api/routines/open?as=new&on=s')
    expect(JSON.parse(Upload.last.headers['x-takes'] ?? '')).toEqual(takes)
    Upload.last.ends(500, 'broken')
    expect((await refusal(other)).message).toBe('The server answered with an error (500). Nothing was kept.')
  })
  it('is a backup that is taken over', async () => {
    vi.stubGlobal('XMLHttpRequest', Upload)
    const told: number[] = []
    const back = restoreBackup(file, (share) => told.push(share), never)
    expect(Upload.last.asked).toBe('PUT /api/backup')
    // How much there is may not be known.
    Upload.last.upload.onprogress?.({ total: 0, loaded: 9 })
    expect(told).toEqual([0])
    const restored = { songs: 1, routines: 2, log: 3, beside: [], damaged: 0 }
    Upload.last.ends(201, JSON.stringify(restored))
    expect(await back).toEqual(restored)
    // An answer that fits is none where it came with a refusal.
    const refused = restoreBackup(file, () => {}, never)
    Upload.last.ends(300, JSON.stringify(restored))
    expect((await refusal(refused)).code).toBe('failed')
  })
})
