import { eq } from 'drizzle-orm'
import { database, type Transaction } from './database'
import { Problem } from './problem'
import { routines } from './schema'

/** The song of a routine. @throws Problem 404 */
export async function songOfRoutine(id: string, on?: Transaction): Promise<string> {
  const [row] = await (on ?? (await database()))
    .select({ songId: routines.songId })
    .from(routines)
    .where(eq(routines.id, id))
  if (!row) throw new Problem(404, 'This routine is not here any more.', 'missing')
  return row.songId
}
