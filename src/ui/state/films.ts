'use client'

import { nanoid } from 'nanoid'
import { createContext, useContext } from 'react'
import { createStore, useStore } from 'zustand'
import { FILM_DESK, type FilmDesk, type FilmEvent, filmStep } from '@/core/film'
import { said } from '@/core/formats/said'
import type { Take } from '@/core/match'
import { addFilm, cutText, type Film, foundTakes, LIMITS } from '@/core/routine'
import { type Hearer, hearerOf } from '@/core/station'
import { NotDoneThere } from './afar'
import { ApiError } from './ask-server'
import { type FilmFile, filmUrl } from './film-file'
import { matchSong } from './match'
import { isPhone } from './phone'
import type { RoutineStore } from './routine-store'
import { Stills } from './stills'
import { searchTakes } from './take-search'
import { isSearchedAfar, leaveSearch, searchAfar } from './takes-afar'

/** A film on its way: being looked at, sent, or searched for takes. */
export interface FilmTask {
  id: string
  name: string
  doing: string
  /** Null where nobody knows. */
  share: number | null
  /** Why it did not work. */
  problem: string
}

interface FilmsState extends FilmDesk {
  tasks: readonly FilmTask[]
}

type TellTask = (doing: string, share: number | null) => void

const LOOKING = 'Looking for the song'

/** Width of a still in a strip, in pixels: sharp at 110 on a fine screen. */
const STILL = 220

/** What reads films and sends them is a third as large as a page: it comes when there is a film. */
const sending = () =>
  import('./film-upload').catch(() => {
    throw new ApiError(
      'Azalea’s server does not answer, so the film was not looked at and nothing was sent. Start it again, then try once more; where that does not help, load the page again.',
      'offline',
    )
  })

const today = (file: Pick<File, 'lastModified'>): string =>
  new Date(file.lastModified || Date.now()).toISOString().slice(0, 10)

/** The films of the open routine: how they come in, the search for takes in them, their stills. */
export class Films {
  readonly state = createStore<FilmsState>(() => ({ tasks: [], ...FILM_DESK }))
  readonly stills = new Stills(STILL)
  private readonly stops = new Map<string, AbortController>()
  /** What takes back what the server was asked for, by task. */
  private readonly takeBacks = new Map<string, () => void>()
  private trace: Promise<Uint8Array> | null = null
  private leaving = new AbortController()

  constructor(
    private readonly id: string,
    private readonly routine: RoutineStore,
    private readonly audio: () => Promise<AudioBuffer>,
    /** A school's server, which may be asked to look for the song. */
    private readonly served: boolean,
  ) {}

  /** What somebody does with the film that is shown. */
  send(event: FilmEvent): void {
    this.state.setState((s) => filmStep(s, event))
  }

  /** Takes films in one after another; what is none is told why. */
  async add(files: readonly File[]): Promise<void> {
    for (const file of files) await this.addOne(file)
  }

  private async addOne(file: File): Promise<void> {
    await this.run(nanoid(), file.name, 'Looking at it', async (task, signal) => {
      const { lookAhead, sendFilm } = await sending()
      const { frameRate } = await lookAhead(file)
      task('Sending', 0)
      const kept = await sendFilm(file, {
        ...{ progress: (share) => task('Sending', share), signal, routine: this.id },
      })
      const film = filmOf(kept, file, frameRate)
      if (!this.routine.getState().edit('add a film', (r) => addFilm(r, film))) return
      this.send({ kind: 'choose', film: film.id })
      this.search(film)
    })
  }

  /** Takes a film that is on the server already into the dance, as whose it is. @returns whether it is there now */
  async takeSent(id: string, whose: string): Promise<boolean> {
    let taken = this.routine.getState().routine.films.some((f) => f.file === id)
    if (taken) return true
    await this.run(`sent ${id}`, whose, 'Looking at it', async () => {
      const { kept, frameRate } = await (await sending()).lookAtSent(id)
      const name = cutText(`${whose}: ${kept.fileName.replace(/\.[^.]*$/, '')}`, LIMITS.text)
      const film = { ...filmOf(kept, { name, lastModified: Date.now() }, frameRate), name, whose }
      taken = this.routine.getState().edit('add a film', (r) => addFilm(r, film))
      if (taken) this.search(film)
    })
    return taken
  }

  /**
   * Keeps a repetition the floor's camera saw as a film of the dance.
   * @param danced how fast, and the time of the song in its first picture
   */
  async keepSeen(seen: Blob, label: string, danced: { at: number; speed: number }): Promise<boolean> {
    let kept = false
    await this.run(nanoid(), label, 'Keeping it', async (_, signal) => {
      const { lookAhead, sendFilm } = await sending()
      const file = await filmFile(seen, label)
      const { frameRate, seconds } = await lookAhead(file, true)
      const sent = await sendFilm(file, { progress: () => {}, signal, routine: this.id, silent: true })
      const take = { from: 0, to: seconds, at: danced.at, rate: danced.speed, sure: 1, by: 'hand' as const }
      const film = {
        ...filmOf(sent, file, frameRate),
        name: label,
        mirrored: false,
        searched: true,
        takes: [take],
      }
      kept = this.routine.getState().edit('keep what the camera saw', (r) => addFilm(r, film))
    })
    return kept
  }

