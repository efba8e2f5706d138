import path from 'node:path'
import type { Client } from '@libsql/client'
import { and, isNull, lt, notExists, sql } from 'drizzle-orm'
import type { LibSQLDatabase } from 'drizzle-orm/libsql'
import { sweepNotices } from './account-notices'
import { removeUnnamedPage } from './class-leftovers'
import { removeUnnamedFilm, sweepFilms } from './film-leftovers'
import { sweepIncoming } from './incoming-films'
import { bounded, sweepPassing } from './leftovers'
import { patiently } from './patience'
import type * as schema from './schema'
import { recordings, routines, saves } from './schema'
import { jobs } from './school-schema'
import { dataDirectory } from './settings'
import { removeUnnamedSheet, sweepSheets } from './sheet-leftovers'
import { purgeRoutine, removeUnnamed } from './song-leftovers'

type Database = LibSQLDatabase<typeof schema> & { $client: Client }

/** A recording no routine names is kept so long, for those who undo. */
const KEPT_MS = 30 * 24 * 3600 * 1000
/** What is in the bin is kept so long. */
const BINNED_MS = 30 * 24 * 3600 * 1000
/** Windows are not open for longer: what one of them saved last is known for so long. */
const SAVES_KEPT_MS = 90 * 24 * 3600 * 1000
/** What could not be done is known for so long; nobody waits longer for what was never taken. */
const JOBS_KEPT_MS = 24 * 3600 * 1000
/** Spoken words that are kept, each with its stress: some fifty megabytes. */
const VOICE_FILES = 4000

/** Takes away what nobody needs any more: at the start, and now and then. */
export async function sweep(db: Database, now = Date.now()): Promise<void> {
  await sweepPassing(async (hash) => {
    await removeUnnamed(db, hash)
    await removeUnnamedFilm(db, hash)
    await removeUnnamedPage(db, hash)
    await removeUnnamedSheet(db, hash)
  }, now)
  await bounded(path.join(dataDirectory(), 'voice'), VOICE_FILES)
  await sweepBin(db, now)
  await sweepRecordings(db, now)
  await sweepSaves(db, now)
  await sweepFilms(db, now)
  await sweepIncoming()
  await sweepJobs(db, now)
  await sweepSheets(db, now)
  await sweepNotices(db, now)
}

/** What has been in the bin for a month goes for good. */
async function sweepBin(db: Database, now: number): Promise<void> {
  const old = await db
    .select({ id: routines.id })
    .from(routines)
    .where(lt(routines.binnedAt, new Date(now - BINNED_MS)))
  for (const { id } of old)
    await purgeRoutine(db, id, (on, edit) => patiently(on.$client, () => on.transaction(edit)))
}

/** Lets go of recordings no routine names any more, a month after they were made. */
export async function sweepRecordings(db: Database, now = Date.now()): Promise<void> {
  const named = db
    .select({ one: sql`1` })
    .from(routines)
    .where(sql`instr(${routines.document}, ${recordings.id}) > 0`)
  await db.delete(recordings).where(and(lt(recordings.recordedAt, new Date(now - KEPT_MS)), notExists(named)))
}

/** Forgets saves of windows that were closed long ago. */
export async function sweepSaves(db: Database, now = Date.now()): Promise<void> {
  await db.delete(saves).where(lt(saves.savedAt, new Date(now - SAVES_KEPT_MS)))
}

/** Forgets work that was asked for long ago, and that nobody is at. */
export async function sweepJobs(db: Database, now = Date.now()): Promise<void> {
  await db.delete(jobs).where(and(isNull(jobs.lease), lt(jobs.askedAt, new Date(now - JOBS_KEPT_MS))))
}
