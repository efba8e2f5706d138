import { eq } from 'drizzle-orm'
import * as v from 'valibot'
import { line } from '@/core/routine/document/text-schema'
import { write } from './database'
import { Problem } from './problem'
import { type lessonSteps, type repetitions, routines, type timings } from './schema'
import { me } from './who'

/** Ids and times of rows are given by the window when it happened: sent again, a row is known. */
export const rowOrigin = {
  id: v.pipe(v.string(), v.regex(/^[A-Za-z0-9_-]{8,80}$/, 'An id has a wrong form.')),
  doneAt: v.pipe(
    v.number(),
    v.integer(),
    v.minValue(Date.UTC(2000, 0), 'That was before there was a log.'),
    v.maxValue(Date.UTC(2200, 0), 'That is not yet.'),
  ),
}

/** Words of a row: one line. */
export const words = line

/** Seconds of the song a row is about. */
export const songTime = v.nullable(v.pipe(v.number(), v.finite(), v.minValue(-3600), v.maxValue(36_000)))

type LogTable = typeof repetitions | typeof lessonSteps | typeof timings

/**
 * Adds one row to a log; rows are only ever added. The same row sent again changes nothing.
 * @throws Problem 404 where the routine is gone, 409 where another row has that id
 */
export async function appendRow(
  table: LogTable,
  routineId: string,
  row: { id: string; doneAt: number } & Record<string, unknown>,
): Promise<string> {
  await write(async (tx) => {
    const there = await tx.select({ id: routines.id }).from(routines).where(eq(routines.id, routineId))
    if (!there.length) throw new Problem(404, 'That routine is not here any more.', 'missing')
    const values = { ...row, routineId, person: me().id, doneAt: new Date(row.doneAt) }
    const [known] = await tx.select().from(table).where(eq(table.id, row.id))
    if (known) {
      const stored = known as Record<string, unknown>
      const same = Object.entries(values).every(([key, value]) => plain(stored[key]) === plain(value))
      if (!same) throw new Problem(409, 'Another row of the log has this id.', 'taken')
      return
    }
    await tx.insert(table).values(values as typeof table.$inferInsert)
  })
  return row.id
}

const plain = (value: unknown) => JSON.stringify(value ?? null)
