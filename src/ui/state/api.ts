import * as v from 'valibot'
import { type Move, MoveListSchema } from '@/core/choreo'
import { type LoggedStep, type LoggedTiming, MARKS, SOUNDS } from '@/core/drill'
import { base64Of } from '@/core/formats/base64'
import type { Contents } from '@/core/handout'
import { packPeaks } from '@/core/hear'
import type { Take } from '@/core/match'
import { cutText, LessonSettings, PASSES, type Routine, readRoutine } from '@/core/routine'
import { oneLine } from '@/core/routine/document/text-schema'
import type { Heard } from './hear'
import { personHeaders } from './person'

/** An error with words for people, and a code where the program must act on it. */
export class ApiError extends Error {
  constructor(
    message: string,
    readonly code: string,
  ) {
    super(message)
  }
}

/** A server that is away, or that failed, may come back; what it refuses will not pass by trying again. */
const PASSING = new Set(['offline', 'failed', 'unanswered', 'away', 'busy', 'locked', 'full', 'read-only'])
export const mayPass = (error: unknown): boolean => error instanceof ApiError && PASSING.has(error.code)

const Failure = v.object({ error: v.object({ code: v.string(), message: v.string() }) })

/** A request that says whose page asks, where somebody is signed in. */
function asPerson(init?: RequestInit): RequestInit | undefined {
  const headers = personHeaders()
  return Object.keys(headers).length ? { ...init, headers: { ...init?.headers, ...headers } } : init
}

/** Asks the server; resolves to what it answers. @throws ApiError in words for people */
export async function request(url: string, init?: RequestInit): Promise<unknown> {
  let response: Response
  try {
    response = await fetch(url, asPerson(init))
  } catch {
    throw new ApiError(
      'Azalea’s server does not answer. Start it again; what you did stays in this window.',
      'offline',
    )
  }
  const data: unknown = await response.json().catch(() => null)
  if (!response.ok) {
    const known = v.safeParse(Failure, data)
    throw known.success
      ? new ApiError(known.output.error.message, known.output.error.code)
      : new ApiError(`The server answered with an error (${response.status}).`, 'unanswered')
  }
  return data
}

/** An answer as it should be. @throws ApiError where it is another */
export function read<S extends v.GenericSchema>(schema: S, data: unknown): v.InferOutput<S> {
  const known = v.safeParse(schema, data)
  if (!known.success)
    throw new ApiError(
      'The server’s answer cannot be read: it may be another version than this page. Load the page again.',
      'unreadable',
    )
  return known.output
}

async function call<S extends v.GenericSchema>(
  schema: S,
  url: string,
  init?: RequestInit,
): Promise<v.InferOutput<S>> {
  return read(schema, await request(url, init))
}

/** A move list from anywhere. @throws ApiError where it is none */
export const readMoves = (data: unknown): Move[] => read(MoveListSchema, data)

const MadeBy = v.object({ writer: v.string(), save: v.number() })

/** The move list with its revision, and the save that made it. */
export async function fetchMoves() {
  return call(v.object({ moves: MoveListSchema, revision: v.number(), madeBy: MadeBy }), '/api/moves')
}

/** The routine as the server has it now. */
export async function fetchRoutine(id: string): Promise<{ routine: Routine; revision: number }> {
  const data = await request(`/api/routines/${id}`)
  const { revision, routine } = read(v.object({ revision: v.number(), routine: v.unknown() }), data)
  try {
    return { revision, routine: readRoutine(routine).routine }
  } catch {
    throw new ApiError('That routine cannot be read by this page. Load the page again.', 'unreadable')
  }
}

const Newer = v.nullable(v.object({ revision: v.number(), writer: v.string(), routine: v.unknown() }))

/** The routine where the server has a later revision than this one; null where it has not. */
export const fetchNewer = (id: string, revision: number) =>
  call(Newer, `/api/routines/${id}?after=${revision}`)

/** A hearing with its pictures, as it is sent. */
export const hearingBody = ({ hearing, peaks }: Heard) => ({ hearing, peaks: base64Of(packPeaks(peaks)) })

const Drilled = v.object({ label: v.string(), speed: v.number() })
const Band = v.object({ letter: v.string(), name: v.string(), from: v.number(), to: v.number() })
const ShelfItem = v.object({
  id: v.string(),
  title: v.string(),
  credit: v.string(),
  cues: v.number(),
  /** On counts alone, without a song. */
  combination: v.optional(v.boolean(), false),
  /** The song's sections and the shape of its sound (bytes as base64, so many a second); null when it was not heard yet. */
  heard: v.nullable(
    v.object({
      duration: v.number(),
      /** The slowest that is held, and the fastest, where that is another. */
      tempo: v.number(),
      fastest: v.optional(v.number(), 0),
      list: v.array(Band),
      shape: v.string(),
      rate: v.number(),
    }),
  ),
  repetitions: v.number(),
  last: v.nullable(v.object({ ...Drilled.entries, mark: v.string() })),
  /** What to take up next, with its speed, and how much more there is. */
  due: v.array(Drilled),
  more: v.number(),
  /** The speed at which the whole dance sits, 0 for none; and how many of its phrases sit at tempo. */
  sits: v.object({ whole: v.number(), atTempo: v.number(), phrases: v.number() }),
  /** What may be done with it here, and whose it is where it is somebody else's. */
  right: v.optional(v.picklist(['look', 'teach', 'edit', 'own']), 'own'),
  of: v.optional(v.string(), ''),
})
export type ShelfItem = v.InferOutput<typeof ShelfItem>