  /** Looks for the song in a film; takes placed by hand stay. */
  async search(
    { id, file, name }: Pick<Film, 'id' | 'file' | 'name'>,
    wanted: Hearer | null = null,
  ): Promise<void> {
    const key = `search ${id}`
    await this.run(key, name, LOOKING, async (task, signal) => {
      const by = hearerOf({ served: this.served, own: true, phone: isPhone(), wanted })
      // What the server is at, or has found, is not looked for once more.
      const afar =
        by === 'server' || (this.served && !wanted && (await isSearchedAfar({ routine: this.id, file })))
      const here = () => this.takesHere(file, task, signal)
      const there = () => this.takesThere(key, file, task, signal)
      const takes = await (afar
        ? there().catch((error: unknown) => {
            if (!(error instanceof NotDoneThere)) throw error
            return here()
          })
        : here().catch((error: unknown) => {
            // What this browser cannot hear a school's server may.
            if (!this.served || signal.aborted) throw error
            return there().catch(() => Promise.reject(error))
          }))
      if (!this.routine.getState().routine.films.some((f) => f.id === id)) return
      this.routine.getState().edit('find the song in a film', (r) =>
        foundTakes(
          r,
          id,
          takes.map((t) => ({ ...t, sure: Math.min(1, Math.max(0, t.sure)), by: 'sound' as const })),
        ),
      )
    })
  }

  private async takesHere(file: string, task: TellTask, signal: AbortSignal): Promise<readonly Take[]> {
    const song = await this.songTrace()
    signal.throwIfAborted()
    return searchTakes(filmUrl(file), song, (share) => task(LOOKING, share), signal)
  }

  private async takesThere(
    key: string,
    file: string,
    task: TellTask,
    signal: AbortSignal,
  ): Promise<readonly Take[]> {
    const film = { routine: this.id, file }
    this.takeBacks.set(key, () => leaveSearch(film))
    try {
      const unsaved = () => this.routine.getState().pending
      return await searchAfar(film, unsaved, (share, doing = LOOKING) => task(doing, share), signal)
    } finally {
      this.takeBacks.delete(key)
    }
  }

  /** Goes on with what a school's server was asked for before the page was left. */
  async resume(): Promise<void> {
    if (!this.served) return
    for (const film of this.routine.getState().routine.films)
      if (!film.searched && (await isSearchedAfar({ routine: this.id, file: film.file })))
        void this.search(film, 'server')
  }

  /** How the song sounds, for all searches: one that is stopped takes it from none of the others. */
  private songTrace(): Promise<Uint8Array> {
    this.trace ??= this.audio()
      .then((audio) => matchSong(audio, null, () => {}, this.leaving.signal))
      .then((found) => found.trace)
    // Asked again after a failure or a stop, it tries again.
    this.trace.catch(() => {
      this.trace = null
    })
    return this.trace
  }

  private async run(
    id: string,
    name: string,
    doing: string,
    work: (task: TellTask, signal: AbortSignal) => Promise<void>,
  ): Promise<void> {
    this.stops.get(id)?.abort()
    const mine = new AbortController()
    this.stops.set(id, mine)
    const set = (what: Partial<FilmTask>) =>
      this.state.setState(({ tasks }) => {
        const { signal } = mine
        if (signal.aborted) return {}
        const task = {
          ...{ id, name, doing, share: null, problem: '' },
          ...tasks.find((t) => t.id === id),
          ...what,
        }
        return { tasks: [...tasks.filter((t) => t.id !== id), task] }
      })
    set({ doing, share: null, problem: '' })
    try {
      await work((now, share) => set({ doing: now, share }), mine.signal)
      if (!mine.signal.aborted) this.drop(id)
    } catch (error) {
      set({ problem: said(error), share: null })
    }
  }

  private drop(id: string): void {
    this.state.setState(({ tasks }) => ({ tasks: tasks.filter((t) => t.id !== id) }))
  }

  /** Stops what is under way, or puts away what did not work. A film that is half here goes on when it is dropped again. */
  stop(id: string): void {
    this.takeBacks.get(id)?.()
    this.stops.get(id)?.abort()
    this.stops.delete(id)
    this.drop(id)
  }

  /** When the routine is left. */
  close(): void {
    for (const stop of this.stops.values()) stop.abort()
    this.leaving.abort()
    this.leaving = new AbortController()
    this.trace = null
    this.state.setState({ tasks: [] })
    this.stills.close()
  }
}

function filmOf(kept: FilmFile, file: Pick<File, 'name' | 'lastModified'>, frameRate: number): Film {
  return {
    id: nanoid(),
    file: kept.id,
    name: cutText(file.name.replace(/\.[^.]*$/, ''), LIMITS.text).trim() || 'Film',
    ...{ whose: '', side: 'front', mirrored: false, filmed: today(file) },
    ...{ seconds: kept.seconds, frameRate, searched: false, takes: [], notes: [] },
  }
}

/** What a recorder wrote, as a file players can move about in: with its length and an index. */
async function filmFile(seen: Blob, label: string): Promise<File> {
  const {
    ALL_FORMATS,
    BlobSource,
    BufferTarget,
    Conversion,
    Input,
    Mp4OutputFormat,
    Output,
    WebMOutputFormat,
  } = await import('mediabunny')
  const input = new Input({ source: new BlobSource(seen), formats: ALL_FORMATS })
  const target = new BufferTarget()
  const mp4 = seen.type.includes('mp4')
  const output = new Output({ format: mp4 ? new Mp4OutputFormat() : new WebMOutputFormat(), target })
  const copying = await Conversion.init({ input, output, audio: { discard: true } })
  await copying.execute()
  if (!target.buffer) throw new Error('The film came out empty.')
  return new File([target.buffer], `${label}.${mp4 ? 'mp4' : 'webm'}`, {
    type: mp4 ? 'video/mp4' : 'video/webm',
  })
}

const Context = createContext<Films | null>(null)
export const FilmsProvider = Context.Provider

export function useFilms(): Films {
  const films = useContext(Context)
  if (!films) throw new Error('no films here')
  return films
}

/** Reads from what is under way with films. */
export function useFilmsState<T>(pick: (state: FilmsState) => T): T {
  return useStore(useFilms().state, pick)
}
