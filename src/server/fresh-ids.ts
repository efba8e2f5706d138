import { createHash } from 'node:crypto'
import type { Client, InValue } from '@libsql/client'
import { getTableColumns, getTableName, inArray, sql, type Table } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { Transaction } from './database'
import * as schema from './schema'
import { isHere, type Who } from './who'

/** Tables whose rows are somebody's, and are known by an id that others may have brought as well. */
const KNOWN_BY_ID = [
  [schema.songs, schema.songs.owner],
  [schema.routines, schema.routines.owner],
  [schema.films, schema.films.owner],
  [schema.recordings, schema.recordings.owner],
  [schema.repetitions, schema.repetitions.person],
  [schema.lessonSteps, schema.lessonSteps.person],
  [schema.timings, schema.timings.person],
] as const
const AT_ONCE = 400

type Row = Record<string, InValue>

/** The id somebody's copy has of what another has under an id: the same each time it is brought. */
export const theirId = (who: Who, id: string): string =>
  createHash('sha256').update(`${who.id} ${id}`).digest('base64url').slice(0, 24)

/** Rows as they come to be somebody's. */
interface MadeTheirs {
  row: (table: Table, row: Row) => Row
  /** What an id is called where the rows come from. */
  brought: (id: InValue) => InValue
}

/** Makes rows that somebody brings theirs: under ids of their own where another has a row of that id. */
export async function rowsMadeTheirs(tx: Transaction, client: Client, who: Who): Promise<MadeTheirs> {
  // Whoever sits before the machine brings all of it, as it is.
  if (isHere(who)) return { row: (_, row) => row, brought: (id) => id }
  const fresh = new Map<string, string>()
  for (const [table, owner] of KNOWN_BY_ID) {
    const { rows } = await client.execute(`SELECT id FROM "${getTableName(table)}"`)
    const ids = rows.map((r) => String(r.id))
    for (let i = 0; i < ids.length; i += AT_ONCE) {
      const taken = await tx
        .select({ id: table.id })
        .from(table)
        .where(sql`${inArray(table.id, ids.slice(i, i + AT_ONCE))} AND ${owner} <> ${who.id}`)
      for (const { id } of taken) fresh.set(id, theirId(who, id))
    }
  }
  const renamed = (value: InValue | undefined) =>
    (typeof value === 'string' ? fresh.get(value) : undefined) ?? value ?? null
  const renamedIn = (text: InValue) =>
    [...fresh].reduce((out, [from, to]) => out.replaceAll(`"${from}"`, `"${to}"`), String(text))
  const was = new Map([...fresh].map(([from, to]) => [to, from]))
  const brought = (id: InValue) => was.get(String(id)) ?? id
  const made = (table: Table, row: Row) => {
    const columns = new Set(Object.values(getTableColumns(table)).map((c) => c.name))
    const out: Row = { ...row }
    for (const column of ['id', 'song_id', 'routine_id', 'corrects'])
      if (columns.has(column)) out[column] = renamed(row[column])
    // What was heard belongs to its song and version.
    if (table === schema.hearings) out.id = nanoid()
    if (table === schema.routines) out.document = renamedIn(row.document ?? '')
    for (const column of ['owner', 'by_person']) if (columns.has(column)) out[column] = who.id
    return out
  }
  return { row: made, brought }
}
