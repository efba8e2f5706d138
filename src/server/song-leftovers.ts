import { eq } from 'drizzle-orm'
import type { LibSQLDatabase } from 'drizzle-orm/libsql'
import { pagesOf, removeUnnamedPage } from './class-leftovers'
import { diskStore } from './file-store'
import { markKeeping } from './leftovers'
import type * as schema from './schema'
import { routines, saves, songs } from './schema'
import { classLinks, sheets } from './school-schema'
import { removeUnnamedSheet, sheetsOf } from './sheet-leftovers'

type Database = LibSQLDatabase<typeof schema>

/** Takes a file of sound away that no song names. */
export async function removeUnnamed(db: Database, hash: string): Promise<void> {
  const named = await db.query.songs.findFirst({ where: eq(songs.hash, hash) })
  if (!named) await diskStore().remove(hash)
}

/** How the saves of a routine are named (saves.ts). */
export const savesOf = (id: string) => `routine ${id}`

/**
 * Takes a routine and its log away for good, and the song with its audio when nothing else uses it. One that is gone stays gone. To be
 * called while nobody else writes: the same song dropped at this moment is taken in before or after.
 * @param transact runs one transaction
 */
export async function purgeRoutine<D extends Database>(
  db: D,
  id: string,
  transact: <T>(db: D, edit: Parameters<typeof db.transaction<T>>[0]) => Promise<T>,
): Promise<void> {
  let removed = async () => {}
  let pages: string[] = []
  let set: string[] = []
  const orphan = await transact(db, async (tx) => {
    const row = await tx.query.routines.findFirst({ where: eq(routines.id, id) })
    if (!row) return null
    pages = await pagesOf(tx, eq(classLinks.routineId, id))
    set = await sheetsOf(tx, eq(sheets.routineId, id))
    await tx.delete(routines).where(eq(routines.id, id))
    await tx.delete(saves).where(eq(saves.document, savesOf(id)))
    const left = await tx
      .select({ id: routines.id })
      .from(routines)
      .where(eq(routines.songId, row.songId))
      .limit(1)
    if (left.length) return null
    const [song] = await tx.delete(songs).where(eq(songs.id, row.songId)).returning({ hash: songs.hash })
    if (song) removed = await markKeeping(song.hash)
    return song?.hash ?? null
  })
  if (orphan) await removeUnnamed(db, orphan)
  for (const page of pages) await removeUnnamedPage(db, page)
  for (const sheet of set) await removeUnnamedSheet(db, sheet)
  await removed()
}
