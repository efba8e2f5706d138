import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { addFilm, type Film, type Routine } from '@/core/routine'
import { cuesOf, page } from '@/core/routine/hand.test-tools'
import { madeFilm } from '@/decode/film.test-tools'
import { NotDoneThere } from './afar'
import { Films } from './films'
import { newWindow } from './outbox.test-tools'
import { openRoutineStore, type RoutineStore } from './routine-store'

vi.mock('./outbox-window', async () => (await import('./outbox.test-tools')).windowOutbox)
const server = vi.hoisted(() => ({ lookAhead: vi.fn(), sendFilm: vi.fn(), lookAtSent: vi.fn() }))
vi.mock('./film-upload', () => server)
const song = vi.hoisted(() => ({ matchSong: vi.fn(), searchTakes: vi.fn() }))
vi.mock('./match', () => ({ matchSong: song.matchSong }))
vi.mock('./take-search', () => ({ searchTakes: song.searchTakes }))
const afar = vi.hoisted(() => ({ searchAfar: vi.fn(), isSearchedAfar: vi.fn(), leaveSearch: vi.fn() }))
vi.mock('./takes-afar', () => afar)
const phone = vi.hoisted(() => ({ isPhone: vi.fn(() => false) }))
vi.mock('./phone', () => phone)

const AT_FIRST = { revision: 0, madeBy: { writer: '', save: 0 } }
const TRACE = Uint8Array.of(1, 2)
const TAKE = { from: 2, to: 40, at: 0.5, rate: 1, sure: 1.2 }
let n = 0
let store: RoutineStore
let films: Films
let audio: ReturnType<typeof vi.fn>
const kept = (id: string, seconds = 60) => ({ id, fileName: `${id}.mp4`, seconds })
const file = (name: string) => new File(['film'], name, { lastModified: Date.UTC(2026, 4, 9) })
const there = () => store.getState().routine.films
const tasks = () => films.state.getState().tasks
const settled = () => vi.waitFor(() => expect(tasks()).toEqual([]))

beforeEach(() => {
  newWindow()
  vi.stubGlobal('fetch', async () => Response.json({ revision: 1 }))
  store = openRoutineStore(`films-${n++}`, page(4, cuesOf(['1 step R; 2 touch L'])), AT_FIRST)
  audio = vi.fn(async () => 'the song')
  films = new Films('the-dance', store, audio as never, false)
  server.lookAhead.mockReset().mockResolvedValue({ frameRate: 25, seconds: 60 })
  server.sendFilm.mockReset().mockResolvedValue(kept('film-one'))
  server.lookAtSent.mockReset().mockResolvedValue({ kept: kept('sent-one'), frameRate: 30 })
  song.matchSong.mockReset().mockResolvedValue({ trace: TRACE })
  song.searchTakes.mockReset().mockResolvedValue([TAKE])
})
afterEach(() => {
  films.close()
  vi.unstubAllGlobals()
})

