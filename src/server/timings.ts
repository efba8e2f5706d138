import { asc, eq, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import * as v from 'valibot'
import type { LoggedTiming } from '@/core/drill'
import { database, write } from './database'
import { Problem } from './problem'
import { routines, timings } from './schema'

const words = (most: number) => v.pipe(v.string(), v.maxLength(most))
const ms = v.pipe(v.number(), v.minValue(-2000), v.maxValue(2000))

/** What comes from the timing trainer. */
export const TimingSchema = v.object({
  firstPhrase: words(40),
  lastPhrase: words(40),
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
export async function logTiming(routineId: string, timing: NewTiming): Promise<string> {
  const id = nanoid()
  await write(async (tx) => {
    const there = await tx.select({ id: routines.id }).from(routines).where(eq(routines.id, routineId))
    if (!there.length) throw new Problem(404, 'That routine is not here any more.', 'missing')
    await tx.insert(timings).values({ id, routineId, doneAt: new Date(), ...timing })
  })
  return id
}

/** All goes at the timing trainer on a routine, oldest first. */
export async function timingLog(routineId: string): Promise<LoggedTiming[]> {
  const rows = await (await database())
    .select()
    .from(timings)
    .where(eq(timings.routineId, routineId))
    .orderBy(asc(timings.doneAt), sql`rowid`)
  return rows.map(({ routineId: _, doneAt, ...r }) => ({ ...r, doneAt: doneAt.getTime() }))
}
