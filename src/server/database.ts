import { AsyncResource } from 'node:async_hooks'
import { readFileSync } from 'node:fs'
import { stat } from 'node:fs/promises'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { type Client, createClient } from '@libsql/client'
import { sql } from 'drizzle-orm'
import { drizzle, type LibSQLDatabase } from 'drizzle-orm/libsql'
import { migrate } from 'drizzle-orm/libsql/migrator'
import { faultOf, isLocked, isLost } from './faults'
import { ASKED_MS, askingAgain, patiently } from './patience'
import { Problem } from './problem'
import * as schema from './schema'
import { databaseToken, databaseUrl } from './settings'
import { sweep } from './sweep'
import { upgrade } from './upgrade'

export type Database = LibSQLDatabase<typeof schema> & { $client: Client }

interface Edit {
  /** Done as whoever asked for it. @returns what came of it */
  make: (tx: Transaction) => Promise<unknown>
  done: (made: unknown) => void
  failed: (error: unknown) => void
}

interface Opened {
  url: string
  client: Promise<Client>
  database: Promise<Database>
  writes: Promise<unknown>
  /** Edits that wait for their turn, and are written together. */
  edits: Edit[]
  /** It was made by a newer version of Azalea: it is looked at and never written. */
  newer: boolean
  quiet: ReturnType<typeof setTimeout> | null
  /** A journal of so many bytes is settled though others go on writing. */
  long: number
  sweeping: ReturnType<typeof setInterval> | null
}

// Kept on globalThis: a development server loads this module anew with each change.
const shelf = globalThis as unknown as { azaleaDatabase?: Opened }

/** After so much quiet what was written goes from the journal into the database itself, which may be copied then. */
const QUIET_MS = 1500
const SWEPT_MS = 3600 * 1000
/**
 * Where somebody always reads, the journal is never begun anew: it grows, and whoever reads looks through all of it. From so many bytes on
 * it is settled between two edits; where a reader was in the way, again after so many more.
 */
const [LONG_JOURNAL, LONGER] = [16 * 2 ** 20, 4 * 2 ** 20]
const MIGRATIONS = 'drizzle'

const migrations = () => path.resolve(/* turbopackIgnore: true */ MIGRATIONS)

/** True where migrations were run on it that this version does not know. */
async function isNewer(database: Database): Promise<boolean> {
  const [table] = await database.all(
    sql`SELECT name FROM sqlite_master WHERE type = 'table' AND name = '__drizzle_migrations'`,
  )
  if (!table) return false
  const [last] = await database.all<{ at: number | null }>(
    sql`SELECT max(created_at) AS at FROM __drizzle_migrations`,
  )
  const journal = JSON.parse(readFileSync(path.join(migrations(), 'meta/_journal.json'), 'utf8')) as {
    entries: { when: number }[]
  }
  return Number(last?.at ?? 0) > Math.max(...journal.entries.map((e) => e.when))
}

async function open(now: Opened): Promise<Database> {
  const client = await now.client
  const database = drizzle(client, { schema })
  return patiently(client, async () => {
    now.newer = await isNewer(database)
    if (now.newer) {
      console.warn('This data was made by a newer version of Azalea: it is shown and not changed.')
      return database
    }
    // WAL stays in the file; a libSQL server keeps its own journal and refuses the pragma.
    if (now.url.startsWith('file:')) await client.execute('PRAGMA journal_mode = WAL')
    await migrate(database, { migrationsFolder: migrations() })
    await upgrade(database)
    // What was refused and never tried again would hold the journal (patience.ts).
    const swept = () =>
      patiently(client, () => sweep(database)).catch((e: unknown) =>
        console.warn(`Leftovers stay: ${faultOf(e)?.message ?? e}`),
      )
    await swept()
    now.sweeping = setInterval(() => {
      // Nobody else writes meanwhile.
      now.writes = now.writes.then(swept)
    }, SWEPT_MS)
    now.sweeping.unref()
    return database
  })
}

function opened(): Opened {
  const url = databaseUrl()
  if (shelf.azaleaDatabase?.url === url) return shelf.azaleaDatabase
  if (shelf.azaleaDatabase?.sweeping) clearInterval(shelf.azaleaDatabase.sweeping)
  const token = databaseToken()
  const client = Promise.resolve().then(() => {
    const made = createClient({ url, timeout: ASKED_MS, ...(token ? { authToken: token } : {}) })
    return made.protocol === 'file' ? made : askingAgain(made)
  })
  const now: Opened = {
    ...{ url, client, writes: Promise.resolve(), edits: [] },
    ...{ newer: false, quiet: null, long: LONG_JOURNAL, sweeping: null },
    database: null as never,
  }
  now.database = open(now)
  // A failed opening is tried again by the next request.
  now.database.catch(() => {
    client.then((c) => c.close()).catch(() => {})
    if (shelf.azaleaDatabase === now) shelf.azaleaDatabase = undefined
  })
  shelf.azaleaDatabase = now
  return now
}

