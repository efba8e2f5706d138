import { eq, type SQL } from 'drizzle-orm'
import type { LibSQLDatabase } from 'drizzle-orm/libsql'
import { pageStore } from './file-store'
import type * as schema from './schema'
import { classLinks } from './school-schema'

type Database = LibSQLDatabase<typeof schema>

/** Takes the file of a page away that no link leads to. */
export async function removeUnnamedPage(db: Database, hash: string): Promise<void> {
  const [named] = await db
    .select({ id: classLinks.id })
    .from(classLinks)
    .where(eq(classLinks.page, hash))
    .limit(1)
  if (!named) await pageStore().remove(hash)
}

/** The pages some links lead to, which are nobody's once those are gone. */
export async function pagesOf(db: Pick<Database, 'select'>, which: SQL): Promise<string[]> {
  const rows = await db.select({ page: classLinks.page }).from(classLinks).where(which)
  return rows.map((r) => r.page)
}