const ShelfPart = v.object({
  items: v.array(ShelfItem),
  /** How many were asked for, and how many there are. */
  total: v.number(),
  all: v.number(),
  unreadable: v.array(v.string()),
})
export type ShelfPart = v.InferOutput<typeof ShelfPart>

/** A part of the shelf, from one on. */
export const fetchShelf = (search: string, order: string, from: number): Promise<ShelfPart> =>
  call(ShelfPart, `/api/shelf?${new URLSearchParams({ search, order, from: String(from) })}`)

const Combinations = v.object({ combinations: v.array(v.object({ id: v.string(), title: v.string() })) })

/** Moves without a song, by name. */
export const fetchCombinations = async (): Promise<{ id: string; title: string }[]> =>
  (await call(Combinations, '/api/combinations')).combinations

const songTime = v.nullable(v.number())

const LogRow = v.object({
  id: v.string(),
  doneAt: v.number(),
  kind: v.picklist(['drill', 'run']),
  from: songTime,
  to: songTime,
  label: v.string(),
  pass: v.picklist(PASSES),
  speed: v.number(),
  sound: v.picklist(SOUNDS),
  seconds: v.number(),
  mark: v.picklist([...MARKS, 'unmarked']),
  looped: v.boolean(),
  slips: v.array(v.number()),
  corrects: v.nullable(v.string()),
  group: v.optional(v.string(), ''),
})

export type LogRow = v.InferOutput<typeof LogRow>

export async function fetchLog(routineId: string): Promise<LogRow[]> {
  return call(v.array(LogRow), `/api/routines/${routineId}/repetitions`)
}

const StepRow = v.object({
  id: v.string(),
  doneAt: v.number(),
  lesson: v.string(),
  plan: v.string(),
  kind: v.string(),
  label: v.string(),
  eights: v.number(),
  repetitions: v.number(),
  planned: v.number(),
  seconds: v.number(),
  danced: v.number(),
  note: v.string(),
  group: v.optional(v.string(), ''),
})

/** A step of a lesson, or a note, for the log. */
export type StepEntry = v.InferOutput<typeof StepRow>

export async function fetchLessons(routineId: string): Promise<LoggedStep[]> {
  return call(v.array(StepRow), `/api/routines/${routineId}/lessons`)
}

const TimingRow = v.object({
  id: v.string(),
  doneAt: v.number(),
  from: songTime,
  to: songTime,
  label: v.string(),
  speed: v.number(),
  by: v.picklist(['tap', 'clap']),
  n: v.number(),
  mean: v.number(),
  spread: v.number(),
  worst: v.string(),
  worstMs: v.number(),
})

/** One go at the timing trainer, for the log. */
export type TimingEntry = v.InferOutput<typeof TimingRow>

export async function fetchTimings(routineId: string): Promise<LoggedTiming[]> {
  return call(v.array(TimingRow), `/api/routines/${routineId}/timings`)
}

const OwnCount = v.object({ call: v.string(), wav: v.string(), stressMs: v.number() })

/** A count in the instructor's own voice: a WAV file as base64. */
export type OwnCount = v.InferOutput<typeof OwnCount>

export async function fetchOwnCounts(): Promise<OwnCount[]> {
  return call(v.array(OwnCount), '/api/voice/own')
}

/** The counts there are now, as the server answers. */
export const ownCountsIn = (answer: unknown): OwnCount[] => read(v.array(OwnCount), answer)

const Preset = v.object({ id: v.string(), name: v.string(), settings: LessonSettings })

/** A way to teach that was kept under a name. */
export type Preset = v.InferOutput<typeof Preset>

export async function fetchPresets(): Promise<Preset[]> {
  return call(v.array(Preset), '/api/presets')
}

const Taken = v.object({
  songId: v.string(),
  fresh: v.boolean(),
  routines: v.array(v.object({ id: v.string(), title: v.string() })),
})

export type Taken = v.InferOutput<typeof Taken>

/** A file's name as a header can carry it, cut between characters: half of one cannot be encoded. */
const headerOf = (name: string) => encodeURIComponent(cutText(oneLine(name), 300))

