import * as v from 'valibot'
import type { Take } from '@/core/match'
import { cutText } from '@/core/routine'
import { oneLine } from '@/core/routine/document/text-schema'
import { ApiError, Failure } from './ask-server'
import { personHeaders } from './person'

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
