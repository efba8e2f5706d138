import path from 'node:path'
import { pathToFileURL } from 'node:url'
import { createClient } from '@libsql/client'
import { eq, inArray, type SQL, sql, type Table } from 'drizzle-orm'
import { drizzle } from 'drizzle-orm/libsql'
import { migrate } from 'drizzle-orm/libsql/migrator'
import type { Database } from './database'
import * as schema from './schema'

/**
 * Writes all that is somebody's into a database of its own, as if it had been made on a machine alone: what they own, what they logged on
 * it, and the lists of the school. Row by row, so that nothing of anybody else is in the file.
 * @param file where; nothing is there yet
 */
export async function writeOwnCopy(db: Database, person: string, file: string): Promise<void> {
  const client = createClient({ url: pathToFileURL(file).href })
  try {
    const copy = drizzle(client, { schema })
    await migrate(copy, { migrationsFolder: path.resolve(/* turbopackIgnore: true */ 'drizzle') })
    // Others write meanwhile: what comes after this moment is left out, with all that belongs to it.
    const { songs, routines } = schema
    const heard = (await db.select({ id: songs.id }).from(songs).where(eq(songs.owner, person))).map(
      (r) => r.id,
    )
    const onThem = sql`${eq(routines.owner, person)} AND ${inArray(routines.songId, heard)}`
    const danced = (await db.select({ id: routines.id }).from(routines).where(onThem)).map((r) => r.id)
    const wanted: [Table, SQL][] = [
      [songs, inArray(songs.id, heard)],
      ...[schema.hearings, schema.traces, schema.measures].map((t): [Table, SQL] => [
        t,
        inArray(t.songId, heard),
      ]),
      [routines, inArray(routines.id, danced)],
      ...[schema.repetitions, schema.lessonSteps, schema.timings].map((t): [Table, SQL] => [
        t,
        sql`${eq(t.person, person)} AND ${inArray(t.routineId, danced)}`,
      ]),
      ...[schema.ownCounts, schema.recordings, schema.films].map((t): [Table, SQL] => [
        t,
        eq(t.owner, person),
      ]),
      [schema.presets, sql`true`],
      [schema.moveLists, sql`true`],
    ]
    for (const [table, which] of wanted) await copyRows(db, copy, table, which)
  } finally {
    client.close()
  }
}

/** Rows one after the other: pictures of sound are large. */
async function copyRows(from: Database, to: Database, table: Table, which: SQL): Promise<void> {
  for (let after = 0; ; ) {
    const [row] = await from
      .select({ at: sql<number>`rowid`, row: table as never })
      .from(table)
      .where(sql`${which} AND rowid > ${after}`)
      .orderBy(sql`rowid`)
      .limit(1)
    if (!row) return
    after = Number(row.at)
    const values = row.row as Record<string, unknown>
    const nobodys = Object.fromEntries(['owner', 'person'].filter((k) => k in values).map((k) => [k, '']))
    await to.insert(table).values({ ...values, ...nobodys })
  }
}
