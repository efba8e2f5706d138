import { and, desc, eq, isNotNull, isNull } from 'drizzle-orm'
import { oneLine } from '@/core/routine/document/text-schema'
import { database, queued, transact, write } from './database'
import { ownRows } from './may'
import { Problem } from './problem'
import { routines } from './schema'
import { purgeRoutine } from './song-leftovers'
import { me } from './who'

/* What is taken from the shelf lies in a bin for a month, with all that was danced of it. */

/** Puts a routine into the bin; one that is gone stays gone. */
export async function binRoutine(id: string, now = new Date()): Promise<void> {
  await write((tx) =>
    tx
      .update(routines)
      .set({ binnedAt: now })
      .where(and(eq(routines.id, id), isNull(routines.binnedAt))),
  )
}

/** Takes it out again; one that is out stays out. @throws Problem 404 where it is gone */
export async function unbinRoutine(id: string): Promise<void> {
  const back = await write((tx) =>
    tx.update(routines).set({ binnedAt: null }).where(eq(routines.id, id)).returning({ id: routines.id }),
  )
  if (!back.length) throw new Problem(404, 'That routine is not here any more.', 'missing')
}

export interface Binned {
  id: string
  title: string
  binnedAt: number
}

/** What is in the bin of who asks, the last first. */
export async function binned(): Promise<Binned[]> {
  const rows = await (await database())
    .select({ id: routines.id, title: routines.title, binnedAt: routines.binnedAt })
    .from(routines)
    .where(and(ownRows(me(), routines.owner), isNotNull(routines.binnedAt)))
    .orderBy(desc(routines.binnedAt))
  return rows.map((r) => ({ ...r, title: oneLine(String(r.title)), binnedAt: r.binnedAt?.getTime() ?? 0 }))
}

/** Takes a routine away for good. One that is gone stays gone. */
export const removeRoutine = (id: string): Promise<void> => queued((db) => purgeRoutine(db, id, transact))
