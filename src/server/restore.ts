import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, readFile, rm, statfs } from 'node:fs/promises'
import path from 'node:path'
import { type Readable, Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { pathToFileURL } from 'node:url'
import { type Client, createClient } from '@libsql/client'
import { eq, getTableColumns, getTableName } from 'drizzle-orm'
import { drizzle } from 'drizzle-orm/libsql'
import { migrate } from 'drizzle-orm/libsql/migrator'
import * as v from 'valibot'
import { DATABASE, MANIFEST, type Manifest, ManifestSchema } from './backup'
import { database } from './database'
import { diskStore, filmStore } from './file-store'
import { removeUnnamedFilm } from './film-leftovers'
import { markKeeping, passingFile } from './leftovers'
import { Problem } from './problem'
import { type Restored, takeOver } from './restore-rows'
import * as schema from './schema'
import { dataDirectory, LARGEST_FILM, LARGEST_SONG } from './settings'
import type { Incoming } from './stores'
import { upgrade } from './upgrade'
import { isHere, me } from './who'
import { type OpenZip, openZip } from './zip'

const LARGEST_DATABASE = 4 * 1024 ** 3
const LARGEST_MANIFEST = 8 * 1024 ** 2
const AUDIO = /^audio\/[0-9a-f]{64}$/
const FILM = /^films\/[0-9a-f]{64}$/

const newer = () =>
  new Problem(
    409,
    'This backup was made by a newer version of Azalea. Nothing was changed: open it with that one.',
  )
const broken = () =>
  new Problem(415, 'This backup is broken: what it holds is not what it says. Nothing was changed.')

/**
 * Takes a backup over. Into an empty place it gives the same database, row for row; into one that has something it is merged:
 * what is here stays as it is, what is missing is added, and a routine that differs comes as a second one beside it.
 * @param file a zip somebody brings
 * @throws Problem in words for what is broken, foreign, too large, or newer; then nothing is changed
 */
export async function restoreBackup(file: string): Promise<Restored> {
  const zip = await openZip(file, (name) =>
    name === MANIFEST
      ? LARGEST_MANIFEST
      : name === DATABASE
        ? LARGEST_DATABASE
        : AUDIO.test(name)
          ? LARGEST_SONG
          : FILM.test(name)
            ? LARGEST_FILM
            : null,
  )
  const dir = passingFile('restore')
  await mkdir(dir, { mode: 0o700 })
  const kept: Incoming[] = []
  const marks: (() => Promise<void>)[] = []
  const keepAll = () =>
    Promise.all(
      kept.map(async (k) => {
        marks.push(await markKeeping(k.hash))
        await k.keep()
      }),
    )
  try {
    const manifest = await manifestOf(zip)
    await roomFor(zip, dir)
    const copy = path.join(dir, DATABASE)
    const got = await poured(await zip.read(DATABASE).catch(() => Promise.reject(broken())), copy)
    if (got !== manifest.database.sha256) throw broken()
    const client = await snapshot(copy)
    try {
      for (const [folder, store, files] of [
        ['audio', diskStore(), manifest.songs],
        ['films', filmStore(), manifest.films],
      ] as const)
        for (const { sha256 } of files) {
          // In a school a file is somebody's who has it: that it is here already proves nothing of who brings the backup.
          if (isHere(me()) && (await store.size(sha256)) !== null) continue
          const incoming = await store.receive(await zip.read(`${folder}/${sha256}`))
          kept.push(incoming)
          if (incoming.hash !== sha256) throw broken()
        }
      const brought = new Set(kept.map((k) => k.hash))
      return await takeOver(client, keepAll, brought).catch(async (error: unknown) => {
        await leaveNothing(kept.map((k) => k.hash))
        throw error
      })
    } finally {
      client.close()
    }
  } finally {
    zip.close()
    for (const k of kept) await k.discard()
    for (const done of marks) await done()
    await rm(dir, { recursive: true, force: true })
  }
}

/** What the backup says of itself, checked against what is in it. */
async function manifestOf(zip: OpenZip): Promise<Manifest> {
  if (!zip.sizes.has(MANIFEST) || !zip.sizes.has(DATABASE))
    throw new Problem(415, 'This is no backup of Azalea. Nothing was changed.')
  let data: unknown
  try {
    data = JSON.parse(await zip.text(MANIFEST))
  } catch (error) {
    throw error instanceof Problem ? error : broken()
  }
  const version = v.safeParse(v.object({ azalea: v.literal('backup'), version: v.number() }), data)
  if (version.success && version.output.version > 2) throw newer()
  const manifest = v.safeParse(ManifestSchema, data)
  if (!manifest.success) throw broken()
  const { songs, films, database: db } = manifest.output
  const listed = new Map([
    [DATABASE, db.bytes],
    ...songs.map((s) => [`audio/${s.sha256}`, s.bytes] as const),
    ...films.map((f) => [`films/${f.sha256}`, f.bytes] as const),
  ])
  for (const [name, size] of zip.sizes) if (name !== MANIFEST && listed.get(name) !== size) throw broken()
  if (listed.size !== zip.sizes.size - 1) throw broken()
  return manifest.output
}

/** Takes files away again whose song or film did not come to be. */
async function leaveNothing(hashes: readonly string[]): Promise<void> {
  for (const hash of hashes) {
    const song = await (await database()).query.songs.findFirst({ where: eq(schema.songs.hash, hash) })
    if (!song) await diskStore().remove(hash)
    await removeUnnamedFilm(await database(), hash)
  }
}

/** @throws Problem 507 where there is no room for it */
async function roomFor(zip: OpenZip, dir: string): Promise<void> {
  const needed = [...zip.sizes.values()].reduce((a, b) => a + b, 0)
  for (const place of [dir, dataDirectory()]) {
    const { bavail, bsize } = await statfs(place)
    if (bavail * bsize < needed)
      throw new Problem(
        507,
        `There is no room on the disk for this backup: it needs ${Math.ceil(needed / 1024 ** 2)} MB. Nothing was changed.`,
      )
  }
}

/** Writes a stream to a file. @returns its SHA-256 */
async function poured(stream: Readable, file: string): Promise<string> {
  const hash = createHash('sha256')
  const through = new Transform({
    transform(chunk: Buffer, _, done) {
      hash.update(chunk)
      done(null, chunk)
    },
  })
  try {
    await pipeline(stream, through, createWriteStream(file, { flags: 'wx' }))
  } catch {
    throw broken()
  }
  return hash.digest('hex')
}

/** The database of a backup, brought up to this version. @throws Problem where it is newer, broken, or holds what ours never does */
async function snapshot(file: string): Promise<Client> {
  const client = createClient({ url: pathToFileURL(file).href })
  try {
    await client.execute('PRAGMA trusted_schema = OFF')
    const check = await client.execute('PRAGMA quick_check')
    const kinds = await client.execute("SELECT name FROM sqlite_master WHERE type NOT IN ('table', 'index')")
    if (check.rows[0]?.[0] !== 'ok' || kinds.rows.length) throw broken()
    const made = await client.execute('SELECT max(created_at) FROM __drizzle_migrations')
    if (Number(made.rows[0]?.[0]) > (await lastMigration())) throw newer()
    const db = drizzle(client, { schema })
    await migrate(db, { migrationsFolder: path.resolve(/* turbopackIgnore: true */ 'drizzle') })
    await upgrade(db)
    await hasOurForm(client)
    return client
  } catch (error) {
    client.close()
    throw error instanceof Problem ? error : broken()
  }
}

/** @throws Problem where a table of the backup has other columns than ours */
async function hasOurForm(client: Client): Promise<void> {
  for (const table of Object.values(schema)) {
    const { rows } = await client.execute({
      sql: 'SELECT name FROM pragma_table_info(?)',
      args: [getTableName(table)],
    })
    const theirs = rows.map((r) => String(r.name)).sort()
    const ours = Object.values(getTableColumns(table))
      .map((c) => c.name)
      .sort()
    if (theirs.join() !== ours.join()) throw broken()
  }
}

const Journal = v.object({ entries: v.array(v.object({ when: v.number() })) })

/** When the newest form of the database this program knows was made. */
async function lastMigration(): Promise<number> {
  const file = path.resolve(/* turbopackIgnore: true */ 'drizzle/meta/_journal.json')
  const { entries } = v.parse(Journal, JSON.parse(await readFile(file, 'utf8')))
  await database()
  return Math.max(...entries.map((e) => e.when))
}
