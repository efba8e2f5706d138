import { afterEach, describe, expect, it, vi } from 'vitest'
import { base64Of } from '@/core/formats/base64'
import { HEARING_VERSION, packPeaks } from '@/core/hear'
import { listen } from '@/core/hear/listen'
import { drumLoop } from '../../../e2e/sounds'
import { NotDoneThere } from './afar'
import { fetchHeard, hearAfar, leaveHearing } from './hear-afar'

const RATE = 8000
const { hearing, peaks } = listen(drumLoop(120, 8, 0.5, RATE), RATE)
const done = { state: { kind: 'done' }, heard: { hearing, peaks: base64Of(packPeaks(peaks)) } }
const state = (of: object) => ({ state: of, heard: null })
const AWAY = 'away'
const refused = (code: string, message: string) => ({ error: { code, message } })

/** A server that gives these answers, one after another. */
function answers(...list: (object | typeof AWAY)[]) {
  const asked: string[] = []
  vi.stubGlobal('fetch', async (url: string, init?: RequestInit) => {
    // A program that asks without end is told to stop: it would fill the memory of the machine.
    const answer =
      asked.length > 50
        ? refused('endless', 'Asked without end.')
        : list[Math.min(asked.length, list.length - 1)]
    asked.push(`${init?.method ?? 'GET'} ${url}`)
    init?.signal?.throwIfAborted()
    if (answer === AWAY || !answer) throw new TypeError('no network')
    return Response.json(answer, { status: 'error' in answer ? 422 : 200 })
  })
  return asked
}
const heardBy = async (told: [number | null, string?][] = [], signal = new AbortController().signal) =>
  hearAfar('s', (...now) => told.push(now), signal, 0)
afterEach(() => vi.unstubAllGlobals())

describe('a song a server hears', () => {
  it('is asked for once, and asked about until it is heard; how far it is is told', async () => {
    const asked = answers(
      state({ kind: 'waiting', before: 2 }),
      state({ kind: 'waiting', before: 0 }),
      state({ kind: 'working', share: 0.5 }),
      done,
    )
    const told: [number | null, string?][] = []
    const heard = await heardBy(told)
    expect(heard.hearing).toEqual(hearing)
    expect(heard.hearing.version).toBe(HEARING_VERSION)
    expect(asked).toEqual(['POST', 'GET', 'GET', 'GET'].map((m) => `${m} /api/songs/s/hear`))
    expect(told).toEqual([
      [null, 'Asking the server to listen'],
      [null, 'The server listens soon: 2 before this one'],
      [null, 'The server listens soon'],
      [0.5, 'The server listens'],
    ])
  })

  it('is heard over a network that comes and goes', async () => {
    const asked = answers(AWAY, state({ kind: 'working', share: 0.1 }), AWAY, refused('busy', 'Busy.'), done)
    const told: [number | null, string?][] = []
    expect((await heardBy(told)).hearing).toEqual(hearing)
    // Asked for until that arrived, asked about afterwards.
    expect(asked.map((a) => a.split(' ')[0])).toEqual(['POST', 'POST', 'GET', 'GET', 'GET'])
    expect(told[1]).toEqual([null, 'The server does not answer; it is asked again'])
  })

  it('is asked for anew where somebody took it back', async () => {
    const asked = answers(state({ kind: 'waiting', before: 0 }), state({ kind: 'none' }), done)
    await heardBy()
    expect(asked.map((a) => a.split(' ')[0])).toEqual(['POST', 'GET', 'POST'])
  })

  it('is left to the device where the server cannot, and not where nobody is signed in', async () => {
    answers(refused('unread', 'Not of this kind.'))
    await expect(heardBy()).rejects.toThrow(new NotDoneThere('Not of this kind.'))
    answers(state({ kind: 'failed', why: 'It broke.' }))
    await expect(heardBy()).rejects.toBeInstanceOf(NotDoneThere)
    // A server of the version before knows of no such thing.
    answers(refused('missing', 'That page is not here.'))
    await expect(heardBy()).rejects.toBeInstanceOf(NotDoneThere)
    answers(refused('signed-out', 'You are signed out.'))
    const out = heardBy()
    await expect(out).rejects.toThrow('You are signed out.')
    await expect(out).rejects.not.toBeInstanceOf(NotDoneThere)
  })

  it('is asked about no more once it is stopped', async () => {
    const stop = new AbortController()
    const asked = answers(state({ kind: 'working', share: 0 }))
    const gone = AbortSignal.abort()
    // What is asked for arrives, also where the page was left at once.
    await expect(heardBy([], gone)).rejects.toMatchObject({ name: 'AbortError' })
    expect(asked.splice(0)).toEqual(['POST /api/songs/s/hear'])
    const hearing = hearAfar(
      's',
      (_, what) => what === 'The server listens' && stop.abort(),
      stop.signal,
      60_000,
    )
    await expect(hearing).rejects.toMatchObject({ name: 'AbortError' })
    expect(asked).toHaveLength(1)
    leaveHearing('s')
    await vi.waitFor(() => expect(asked.at(-1)).toBe('DELETE /api/songs/s/hear'))
  })
})

it('is asked for to its end where the page is left; what is asked about it then is not', async () => {
  const signals: (AbortSignal | null | undefined)[] = []
  vi.stubGlobal('fetch', async (_: string, init: RequestInit) => {
    signals.push(init.signal)
    return Response.json(signals.length < 2 ? state({ kind: 'waiting', before: 0 }) : done)
  })
  const { signal } = new AbortController()
  await heardBy([], signal)
  expect(signals).toEqual([undefined, signal])
})

it('what was heard by now is there or not', async () => {
  answers({ heard: null }, { heard: done.heard })
  expect(await fetchHeard('s')).toBeNull()
  expect((await fetchHeard('s'))?.hearing).toEqual(hearing)
  answers({ heard: { hearing: {}, peaks: '' } })
  await expect(fetchHeard('s')).rejects.toThrow()
})
