import { and, eq, isNull, lt, sql } from 'drizzle-orm'
import type { LibSQLDatabase } from 'drizzle-orm/libsql'
import { filmStore } from './file-store'
import type * as schema from './schema'
import { films, routines } from './schema'

type Database = LibSQLDatabase<typeof schema>

/** A film no routine names is kept so long, for those who undo. */
const KEPT_MS = 7 * 24 * 3600 * 1000

/** Takes the file of a film away that no row names. */
export async function removeUnnamedFilm(db: Database, hash: string): Promise<void> {
  const named = await db.query.films.findFirst({ where: eq(films.hash, hash) })
  if (!named) await filmStore().remove(hash)
}

/** Marks films no routine names and no class sent, and lets go of those that have been so for a while. */
export async function sweepFilms(db: Database, now = Date.now()): Promise<void> {
  const named = sql`(EXISTS (SELECT 1 FROM ${routines} WHERE instr(${routines.document}, ${films.id}) > 0)
    OR ${films.id} IN (SELECT id FROM class_films))`
  await db.update(films).set({ unnamedSince: sql`NULL` }).where(named)
  await db
    .update(films)
    .set({ unnamedSince: new Date(now) })
    .where(and(isNull(films.unnamedSince), sql`NOT ${named}`))
  const old = lt(films.unnamedSince, new Date(now - KEPT_MS))
  const gone = await db.select({ hash: films.hash }).from(films).where(old)
  await db.delete(films).where(old)
  for (const { hash } of gone) await removeUnnamedFilm(db, hash)
}
