import { BlobSource, UrlSource } from 'mediabunny'
import { nanoid } from 'nanoid'
import { type PreviousUpload, Upload } from 'tus-js-client'
import * as v from 'valibot'
import { type FilmLook, filmFaultSaid, lookAtFilm, unseenIn } from '@/decode/film'
import { ApiError, read, request } from './ask-server'
import { FilmFile, filmUrl } from './film-file'
import { personHeaders } from './person'

/** Bytes sent at one time: a connection that is cut loses no more. */
const PIECE = 16 * 1024 ** 2
const ADDRESS = '/api/films/incoming'

/** What is sent with a film, and how far that is. */
export interface Sending {
  progress: (share: number) => void
  signal: AbortSignal
  /** It may be without a sound: what it shows is known. */
  silent?: boolean
  /** For which routine it is. */
  routine: string
}

/** Looks at a film before any of it is sent. @throws Error in words for people where it is none this browser can show */
export async function lookAhead(file: File, silent = false): Promise<FilmLook> {
  const seen = await lookAtFilm(new BlobSource(file), silent)
  if (typeof seen === 'string') throw new Error(filmFaultSaid(file.name, seen, 'Nothing was sent.'))
  const unseen = await unseenIn(new BlobSource(file))
  if (!unseen) return seen
  const { what, codec } = unseen
  throw new Error(
    what === 'picture'
      ? `This browser cannot show “${file.name}”: its picture is ${codec}. Nothing was sent. Set the camera to H.264 (“most compatible”), or save the film as MP4 with H.264, and drop that.`
      : `This browser cannot hear “${file.name}”: its sound is ${codec}. Nothing was sent. Save the film as MP4 with AAC, and drop that.`,
  )
}

/** Looks at a film that is on the server. @throws Error in words where it is none this browser can show */
export async function lookAtSent(id: string): Promise<{ kept: FilmFile; frameRate: number }> {
  const kept = await read(FilmFile, await request(`/api/films/${id}`))
  const seen = await lookAtFilm(new UrlSource(new URL(filmUrl(id), location.href).href), true)
  if (typeof seen === 'string') throw new Error(filmFaultSaid(kept.fileName, seen, 'It was not taken in.'))
  return { kept, frameRate: seen.frameRate }
}

const Failure = v.object({ error: v.object({ code: v.string(), message: v.string() }) })

/** What the server said of an upload that failed, in words. */
function blamed(error: Error): Error {
  const answer = 'originalResponse' in error && (error.originalResponse as { getBody(): string } | null)
  if (!answer)
    return new ApiError(
      'The film is not here whole: the connection was cut. Drop it once more to go on where it was.',
      'offline',
    )
  const known = v.safeParse(v.pipe(v.string(), v.parseJson(), Failure), answer.getBody())
  return known.success
    ? new ApiError(known.output.error.message, known.output.error.code)
    : new ApiError('The film could not be sent. Drop it once more to go on where it was.', 'upload')
}

const idOfUpload = (previous: PreviousUpload | undefined) => previous?.uploadUrl?.split('/').at(-1) ?? null

/**
 * Sends a film by pieces; one that was begun before goes on where it was.
 * @throws ApiError in words for people; DOMException where it was stopped
 */
export async function sendFilm(
  file: File,
  { progress, signal, routine, silent = false }: Sending,
): Promise<FilmFile> {
  const metadata = { id: nanoid(), filename: file.name.slice(0, 250), ...(silent ? { silent: 'yes' } : {}) }
  const upload = new Upload(file, {
    endpoint: ADDRESS,
    chunkSize: PIECE,
    retryDelays: [300, 1000, 3000, 6000],
    removeFingerprintOnSuccess: true,
    headers: personHeaders(),
    metadata,
    onProgress: (bytes, all) => progress(all ? bytes / all : 1),
  })
  const [previous] = await upload.findPreviousUploads()
  const known = idOfUpload(previous)
  if (previous && known) {
    // It came in whole, and the answer was lost.
    const there = await request(`/api/films/${known}`).catch(() => null)
    if (there) return read(FilmFile, there)
    // Where it was let go of meanwhile it is begun anew, under the same name.
    metadata.id = known
    upload.resumeFromPreviousUpload(previous)
  }
  const sent = new Promise<void>((resolve, reject) => {
    upload.options.onSuccess = () => resolve()
    upload.options.onError = (error) => reject(blamed(error))
    // What came so far is kept, for who goes on.
    const stop = () => upload.abort().finally(() => reject(new DOMException('stopped', 'AbortError')))
    signal.addEventListener('abort', stop, { once: true })
    if (signal.aborted) stop()
    else upload.start()
  })
  await sent
  return read(FilmFile, await request(`/api/films/${metadata.id}?routine=${routine}`, { method: 'POST' }))
}
