import { createHash } from 'node:crypto'
import { and, eq, lt, type SQL } from 'drizzle-orm'
import type { LibSQLDatabase } from 'drizzle-orm/libsql'
import { sheetStore } from './file-store'
import type * as schema from './schema'
import { sheets } from './school-schema'

type Database = LibSQLDatabase<typeof schema>

/** The file of the sheet that comes of what is asked for. */
export const setFileOf = (id: string): string => createHash('sha256').update(`${id} set`).digest('hex')

/** A sheet that was asked for is kept so long: whoever waited has it by then. */
const KEPT_MS = 24 * 3600 * 1000

async function removeFiles(id: string): Promise<void> {
  for (const file of [id, setFileOf(id)]) await sheetStore().remove(file)
}

/** Takes the files of a sheet away that nobody asks for. */
export async function removeUnnamedSheet(db: Database, id: string): Promise<void> {
  const [named] = await db.select({ id: sheets.id }).from(sheets).where(eq(sheets.id, id))
  if (!named) await removeFiles(id)
}

/** Some sheets, which are nobody's once what they are of is gone. */
export async function sheetsOf(db: Pick<Database, 'select'>, which: SQL): Promise<string[]> {
  const rows = await db.select({ id: sheets.id }).from(sheets).where(which)
  return rows.map((r) => r.id)
}

/** Lets go of sheets that were asked for a day ago. @param remove takes the files of one away */
export async function sweepSheets(db: Database, now = Date.now(), remove = removeFiles): Promise<void> {
  const old = lt(sheets.askedAt, new Date(now - KEPT_MS))
  // The files first: where the store is away now, the row says later what is to be removed.
  for (const { id } of await db.select({ id: sheets.id }).from(sheets).where(old)) {
    await remove(id)
    await db.delete(sheets).where(and(eq(sheets.id, id), old))
  }
}