/** The database, migrated. */
export function database(): Promise<Database> {
  return opened().database
}

/** The client below it, for what brings tables and words of its own. */
export async function databaseClient(): Promise<Client> {
  await database()
  return opened().client
}

export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0]

/** Puts what lies in the journal into the database itself. */
async function settle(now: Opened): Promise<void> {
  if (!now.url.startsWith('file:') || now.newer) return
  await (await now.client).execute('PRAGMA wal_checkpoint(TRUNCATE)')
}

/** Bytes of the journal as it lies on the disk; none at an address. */
async function journalBytes({ url }: Opened): Promise<number> {
  if (!url.startsWith('file:')) return 0
  const { size } = await stat(`${fileURLToPath(url)}-wal`).catch(() => ({ size: 0 }))
  return size
}

async function settleWhenLong(now: Opened): Promise<void> {
  if ((await journalBytes(now)) < now.long) return
  await settle(now).catch(() => {})
  now.long = Math.max(LONG_JOURNAL, (await journalBytes(now)) + LONGER)
}

/** Settles a database that is about to be left; what cannot be settled lies in its journal, where it is safe too. */
export async function settleNow(): Promise<void> {
  const now = shelf.azaleaDatabase
  if (now) await settle(now).catch(() => {})
}

/** Runs something alone: what changes the database or the files that belong to its rows waits for each other. */
export function queued<T>(work: (database: Database) => Promise<T>): Promise<T> {
  const here = opened()
  if (here.quiet) clearTimeout(here.quiet)
  const next = here.writes.then(async () => {
    const database = await here.database
    if (here.newer)
      throw new Problem(
        409,
        'This data was made by a newer version of Azalea: it can be looked at, and nothing in it is changed. Open it with that version.',
        'newer',
      )
    return work(database)
  })
  here.writes = next
    .catch(() => {})
    .then(() => settleWhenLong(here).catch(() => {}))
    .then(() => {
      // The one of an edit that ended while this one waited.
      if (here.quiet) clearTimeout(here.quiet)
      here.quiet = setTimeout(() => {
        here.writes = here.writes.then(() => settle(here)).catch(() => {})
      }, QUIET_MS)
      here.quiet.unref()
    })
  return next
}

/** One transaction, begun again while somebody else holds the database, or where it was lost. */
export const transact = <T>(database: Database, edit: (tx: Transaction) => Promise<T>): Promise<T> =>
  patiently(database.$client, () => database.transaction(edit))

/** So many edits are written together at most, as others wait for the database too; at an address one, as what is lost there is less then. */
const together = ({ url }: Opened) => (url.startsWith('file:') ? 16 : 1)

/**
 * Runs one edit, whole or not at all. Edits wait for each other: overlapping transactions of one libSQL client fail. Those that wait at
 * the same time share a transaction, each on a savepoint of its own: where several processes write, getting the database takes longer
 * than writing.
 */
export function write<T>(edit: (tx: Transaction) => Promise<T>): Promise<T> {
  const here = opened()
  return new Promise<T>((done, failed) => {
    // What asks who asks (who.ts) is to find who asked for this one.
    const make = AsyncResource.bind(edit)
    here.edits.push({ make, done: done as Edit['done'], failed })
    if (here.edits.length === 1) writeNext(here)
  })
}

function writeNext(here: Opened): void {
  const taken: Edit[] = []
  queued(async (db) => {
    taken.push(...here.edits.splice(0, together(here)))
    if (here.edits.length) writeNext(here)
    return transact(db, (tx) => makeAll(tx, taken))
  }).then(
    (made) => {
      for (const tell of made) tell()
    },
    (error) => {
      // Where none was taken up yet, it was refused before.
      for (const { failed } of taken.length ? taken : here.edits.splice(0)) failed(error)
    },
  )
}

/** Makes edits one after another. @returns for each how it is told what came of it, once all is written */
async function makeAll(tx: Transaction, edits: readonly Edit[]): Promise<(() => void)[]> {
  const told: (() => void)[] = []
  for (const { make, done, failed } of edits)
    try {
      const made = edits.length === 1 ? await make(tx) : await tx.transaction((own) => make(own))
      told.push(() => done(made))
    } catch (error) {
      // Alone, it takes the transaction along; what befell the database befell all.
      if (edits.length === 1 || isLocked(error) || isLost(error)) throw error
      told.push(() => failed(error))
    }
  return told
}
