import * as v from 'valibot'
import { type Move, MoveListSchema } from '@/core/choreo'
import { type LoggedStep, type LoggedTiming, MARKS, SOUNDS } from '@/core/drill'
import type { Contents } from '@/core/handout'
import { packPeaks } from '@/core/hear'
import type { Take } from '@/core/match'
import { LessonSettings, PASSES, type Routine, readRoutine } from '@/core/routine'
import type { Heard } from './hear'

/** An error with words for people, and a code where the program must act on it. */
export class ApiError extends Error {
  constructor(
    message: string,
    readonly code: string,
  ) {
    super(message)
  }
}

const Failure = v.object({ error: v.object({ code: v.string(), message: v.string() }) })

/** Asks the server; resolves to what it answers. @throws ApiError in words for people */
export async function request(url: string, init?: RequestInit): Promise<unknown> {
  let response: Response
  try {
    response = await fetch(url, init)
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
      : new ApiError(`The server answered with an error (${response.status}).`, 'failed')
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

export async function fetchMoves(): Promise<{ moves: Move[]; revision: number }> {
  return call(v.object({ moves: MoveListSchema, revision: v.number() }), '/api/moves')
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

/** Base64 of bytes, in pieces small enough for the argument list. */
function base64(bytes: Uint8Array): string {
  let text = ''
  for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192))
  return btoa(text)
}

/** A hearing with its pictures, as it is sent. */
export const hearingBody = ({ hearing, peaks }: Heard) => ({ hearing, peaks: base64(packPeaks(peaks)) })

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
const headerOf = (name: string) => encodeURIComponent([...name].slice(0, 300).join(''))

/** Sends a song file, with progress 0..1; aborting leaves nothing behind on the server. */
export const uploadSong = (
  file: File,
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<Taken> =>
  sendFile(Taken, '/api/songs', file, progress, signal, { 'x-file-name': headerOf(file.name) })

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

/** Bytes as base64. */
export const base64Of = (bytes: Uint8Array): string => base64(bytes)

const Restored = v.object({
  songs: v.number(),
  routines: v.number(),
  log: v.number(),
  beside: v.array(v.string()),
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
    for (const [name, value] of Object.entries(headers)) request.setRequestHeader(name, value)
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

/** The cue sheet as a PDF. @returns also letters no font has; '' for none */
export async function fetchSheet(
  id: string,
  { stretch, ...what }: Contents,
  paper: { size: 'A4' | 'LETTER'; across: boolean; wall: boolean },
  signal: AbortSignal,
): Promise<{ pdf: Blob; missing: string }> {
  const query = new URLSearchParams(
    Object.entries({ ...stretch, ...what, ...paper }).map(([k, x]) => [
      k,
      typeof x === 'boolean' ? (x ? '1' : '0') : String(x),
    ]),
  )
  const response = await fetch(`/api/routines/${id}/sheet?${query}`, { signal }).catch((error: unknown) => {
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
  return {
    pdf: await response.blob(),
    missing: decodeURIComponent(response.headers.get('x-missing-letters') ?? ''),
  }
}