describe('films of a dance', () => {
  it('are looked at, sent, chosen, and searched for the song', async () => {
    await films.add([file('Practice.mov')])
    expect(server.sendFilm.mock.calls[0]?.[1]).toMatchObject({ routine: 'the-dance' })
    expect(films.state.getState().chosen).toBe(there()[0]?.id)
    await settled()
    expect(song.searchTakes.mock.calls[0]?.slice(0, 2)).toEqual([expect.stringContaining('film-one'), TRACE])
    expect(there()).toMatchObject([
      {
        ...{
          file: 'film-one',
          name: 'Practice',
          filmed: '2026-05-09',
          seconds: 60,
          frameRate: 25,
          whose: '',
        },
        ...{ searched: true, takes: [{ from: 2, to: 40, at: 0.5, rate: 1, sure: 1, by: 'sound' }] },
      },
    ])
  })
  it('come one after the other, with how far they are; the song is worked out once for all', async () => {
    const told: unknown[] = []
    films.state.subscribe(({ tasks: t }) =>
      told.push(t.map(({ name, doing, share }) => [name, doing, share])),
    )
    server.sendFilm.mockImplementation(async (f: File, { progress }) => {
      progress(0.5)
      return kept(f.name.replace('.mp4', '-film-one'))
    })
    await films.add([file('a.mp4'), file('b.mp4')])
    await settled()
    expect(there().map((f) => f.file)).toEqual(['a-film-one', 'b-film-one'])
    expect(told).toContainEqual([['a.mp4', 'Sending', 0.5]])
    expect([audio, song.matchSong].map((f) => f.mock.calls.length)).toEqual([1, 1])
    expect(song.searchTakes).toHaveBeenCalledTimes(2)
  })
  it('that are none are told why, and put away; the next ones come in', async () => {
    server.lookAhead.mockRejectedValueOnce(new Error('That is no film.'))
    await films.add([file('notes.txt'), file('b.mp4')])
    await vi.waitFor(() => expect(tasks()).toHaveLength(1))
    expect(tasks()[0]).toMatchObject({ name: 'notes.txt', problem: 'That is no film.', share: null })
    expect(there()).toHaveLength(1)
    films.stop(tasks()[0]?.id as string)
    expect(tasks()).toEqual([])
  })
  it('of which one is stopped leave nothing in the dance', async () => {
    let signal: AbortSignal | undefined
    server.sendFilm.mockImplementation(
      (_: File, asked: { signal: AbortSignal }) =>
        new Promise((_done, failed) => {
          signal = asked.signal
          asked.signal.addEventListener('abort', () => failed(asked.signal.reason))
        }),
    )
    const adding = films.add([file('a.mp4')])
    await vi.waitFor(() => expect(signal).toBeDefined())
    films.stop(tasks()[0]?.id as string)
    await adding
    expect([tasks(), there(), signal?.aborted]).toEqual([[], [], true])
  })
  it('are searched again after the song could not be had, and not while they are gone', async () => {
    audio.mockRejectedValueOnce(new Error('No sound here.'))
    await films.add([file('a.mp4')])
    await vi.waitFor(() => expect(tasks()[0]?.problem).toBe('No sound here.'))
    expect(there()[0]).toMatchObject({ searched: false, takes: [] })
    await films.search(there()[0] as Film)
    expect(there()[0]).toMatchObject({ searched: true, takes: [{ at: 0.5 }] })
    const film = there()[0] as Film
    song.searchTakes.mockImplementation(async () => {
      store.getState().edit('take it out', (r: Routine) => ({ ...r, films: [] }))
      return [TAKE]
    })
    await films.search(film)
    expect([there(), tasks()]).toEqual([[], []])
  })
  it('a learner sent are theirs, and come once', async () => {
    expect(await films.takeSent('sent-one', 'Mia')).toBe(true)
    await settled()
    expect(there()).toMatchObject([{ file: 'sent-one', whose: 'Mia', name: 'Mia: sent-one', searched: true }])
    expect(await films.takeSent('sent-one', 'Mia')).toBe(true)
    expect(there()).toHaveLength(1)
    expect(server.lookAtSent).toHaveBeenCalledTimes(1)
    server.lookAtSent.mockRejectedValue(new Error('It is gone.'))
    expect(await films.takeSent('sent-two', 'Mia')).toBe(false)
    expect(tasks()[0]).toMatchObject({ name: 'Mia', problem: 'It is gone.' })
  })
  it('are refused where the dance may not be changed: nothing is chosen and nothing searched', async () => {
    store = openRoutineStore(`films-${n++}`, page(4), AT_FIRST, 'shared')
    films = new Films('the-dance', store, audio as never, false)
    await films.add([file('a.mp4')])
    expect(await films.takeSent('sent-one', 'Mia')).toBe(false)
    expect([there(), tasks(), films.state.getState().chosen]).toEqual([[], [], null])
    expect(song.searchTakes).not.toHaveBeenCalled()
  })
  it.each([
    ['video/webm;codecs=vp8', 'webm', 'video/webm'],
    ['video/mp4', 'mp4', 'video/mp4'],
  ])(
    'are kept of what the camera saw as %s: with its length, without sound, placed as danced',
    async (type, end, as) => {
      server.lookAhead.mockResolvedValue({ frameRate: 30, seconds: 2 })
      const bytes = await madeFilm({ seconds: 2, format: end as 'webm' })
      const seen = new Blob([bytes], { type })
      expect(await films.keepSeen(seen, 'Rep 3', { at: 12, speed: 0.75 })).toBe(true)
      const [sent, options] = server.sendFilm.mock.calls[0] as [File, object]
      expect([sent.name, sent.type, sent.size > 0]).toEqual([`Rep 3.${end}`, as, true])
      expect(options).toMatchObject({ silent: true, routine: 'the-dance' })
      expect(there()).toMatchObject([
        {
          ...{ name: 'Rep 3', mirrored: false, searched: true },
          takes: [{ from: 0, to: 2, at: 12, rate: 0.75, sure: 1, by: 'hand' }],
        },
      ])
      expect(tasks()).toEqual([])
      expect(await films.keepSeen(new Blob(['nothing'], { type }), 'Rep 4', { at: 0, speed: 1 })).toBe(false)
      expect(tasks()[0]?.problem).not.toBe('')
    },
  )
  it('stop with the dance that is left', async () => {
    store.getState().edit('add', (r) => addFilm(r, { ...FILM, id: 'x' }))
    let signal: AbortSignal | undefined
    song.searchTakes.mockImplementation((_u, _s, _p, s: AbortSignal) => {
      signal = s
      return new Promise((_done, failed) => s.addEventListener('abort', () => failed(s.reason)))
    })
    const searching = films.search(FILM)
    await vi.waitFor(() => expect(signal).toBeDefined())
    films.close()
    await searching
    expect([signal?.aborted, tasks()]).toEqual([true, []])
  })
})

