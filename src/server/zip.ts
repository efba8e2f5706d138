import type { Readable } from 'node:stream'
import yauzl, { type Entry, type ZipFile } from 'yauzl'
import { Problem } from './problem'

/** What may be in a zip, by name: how large it may be unpacked, in bytes; null for what may not be in it. */
export type Allowed = (name: string) => number | null

/** Deflated sound and text come to a hundredth or so; what claims a five-hundredth than this is made to fill a disk. */
const RATIO = 500
const SMALL = 1024 * 1024
const MOST_ENTRIES = 20_000

const broken = () => new Problem(415, 'This file is broken, or no zip that can be read. Nothing was changed.')
const foreign = () =>
  new Problem(415, 'There are things in this file that Azalea does not put there. Nothing was changed.')

/** A zip whose table of contents was checked; its pieces are read one after the other. */
export interface OpenZip {
  /** Unpacked sizes by name. */
  sizes: ReadonlyMap<string, number>
  /** Unpacked bytes of a piece; more than it claims is an error. */
  read(name: string): Promise<Readable>
  /** A small piece whole. */
  text(name: string): Promise<string>
  close(): void
}

/**
 * Opens a zip somebody brings. Names lead nowhere: only those that are expected are taken, each once, and none of them is used
 * as a path.
 * @throws Problem 415 for what is broken, foreign, or would unpack to more than it should
 */
export async function openZip(path: string, allowed: Allowed): Promise<OpenZip> {
  const zip = await opened(path)
  try {
    const entries = await entriesOf(zip, allowed)
    const read = (name: string) =>
      new Promise<Readable>((resolve, reject) => {
        const entry = entries.get(name)
        if (!entry) return reject(broken())
        zip.openReadStream(entry, (error, stream) => (error ? reject(broken()) : resolve(stream)))
      })
    return {
      sizes: new Map([...entries].map(([name, e]) => [name, e.uncompressedSize])),
      read,
      text: async (name) => {
        const chunks: Buffer[] = []
        try {
          for await (const chunk of await read(name)) chunks.push(chunk as Buffer)
        } catch {
          throw broken()
        }
        return Buffer.concat(chunks).toString('utf8')
      },
      close: () => zip.close(),
    }
  } catch (error) {
    zip.close()
    throw error
  }
}

const opened = (path: string) =>
  new Promise<ZipFile>((resolve, reject) => {
    // Names are checked by yauzl too: no absolute ones, none with "..".
    const options = { lazyEntries: true, autoClose: false, strictFileNames: true, validateEntrySizes: true }
    yauzl.open(path, options, (error, zip) => (error ? reject(broken()) : resolve(zip)))
  })

function entriesOf(zip: ZipFile, allowed: Allowed): Promise<Map<string, Entry>> {
  return new Promise((resolve, reject) => {
    const entries = new Map<string, Entry>()
    zip.on('error', () => reject(broken()))
    zip.on('end', () => resolve(entries))
    zip.on('entry', (entry: Entry) => {
      const most = allowed(entry.fileName)
      if (most === null || entries.has(entry.fileName) || entries.size >= MOST_ENTRIES || entry.isEncrypted())
        return reject(foreign())
      const { uncompressedSize: large, compressedSize: small } = entry
      if (large > most || (large > SMALL && large > RATIO * Math.max(1, small)))
        return reject(
          new Problem(413, 'This file would unpack to more than it can hold. Nothing was changed.'),
        )
      entries.set(entry.fileName, entry)
      zip.readEntry()
    })
    zip.readEntry()
  })
}
