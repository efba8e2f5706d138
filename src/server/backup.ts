import { mkdir, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import { Readable } from 'node:stream'
import type { ReadableStream as NodeStream } from 'node:stream/web'
import { sql } from 'drizzle-orm'
import * as v from 'valibot'
import yazl from 'yazl'
import { database, queued } from './database'
import { diskStore, filmStore, hashOf } from './file-store'
import { passingFile } from './leftovers'
import { ownRows } from './may'
import { writeOwnCopy } from './own-copy'
import { Problem } from './problem'
import { films, songs } from './schema'
import { databaseUrl } from './settings'
import type { FileStore } from './stores'
import { isHere, me } from './who'

export const MANIFEST = 'azalea-backup.json'
export const DATABASE = 'azalea.db'
const Hash = v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/))
const size = v.pipe(v.number(), v.integer(), v.minValue(0))

/** What a backup says of itself. */
export const ManifestSchema = v.object({
  azalea: v.literal('backup'),
  /** 2 where there are films in it, which a reader of 1 would find broken. */
  version: v.picklist([1, 2]),
  made: v.pipe(v.string(), v.isoTimestamp()),
  database: v.object({ bytes: size, sha256: Hash }),
  songs: v.array(v.object({ sha256: Hash, bytes: size })),
  films: v.optional(v.array(v.object({ sha256: Hash, bytes: size })), []),
})
export type Manifest = v.InferOutput<typeof ManifestSchema>

/** A backup on its way out: everything Azalea keeps, in one zip. */
export interface Backup {
  stream: Readable
  bytes: number
  /** Songs and films whose files are not there any more: their routines are in it all the same. */
  missing: string[]
  /** Lets go of what was only made for it. */
  close(): Promise<void>
}

/**
 * Everything of who asks in one zip, streamed: the database as it is at this moment, the audio of every song, and checksums of both.
 * @throws Problem 409 where the database is on a server, which has its own way to be backed up
 */
export async function makeBackup(now = new Date()): Promise<Backup> {
  const who = me()
  if (isHere(who) && !databaseUrl().startsWith('file:'))
    throw new Problem(409, 'The database is on a server: back it up there, and the data directory here.')
  const dir = passingFile('backup')
  await mkdir(dir, { mode: 0o700 })
  const close = () => rm(dir, { recursive: true, force: true })
  try {
    const file = path.join(dir, DATABASE)
    // While nobody writes: a whole database in one file, whatever still lies in its journal.
    if (isHere(who)) await queued((db) => db.run(sql`VACUUM INTO ${file}`))
    const db = await database()
    if (!isHere(who)) await writeOwnCopy(db, who.id, file)
    const hashes = (table: typeof songs | typeof films) =>
      db.selectDistinct({ hash: table.hash }).from(table).where(ownRows(who, table.owner))
    const sounds = await filesOf(diskStore(), await hashes(songs))
    const pictures = await filesOf(filmStore(), await hashes(films))
    const manifest: Manifest = {
      azalea: 'backup',
      version: pictures.there.length ? 2 : 1,
      made: now.toISOString(),
      database: { bytes: (await stat(file)).size, sha256: await hashOf(file) },
      songs: sounds.there,
      films: pictures.there,
    }
    const zip = new yazl.ZipFile()
    // What was asked for and is not wanted any more is no fault.
    zip.on('error', () => {})
    const plain = { compress: false, mtime: now }
    zip.addBuffer(Buffer.from(JSON.stringify(manifest, null, 1)), MANIFEST, plain)
    zip.addFile(file, DATABASE, plain)
    for (const { folder, store, there } of [
      { folder: 'audio', ...sounds },
      { folder: 'films', ...pictures },
    ])
      for (const { sha256, bytes } of there)
        zip.addReadStreamLazy(`${folder}/${sha256}`, { ...plain, size: bytes }, (give) =>
          give(null, Readable.fromWeb(store.read(sha256, 0, bytes - 1) as NodeStream)),
        )
    // How large it comes to be is known at the end of its table, which its types do not know.
    const end = zip.end.bind(zip) as unknown as (what: object, told: (bytes: number) => void) => void
    const bytes = await new Promise<number>((told) => end({}, told))
    return {
      stream: zip.outputStream as Readable,
      bytes,
      missing: [...sounds.missing, ...pictures.missing],
      close,
    }
  } catch (error) {
    await close()
    throw error
  }
}

/** Which files of some rows are there, and which are not. */
async function filesOf(store: FileStore, rows: readonly { hash: string }[]) {
  const sizes = await Promise.all(rows.map(async ({ hash }) => ({ hash, bytes: await store.size(hash) })))
  return {
    store,
    there: sizes.flatMap(({ hash, bytes }) => (bytes === null ? [] : [{ sha256: hash, bytes }])),
    missing: sizes.flatMap(({ hash, bytes }) => (bytes === null ? [hash] : [])),
  }
}
