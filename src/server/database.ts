import path from 'node:path'
import { createClient } from '@libsql/client'
import { drizzle, type LibSQLDatabase } from 'drizzle-orm/libsql'
import { migrate } from 'drizzle-orm/libsql/migrator'
import * as schema from './schema'
import { databaseUrl } from './settings'
import { sweepRecordings } from './sweep'
import { upgrade } from './upgrade'

export type Database = LibSQLDatabase<typeof schema>

interface Opened {
  url: string
  database: Promise<Database>
  writes: Promise<unknown>
}

// Kept on globalThis: a development server loads this module anew with each change.
const shelf = globalThis as unknown as { azaleaDatabase?: Opened }

async function open(url: string): Promise<Database> {
  const client = createClient({ url, timeout: 5000 })
  // WAL stays in the file; a libSQL server keeps its own journal and refuses the pragma.
  if (url.startsWith('file:')) await client.execute('PRAGMA journal_mode = WAL')
  const database = drizzle(client, { schema })
  await migrate(database, { migrationsFolder: path.resolve(/* turbopackIgnore: true */ 'drizzle') })
  await upgrade(database)
  await sweepRecordings(database)
  return database
}

function opened(): Opened {
  const url = databaseUrl()
  if (shelf.azaleaDatabase?.url === url) return shelf.azaleaDatabase
  const now: Opened = { url, database: open(url), writes: Promise.resolve() }
  // A failed opening is tried again by the next request.
  now.database.catch(() => {
    if (shelf.azaleaDatabase === now) shelf.azaleaDatabase = undefined
  })
  shelf.azaleaDatabase = now
  return now
}

/** The database, migrated. */
export function database(): Promise<Database> {
  return opened().database
}

export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0]

/** Runs something alone: what changes the database or the files that belong to its rows waits for each other. */
export function queued<T>(work: (database: Database) => Promise<T>): Promise<T> {
  const here = opened()
  const next = here.writes.then(async () => work(await here.database))
  here.writes = next.catch(() => {})
  return next
}

/**
 * Runs one edit in one transaction. Edits wait for each other: overlapping transactions of one libSQL client fail.
 */
export function write<T>(edit: (tx: Transaction) => Promise<T>): Promise<T> {
  return queued((database) => database.transaction(edit))
}
