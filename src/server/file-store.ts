import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { type FileHandle, mkdir, open, rename, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import { passingFile } from './leftovers'
import { storeFar } from './object-store'
import { Problem } from './problem'
import {
  dataDirectory,
  LARGEST_FILM,
  LARGEST_PAGE,
  LARGEST_SHEET,
  LARGEST_SONG,
  objectPlace,
} from './settings'
import type { FileStore } from './stores'

const HASH = /^[0-9a-f]{64}$/

/** Songs as files in `<data>/audio`. */
export const diskStore = (): FileStore => storeIn('audio', LARGEST_SONG, tooLarge)

/** Films as files in `<data>/films`. */
export const filmStore = (): FileStore => storeIn('films', LARGEST_FILM, tooLargeFilm)

/** Pages that are handed out to classes as files in `<data>/pages`. */
export const pageStore = (): FileStore =>
  storeIn('pages', LARGEST_PAGE, () => new Problem(413, 'This page is too large. Nothing was handed out.'))

/** Sheets that are asked for, and those that were set, as files in `<data>/sheets`. */
export const sheetStore = (): FileStore =>
  storeIn('sheets', LARGEST_SHEET, () => new Problem(413, 'This sheet is too large. Leave its pictures out.'))

/** A folder of the store there is: on a disk, or far away. */
function storeIn(folder: string, largest: number, refused: () => Problem): FileStore {
  const here = storeHere(folder, largest, refused)
  const place = objectPlace()
  return place ? storeFar(place, folder, here.receive) : here
}

function storeHere(folder: string, largest: number, refused: () => Problem): FileStore {
  const dir = path.join(dataDirectory(), folder)
  const place = (hash: string) => {
    if (!HASH.test(hash)) throw new Error('not a content hash')
    return path.join(dir, hash)
  }
  return {
    async receive(source) {
      await mkdir(dir, { recursive: true, mode: 0o700 })
      const part = passingFile('part')
      const discard = () => rm(part, { force: true })
      try {
        const { hash, bytes } = await pour(source, part, largest, refused)
        const keep = () => rename(part, place(hash))
        const stage = async () => {}
        return { hash, bytes, asFile: (look) => look(part), stage, keep, discard }
      } catch (error) {
        await discard()
        throw error
      }
    },
    async size(hash) {
      try {
        return (await stat(place(hash))).size
      } catch {
        return null
      }
    },
    read: (hash, start, end) => stream(place(hash), start, end),
    remove: (hash) => rm(place(hash), { force: true }),
    async adopt(file, hash) {
      await mkdir(dir, { recursive: true, mode: 0o700 })
      await rename(file, place(hash))
    },
    stage: async () => {},
    link: async () => null,
    reach: async (hash) => place(hash),
  }
}

const PIECE = 256 * 1024

/**
 * The bytes of a file from `start` to `end`, both included, read as they are asked for. Node's own bridge from its
 * streams to the web's throws outside of any request when a reader leaves early.
 */
function stream(file: string, start: number, end: number): ReadableStream<Uint8Array> {
  let handle: FileHandle | null = null
  let at = start
  return new ReadableStream<Uint8Array>(
    {
      async pull(controller) {
        handle ??= await open(file)
        const piece = new Uint8Array(Math.min(PIECE, end - at + 1))
        const { bytesRead } = await handle.read(piece, 0, piece.length, at)
        at += bytesRead
        if (bytesRead > 0) controller.enqueue(piece.subarray(0, bytesRead))
        if (bytesRead === 0 || at > end) {
          await handle.close()
          controller.close()
        }
      },
      cancel: () => handle?.close(),
    },
    // Nothing is opened before somebody reads: the answer to a HEAD request has a body nobody does.
    { highWaterMark: 0 },
  )
}

/** So much is written at one time, while what follows comes in. */
const AT_ONCE = 1024 * 1024

async function pour(
  source: AsyncIterable<Uint8Array>,
  file: string,
  largest: number,
  refused: () => Problem,
): Promise<{ hash: string; bytes: number }> {
  const hash = createHash('sha256')
  // A handle, not a stream: a stream that is given up may still open, and so make, its file after it was taken away.
  const out = await open(file, 'wx')
  let bytes = 0
  let held: Uint8Array[] = []
  let holds = 0
  let writing: Promise<unknown> = Promise.resolve()
  const put = async () => {
    await writing
    writing = out.writeFile(Buffer.concat(held))
    // What became of it is asked for before the next is put, and at the end.
    writing.catch(() => undefined)
    held = []
    holds = 0
  }
  try {
    for await (const chunk of source) {
      bytes += chunk.byteLength
      if (bytes > largest) throw refused()
      held.push(chunk)
      holds += chunk.byteLength
      hash.update(chunk)
      if (holds >= AT_ONCE) await put()
    }
    await put()
    await writing
  } finally {
    await writing.catch(() => undefined)
    await out.close()
  }
  return { hash: hash.digest('hex'), bytes }
}

/** The refusal of a file over the limit, the same before and during the upload. */
export function tooLarge(): Problem {
  return new Problem(
    413,
    `This file is over the limit of ${LARGEST_SONG / 1024 / 1024} MB. Nothing was kept. Save it as MP3 or cut it, and try again.`,
  )
}

/** The refusal of a film over the limit. */
export function tooLargeFilm(): Problem {
  return new Problem(
    413,
    `This film is over the limit of ${LARGEST_FILM / 1024 ** 3} GB. Nothing was kept. Cut it, or save it smaller, and try again.`,
  )
}

/** SHA-256 of a file, in hexadecimal. */
export async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256')
  await pipeline(createReadStream(file), hash)
  return hash.digest('hex')
}
