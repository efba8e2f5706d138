import { mkdirSync } from 'node:fs'
import { statfs } from 'node:fs/promises'
import path from 'node:path'
import { FileStore as TusFiles } from '@tus/file-store'
import { Server } from '@tus/server'
import * as v from 'valibot'
import { tooLargeFilm } from './file-store'
import { Problem } from './problem'
import { dataDirectory, LARGEST_FILM } from './settings'
import { isHere, me } from './who'

/*
 * Films come in by pieces (tus resumable upload protocol 1.0.0, https://tus.io/protocols/resumable-upload): a connection that is
 * cut, a page that is closed and a server that is killed go on where they were.
 */

/** Where the protocol is spoken. */
export const INCOMING = '/api/films/incoming'
/** What nobody went on with for so long is let go. */
const KEPT_MS = 3 * 24 * 3600 * 1000
/** Left free on the disk, in bytes. */
const FREE = 512 * 1024 ** 2

const Id = v.pipe(v.string(), v.regex(/^[A-Za-z0-9_-]{8,40}$/))

/** A refusal as this program's routes tell one. */
const told = (status: number, message: string, code = 'refused') => ({
  status_code: status,
  body: JSON.stringify({ error: { code, message } }),
})

const folder = () => path.join(dataDirectory(), 'incoming')

/** True for what was begun by who asks. */
const isMine = (metadata: Record<string, string | null> | undefined) =>
  isHere(me()) || (metadata?.owner ?? '') === me().id

/** Files whose folder is there: where the package makes it and it cannot be, that ends the whole process, as nobody hears of it. */
class Pieces extends TusFiles {}
Object.defineProperty(Pieces.prototype, 'checkOrCreateDirectory', { value: () => {} })

let kept: { dir: string; server: Server; files: TusFiles } | null = null

function incoming() {
  const dir = folder()
  if (kept?.dir === dir) return kept
  mkdirSync(dir, { recursive: true, mode: 0o700 })
  const files = new Pieces({ directory: dir, expirationPeriodInMilliseconds: KEPT_MS })
  const server = new Server({
    path: INCOMING,
    datastore: files,
    relativeLocation: true,
    // Other sites are refused before it is asked (handle.ts).
    allowedOrigins: () => false,
    maxSize: LARGEST_FILM,
    // Who sends a film names it, so that what became of it can be asked for after an answer that was lost.
    namingFunction: (_, metadata) => {
      const id = v.safeParse(Id, metadata?.id)
      if (!id.success) throw told(400, 'The film has no id. Nothing was kept.')
      return id.output
    },
    onUploadCreate: async (_, upload) => {
      const { size } = upload
      const { bavail, bsize } = await statfs(dataDirectory())
      if (size !== undefined && bavail * bsize < size + FREE)
        throw told(
          507,
          `There is no room on the disk for this film: it needs ${Math.ceil(size / 1024 ** 2)} MB. Nothing was kept.`,
        )
      // Whose it is is this server's to say.
      return { metadata: { ...upload.metadata, owner: me().id } }
    },
    onIncomingRequest: async (request, id) => {
      if (request.method === 'POST') return
      const known = await files.getUpload(id).catch(() => null)
      if (known && !isMine(known.metadata))
        throw told(404, 'This film is not here. Drop it once more.', 'missing')
    },
    onResponseError: (_, error) => {
      if ('status_code' in error && error.status_code === 413) return told(413, tooLargeFilm().message)
      if ('body' in error && error.body.startsWith('{')) return error
      const status = 'status_code' in error ? error.status_code : 500
      return told(status, 'The film could not be taken in. What came so far is kept: try again.', 'upload')
    },
  })
  kept = { dir, server, files }
  return kept
}

/** Speaks the protocol. */
export const takePiece = (request: Request): Promise<Response> =>
  incoming().server.handleWeb(request as never)

/** A film that came in whole. */
export interface IncomingFilm {
  file: string
  fileName: string
  bytes: number
  /** It may be without a sound: who sent it knows what it shows. */
  silent: boolean
}

/** A film that came in whole, as a file. @throws Problem 404 where there is none, 409 where some of it is missing */
export async function wholeUpload(id: string): Promise<IncomingFilm> {
  const upload = await incoming()
    .files.getUpload(id)
    .catch(() => null)
  if (!upload?.storage || !isMine(upload.metadata))
    throw new Problem(404, 'This film is not here. Drop it once more.', 'missing')
  if (upload.offset !== upload.size)
    throw new Problem(409, 'Some of this film is still missing. Drop it once more to go on.', 'unfinished')
  return {
    file: upload.storage.path,
    fileName: upload.metadata?.filename?.slice(0, 300) || 'film',
    bytes: upload.offset,
    silent: upload.metadata?.silent === 'yes',
  }
}

/** Lets an upload go, whatever is left of it. */
export async function forgetUpload(id: string): Promise<void> {
  const { files } = incoming()
  // Where its file was taken over, only what was written about it is left.
  await files
    .remove(id)
    .catch(() => files.configstore.delete(id))
    .catch(() => {})
}

/** Lets go of what nobody went on with. */
export const sweepIncoming = (): Promise<number> => incoming().files.deleteExpired()