const FILM: Film = {
  ...{
    id: 'x',
    file: 'film-one',
    name: 'Film',
    whose: '',
    side: 'front',
    mirrored: false,
    filmed: '2026-05-09',
  },
  ...{ seconds: 60, frameRate: 25, searched: false, takes: [], notes: [] },
}

describe('films in a school', () => {
  const FOUND = [{ ...TAKE, sure: 0.8 }]
  const sources = () => there().map((f) => f.takes.map((t) => [t.sure, t.by]))
  beforeEach(() => {
    films = new Films('the-dance', store, audio as never, true)
    phone.isPhone.mockReset().mockReturnValue(false)
    afar.searchAfar.mockReset().mockResolvedValue(FOUND)
    afar.isSearchedAfar.mockReset().mockResolvedValue(false)
    afar.leaveSearch.mockReset()
  })

  it('are searched by the server for a phone, and by a desk itself', async () => {
    phone.isPhone.mockReturnValue(true)
    await films.add([file('a.mp4')])
    await settled()
    expect(afar.searchAfar.mock.calls[0]?.[0]).toEqual({ routine: 'the-dance', file: 'film-one' })
    expect([audio, song.matchSong, song.searchTakes].every((f) => f.mock.calls.length === 0)).toBe(true)
    expect(sources()).toEqual([[[0.8, 'sound']]])
    phone.isPhone.mockReturnValue(false)
    await films.search(there()[0] as Film)
    expect(song.searchTakes).toHaveBeenCalledOnce()
    expect(afar.searchAfar).toHaveBeenCalledOnce()
  })
  it('in which the server looked already, as in those of learners, are not searched once more', async () => {
    afar.isSearchedAfar.mockResolvedValue(true)
    expect(await films.takeSent('sent-one', 'Mia')).toBe(true)
    await settled()
    expect(afar.isSearchedAfar).toHaveBeenCalledExactlyOnceWith({ routine: 'the-dance', file: 'sent-one' })
    expect([song.searchTakes.mock.calls.length, sources()]).toEqual([0, [[[0.8, 'sound']]]])
  })
  it('that the server cannot hear the phone searches; what a desk cannot hear the server does', async () => {
    phone.isPhone.mockReturnValue(true)
    afar.searchAfar.mockRejectedValueOnce(new NotDoneThere('Not there.'))
    await films.add([file('a.mp4')])
    await settled()
    expect(song.searchTakes).toHaveBeenCalledOnce()
    phone.isPhone.mockReturnValue(false)
    song.searchTakes.mockRejectedValue(new Error('This browser cannot hear it.'))
    await films.search(there()[0] as Film)
    expect([tasks(), sources()]).toEqual([[], [[[0.8, 'sound']]]])
    // Where neither can, it says why the device could not.
    afar.searchAfar.mockRejectedValue(new NotDoneThere('Not there.'))
    await films.search(there()[0] as Film)
    expect(tasks()[0]?.problem).toBe('This browser cannot hear it.')
  })
  it('whose search fails otherwise say why, and are not searched twice', async () => {
    phone.isPhone.mockReturnValue(true)
    afar.searchAfar.mockRejectedValue(new Error('Signed out.'))
    await films.add([file('a.mp4')])
    await vi.waitFor(() => expect(tasks()[0]?.problem).toBe('Signed out.'))
    expect(song.searchTakes).not.toHaveBeenCalled()
  })
  it('tell what the server does, wait until the film is saved, and are taken back where they are stopped', async () => {
    phone.isPhone.mockReturnValue(true)
    const asks: Asked[] = []
    afar.searchAfar.mockImplementation(
      (_film, mayCome, tell, signal) =>
        new Promise((_done, failed) => {
          asks.push({ mayCome, tell, signal })
          signal.addEventListener('abort', () => failed(signal.reason))
        }),
    )
    await films.add([file('a.mp4')])
    await vi.waitFor(() => expect(asks).toHaveLength(1))
    const { mayCome, tell, signal } = asks[0] as Asked
    expect(mayCome()).toBe(store.getState().pending)
    tell(0.4, 'The server looks for the song')
    expect(tasks()[0]).toMatchObject({ doing: 'The server looks for the song', share: 0.4 })
    tell(0.6)
    expect(tasks()[0]).toMatchObject({ doing: 'Looking for the song', share: 0.6 })
    films.stop(tasks()[0]?.id as string)
    expect([signal.aborted, tasks()]).toEqual([true, []])
    expect(afar.leaveSearch).toHaveBeenCalledExactlyOnceWith({ routine: 'the-dance', file: 'film-one' })
    // Where the page is left the server goes on.
    void films.search(there()[0] as Film)
    await vi.waitFor(() => expect(tasks()).toHaveLength(1))
    films.close()
    expect(afar.leaveSearch).toHaveBeenCalledOnce()
  })
  it('are gone on with where the server was asked before the page was left', async () => {
    const [asked, done] = ['film-one', 'film-two'].map((f) => kept(f))
    for (const k of [asked, done, kept('film-three')])
      store.getState().edit('add a film', (r) => addFilm(r, filmNamed(k?.id as string)))
    store.getState().edit('find', (r) => ({
      ...r,
      films: r.films.map((f) => (f.file === 'film-two' ? { ...f, searched: true } : f)),
    }))
    afar.isSearchedAfar.mockImplementation(async ({ file: f }) => f !== 'film-three')
    await films.resume()
    await settled()
    expect(afar.searchAfar.mock.calls.map(([f]) => f.file)).toEqual(['film-one'])
    expect(there().map((f) => [f.file, f.searched])).toEqual([
      ['film-one', true],
      ['film-two', true],
      ['film-three', false],
    ])
    films = new Films('the-dance', store, audio as never, false)
    afar.isSearchedAfar.mockClear()
    await films.resume()
    expect(afar.isSearchedAfar).not.toHaveBeenCalled()
  })
})

interface Asked {
  mayCome: () => boolean
  tell: (share: number | null, doing?: string) => void
  signal: AbortSignal
}

const filmNamed = (id: string): Film => ({
  ...{ id, file: id, name: id, whose: '', side: 'front', mirrored: false, filmed: '2026-05-09' },
  ...{ seconds: 60, frameRate: 25, searched: false, takes: [], notes: [] },
})
