import { and, asc, eq, sql } from 'drizzle-orm'
import * as v from 'valibot'
import type { LoggedTiming } from '@/core/drill'
import { readableRows } from './checked-rows'
import { database } from './database'
import { appendRow, rowOrigin, songTime, words } from './log-rows'
import { ownRows } from './may'
import { timings } from './schema'
import { me } from './who'

const ms = v.pipe(v.number(), v.minValue(-2000), v.maxValue(2000))

/** What comes from the timing trainer. */
export const TimingSchema = v.object({
  ...rowOrigin,
  from: songTime,
  to: songTime,
  label: words(300),
  speed: v.pipe(v.number(), v.minValue(0.1), v.maxValue(4)),
  by: v.picklist(['tap', 'clap']),
  n: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(100_000)),
  mean: ms,
  spread: v.pipe(ms, v.minValue(0)),
  worst: words(20),
  worstMs: ms,
})

export type NewTiming = v.InferOutput<typeof TimingSchema>

/** Adds one row to the log of timings. @throws Problem 404 */
export const logTiming = (routineId: string, timing: NewTiming): Promise<string> =>
  appendRow(timings, routineId, timing)

/** All goes at the timing trainer on a routine, oldest first. */
export async function timingLog(routineId: string): Promise<LoggedTiming[]> {
  const rows = await (await database())
    .select()
    .from(timings)
    .where(and(eq(timings.routineId, routineId), ownRows(me(), timings.person)))
    .orderBy(asc(timings.doneAt), sql`rowid`)
  return readableRows(timings, rows).map(
    ({ routineId: _, person: ____, firstPhrase: __, lastPhrase: ___, doneAt, ...r }) => ({
      ...r,
      doneAt: doneAt.getTime(),
    }),
  )
}
