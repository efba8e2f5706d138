import { and, lt, notExists, sql } from 'drizzle-orm'
import type { LibSQLDatabase } from 'drizzle-orm/libsql'
import type * as schema from './schema'
import { recordings, routines } from './schema'

/** A recording no routine names is kept so long, for those who undo. */
const KEPT_MS = 30 * 24 * 3600 * 1000

/** Lets go of recordings no routine names any more, a month after they were made. */
export async function sweepRecordings(db: LibSQLDatabase<typeof schema>, now = Date.now()): Promise<void> {
  const named = db
    .select({ one: sql`1` })
    .from(routines)
    .where(sql`instr(${routines.document}, ${recordings.id}) > 0`)
  await db.delete(recordings).where(and(lt(recordings.recordedAt, new Date(now - KEPT_MS)), notExists(named)))
}
