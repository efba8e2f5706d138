import { and, eq, isNull, like, not } from 'drizzle-orm'
import type { LibSQLDatabase } from 'drizzle-orm/libsql'
import * as v from 'valibot'
import { HearingSchema } from '@/core/hear'
import { isNewer, type ReadRoutine, ROUTINE_VERSION, readRoutine, repairedBeats } from '@/core/routine'
import { common, type Seconds, type Stretch, timeOfTick } from '@/core/time'
import type * as schema from './schema'
import { hearings, repetitions, routines, timings } from './schema'

type Database = LibSQLDatabase<typeof schema>

const CURRENT = `{"version":${ROUTINE_VERSION},%`

/**
 * Brings documents of older versions up to this one, and with those of version 1 the rows of their log: those named phrases, which had ids
 * then, and keep seconds of the song now. A routine and its rows go over together or not at all; one that cannot be read
 * stays as it is.
 */
export async function upgrade(database: Database): Promise<void> {
  const old = await database
    .select({ id: routines.id })
    .from(routines)
    .where(not(like(routines.document, CURRENT)))
  for (const { id } of old) {
    try {
      await upgradeRoutine(database, id)
    } catch (error) {
      if (!(error instanceof v.ValiError || error instanceof SyntaxError)) throw error
      console.error(`Routine ${id} cannot be read:`, error.message)
    }
  }
}

async function upgradeRoutine(database: Database, id: string): Promise<void> {
  const row = await database.query.routines.findFirst({ where: eq(routines.id, id) })
  if (!row) return
  const document: unknown = JSON.parse(row.document)
  // It is looked at as it is (core/routine/document/newer.ts).
  if (isNewer(document)) return
  const read = readRoutine(document)
  const times = await beatsOf(database, row.songId, read)
  await database.transaction(async (tx) => {
    for (const table of [repetitions, timings] as const) {
      const named = await tx
        .selectDistinct({ first: table.firstPhrase, last: table.lastPhrase })
        .from(table)
        .where(and(eq(table.routineId, id), isNull(table.from)))
      for (const { first, last } of named) {
        const danced = stretchOf(read, first, last)
        if (!danced || times.length < 2) continue
        await tx
          .update(table)
          .set({ from: ms(timeOfTick(times, danced.from)), to: ms(timeOfTick(times, danced.to)) })
          .where(
            and(
              eq(table.routineId, id),
              eq(table.firstPhrase, first),
              eq(table.lastPhrase, last),
              isNull(table.from),
            ),
          )
      }
    }
    await tx
      .update(routines)
      .set({ document: JSON.stringify(read.routine) })
      .where(and(eq(routines.id, id), eq(routines.revision, row.revision)))
  })
}

const ms = (t: Seconds) => Math.round(t * 1000) / 1000

/** The counts between two phrases as they were drilled: as far as they belonged to the dance. */
function stretchOf({ routine, phrases }: ReadRoutine, first: string, last: string): Stretch | null {
  const [a, b] = [phrases?.get(first), phrases?.get(last)]
  if (!a || !b || b.to <= a.from) return null
  const whole = { from: a.from, to: b.to }
  return (routine.excerpt && common(whole, routine.excerpt)) ?? whole
}

/** The repaired grid a routine stood on; empty where its hearing cannot be read. */
async function beatsOf(
  database: Database,
  songId: string,
  { routine }: ReadRoutine,
): Promise<readonly Seconds[]> {
  const rows = await database
    .select({ version: hearings.version, data: hearings.data })
    .from(hearings)
    .where(eq(hearings.songId, songId))
  const wanted = rows.find((r) => r.version === routine.heardWith)
  const list = [...(wanted ? [wanted] : []), ...rows.sort((a, b) => a.version - b.version)]
  for (const { data } of list) {
    try {
      return repairedBeats(v.parse(HearingSchema, JSON.parse(data)).beats, routine.repairs)
    } catch {
      // One that cannot be read is passed over, as when the page is opened.
    }
  }
  return repairedBeats([], routine.repairs)
}