/** Sends a song file, with progress 0..1; aborting leaves nothing behind on the server. */
export const uploadSong = (
  file: File,
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<Taken> =>
  untilFree(
    () => sendFile(Taken, '/api/songs', file, progress, signal, { 'x-file-name': headerOf(file.name) }),
    signal,
  )

/** Pauses before something is asked of a busy server again; the last one stays. */
const PAUSES_MS = [1000, 2000, 4000, 8000] as const

/** Asks again while the server says that it is busy, until it is stopped. */
async function untilFree<T>(ask: () => Promise<T>, signal: AbortSignal): Promise<T> {
  for (let n = 0; ; n++)
    try {
      return await ask()
    } catch (error) {
      if (!(error instanceof ApiError) || error.code !== 'busy') throw error
      const ms = PAUSES_MS[Math.min(n, PAUSES_MS.length - 1)] as number
      await new Promise<void>((again) => {
        const timer = setTimeout(again, ms)
        signal.addEventListener('abort', () => {
          clearTimeout(timer)
          again()
        })
      })
      if (signal.aborted) throw new DOMException('stopped', 'AbortError')
    }
}

const OpenedFile = v.object({ id: v.string(), title: v.string(), said: v.array(v.string()) })

/** Sends a routine file to be opened. @param as another id, where it is here already @param on a song of this machine, and where the file's plays in it */
export const openRoutineFile = (
  file: File,
  as: string | null,
  on: { song: string; takes: readonly Take[] } | null,
  progress: (share: number) => void,
  signal: AbortSignal,
) => {
  const query = new URLSearchParams({ ...(as ? { as } : {}), ...(on ? { on: on.song } : {}) })
  const headers: Record<string, string> = on ? { 'x-takes': JSON.stringify(on.takes) } : {}
  return sendFile(OpenedFile, `/api/routines/open?${query}`, file, progress, signal, headers)
}

/** Whether it is known how a song sounds. */
export async function hasTrace(songId: string): Promise<boolean> {
  return (await call(v.object({ there: v.boolean() }), `/api/songs/${songId}/trace`)).there
}

/** What playing a song needs to know of it, as base64; '' where it is not known yet. */
export async function fetchMeasure(songId: string): Promise<string> {
  return (await call(v.object({ measure: v.string() }), `/api/songs/${songId}/measure`)).measure
}

const Restored = v.object({
  songs: v.number(),
  routines: v.number(),
  log: v.number(),
  beside: v.array(v.string()),
  damaged: v.number(),
})
export type Restored = v.InferOutput<typeof Restored>

/** Sends a backup to be taken over. */
export const restoreBackup = (file: File, progress: (share: number) => void, signal: AbortSignal) =>
  sendFile(Restored, '/api/backup', file, progress, signal)

/** Sends a file, with progress 0..1. @throws ApiError in words for people; DOMException where it was stopped */
function sendFile<S extends v.GenericSchema>(
  schema: S,
  url: string,
  file: File,
  progress: (share: number) => void,
  signal: AbortSignal,
  headers: Record<string, string> = {},
): Promise<v.InferOutput<S>> {
  return new Promise((resolve, reject) => {
    // fetch() reports no upload progress.
    const request = new XMLHttpRequest()
    request.open('PUT', url)
    for (const [name, value] of Object.entries({ ...headers, ...personHeaders() }))
      request.setRequestHeader(name, value)
    request.upload.onprogress = (e) => progress(e.total ? e.loaded / e.total : 0)
    request.onerror = () =>
      reject(new ApiError('The upload broke off. Nothing was kept; try again.', 'offline'))
    request.onabort = () => reject(new DOMException('stopped', 'AbortError'))
    request.onload = () => {
      const data: unknown = safeJson(request.responseText)
      const answer = v.safeParse(schema, data)
      const failed = v.safeParse(Failure, data)
      if (request.status < 300 && answer.success) resolve(answer.output)
      else if (failed.success) reject(new ApiError(failed.output.error.message, failed.output.error.code))
      else
        reject(
          new ApiError(`The server answered with an error (${request.status}). Nothing was kept.`, 'failed'),
        )
    }
    signal.addEventListener('abort', () => request.abort())
    request.send(file)
  })
}

function safeJson(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}

/** What of a dance is asked for, as the server reads it in an address. */
export const askedIn = ({ stretch, ...what }: Contents, more: Record<string, string | boolean> = {}) =>
  new URLSearchParams(
    Object.entries({ ...stretch, ...what, ...more }).map(([k, x]) => [
      k,
      typeof x === 'boolean' ? (x ? '1' : '0') : String(x),
    ]),
  )

/**
 * Gets a hand-out.
 * @param more headers of what is asked for
 * @throws ApiError in words for people; DOMException where it was stopped
 */
export async function fetchMade(
  url: string,
  signal: AbortSignal,
  sent?: object,
  more: Record<string, string> = {},
): Promise<Response> {
  const headers = { ...personHeaders(), ...more }
  const init = sent ? { method: 'POST', body: JSON.stringify(sent), signal, headers } : { signal, headers }
  const response = await fetch(url, init).catch((error: unknown) => {
    if (error instanceof DOMException) throw error
    throw new ApiError('Azalea’s server does not answer. Start it again, then try once more.', 'offline')
  })
  if (!response.ok) {
    const known = v.safeParse(Failure, await response.json().catch(() => null))
    throw new ApiError(
      known.success ? known.output.error.message : `The server answered with an error (${response.status}).`,
      'failed',
    )
  }
  return response
}

/** A practice page, its voice still to be put in. */
export const fetchPracticePage = async (id: string, contents: Contents, signal: AbortSignal) =>
  (await fetchMade(`/api/routines/${id}/practice?${askedIn(contents)}`, signal)).text()
