import { eq } from 'drizzle-orm'
import { mayBeErased } from './accounts'
import { pagesOf, removeUnnamedPage } from './class-leftovers'
import { queued, transact } from './database'
import { removeUnnamedFilm } from './film-leftovers'
import {
  films,
  lessonSteps,
  ownCounts,
  recordings,
  repetitions,
  routines,
  songs,
  summaries,
  timings,
} from './schema'
import { classLinks, people, sheets } from './school-schema'
import { removeUnnamedSheet, sheetsOf } from './sheet-leftovers'
import { purgeRoutine, removeUnnamed } from './song-leftovers'

/**
 * Erases an account with all that is its: routines, songs, films, recordings, what it logged anywhere. The account goes last, so that
 * what was broken off is done again by asking again.
 * @throws Problem 404 where it is gone, 409 where nobody would keep the accounts
 */
export async function erasePerson(id: string): Promise<void> {
  await mayBeErased(id)
  await queued(async (db) => {
    const own = await db.select({ id: routines.id }).from(routines).where(eq(routines.owner, id))
    for (const r of own) await purgeRoutine(db, r.id, transact)
    const files = await transact(db, async (tx) => {
      const sounds = await tx.delete(songs).where(eq(songs.owner, id)).returning({ hash: songs.hash })
      const pictures = await tx.delete(films).where(eq(films.owner, id)).returning({ hash: films.hash })
      for (const table of [recordings, ownCounts] as const) await tx.delete(table).where(eq(table.owner, id))
      for (const table of [repetitions, lessonSteps, timings, summaries] as const)
        await tx.delete(table).where(eq(table.person, id))
      const pages = await pagesOf(tx, eq(classLinks.personId, id))
      const set = await sheetsOf(tx, eq(sheets.personId, id))
      await tx.delete(people).where(eq(people.id, id))
      return { sounds, pictures, pages, set }
    })
    for (const { hash } of files.sounds) await removeUnnamed(db, hash)
    for (const { hash } of files.pictures) await removeUnnamedFilm(db, hash)
    for (const page of files.pages) await removeUnnamedPage(db, page)
    for (const sheet of files.set) await removeUnnamedSheet(db, sheet)
  })
}
