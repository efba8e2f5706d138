import { and, eq, gt, lt, ne } from 'drizzle-orm'
import * as v from 'valibot'
import { database, write } from './database'
import { routines } from './schema'
import { people, presences } from './school-schema'
import { isHere, me } from './who'

/** Who was heard of so long ago is still there: pages tell of themselves three times as often. */
const THERE_MS = 45_000

export const HereSchema = v.object({ window: v.pipe(v.string(), v.minLength(8), v.maxLength(40)) })

/** Who else has a routine open, and its newest revision. */
export interface OthersHere {
  revision: number
  others: string[]
}

/**
 * Says that somebody has a routine open, and asks who else has.
 * @param window tells windows of one person apart
 */
export async function tellPresence(
  routineId: string,
  { window }: v.InferOutput<typeof HereSchema>,
  now = Date.now(),
): Promise<OthersHere> {
  const who = me()
  const db = await database()
  const [row] = await db
    .select({ revision: routines.revision })
    .from(routines)
    .where(eq(routines.id, routineId))
  const revision = row?.revision ?? 0
  if (isHere(who)) return { revision, others: [] }
  await write(async (tx) => {
    await tx.delete(presences).where(lt(presences.at, new Date(now - THERE_MS)))
    await tx
      .insert(presences)
      .values({ routineId, personId: who.id, window, at: new Date(now) })
      .onConflictDoUpdate({ target: [presences.routineId, presences.window], set: { at: new Date(now) } })
  })
  const rows = await db
    .selectDistinct({ name: people.name })
    .from(presences)
    .innerJoin(people, eq(people.id, presences.personId))
    .where(
      and(
        eq(presences.routineId, routineId),
        ne(presences.personId, who.id),
        gt(presences.at, new Date(now - THERE_MS)),
      ),
    )
  return { revision, others: rows.map((r) => r.name).sort() }
}
