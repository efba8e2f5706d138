import type { Client, InValue, Row } from '@libsql/client'
import { getTableName, sql, type Table } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { onSongHere, withoutFilms, withoutLearners } from '@/core/handout'
import {
  alike,
  cutText,
  type Routine,
  readRoutine,
  repairedBeats,
  withFilmsOf,
  withLearnersOf,
} from '@/core/routine'
import { isSound } from './checked-rows'
import { queued, type Transaction, transact } from './database'
import { diskStore, filmStore } from './file-store'
import { rowsMadeTheirs } from './fresh-ids'
import { readHearing } from './hearings'
import { ownRows } from './may'
import * as schema from './schema'
import type { FileStore } from './stores'
import { isHere, me } from './who'

/** What taking a backup over came to. */
export interface Restored {
  /** Songs and routines that were added. */
  songs: number
  routines: number
  /** Rows of the log that were added. */
  log: number
  /** Routines that are here in another state: theirs was added beside, under this title. */
  beside: string[]
  /** Rows that are damaged, or of something that is: they were left out. */
  damaged: number
}

/** Tables in the order in which their rows need one another. */
const LOGS = [schema.repetitions, schema.lessonSteps, schema.timings] as const
const OTHERS = [schema.ownCounts, schema.presets, schema.recordings] as const
/** Rows read at once: pictures of sound are large. */
const PAGE = 50

/** All rows of a table, some at a time, as they are stored. What is damaged is counted and left out. */
async function* rowsOf(client: Client, table: Table, out: Restored): AsyncGenerator<Record<string, InValue>> {
  for (let from = 0; ; ) {
    const { rows, columns } = await client.execute({
      sql: `SELECT rowid AS "row id", * FROM "${getTableName(table)}" WHERE rowid > ? ORDER BY rowid LIMIT ${PAGE}`,
      args: [from],
    })
    if (!rows.length) return
    for (const read of rows) {
      from = Number(read['row id'])
      const row = Object.fromEntries(
        columns.flatMap((c) => (c === 'row id' ? [] : [[c, (read as Row)[c] as InValue]])),
      )
      if (isSound(table, row)) yield row
      else out.damaged++
    }
  }
}

/** Adds a row where nothing of it is there yet. @returns whether it was added */
async function add(tx: Transaction, table: Table, row: Record<string, InValue>): Promise<boolean> {
  const names = Object.keys(row).map((c) => sql.identifier(c))
  const values = Object.values(row).map((x) => sql`${x}`)
  const done = await tx.run(
    sql`INSERT OR IGNORE INTO ${sql.identifier(getTableName(table))} (${sql.join(names, sql`, `)}) VALUES (${sql.join(values, sql`, `)})`,
  )
  return done.rowsAffected > 0
}

/**
 * Takes the rows of another database over, in one transaction: what is here stays as it is.
 * @param keepFiles puts the audio in its place, right before
 * @param brought hashes of the files that came along
 */
export function takeOver(
  client: Client,
  keepFiles: () => Promise<unknown>,
  brought: ReadonlySet<string>,
): Promise<Restored> {
  return queued(async (db) => {
    await keepFiles()
    return transact(db, async (tx) => {
      const out: Restored = { songs: 0, routines: 0, log: 0, beside: [], damaged: 0 }
      const who = me()
      const theirs = await rowsMadeTheirs(tx, client, who)
      const rows = async function* (table: Table) {
        for await (const row of rowsOf(client, table, out)) yield theirs.row(table, row)
      }
      /** What a row belongs to is here; else it is left out with that. */
      const isThere = async (table: Table, id: InValue): Promise<boolean> => {
        const found = await tx.all(sql`SELECT 1 FROM ${sql.identifier(getTableName(table))} WHERE id = ${id}`)
        if (!found.length) out.damaged++
        return found.length > 0
      }
      /** True for a row whose file came along, or is nowhere: what is kept of somebody else is not had by naming it. */
      const isTheirs = async (store: FileStore, { hash }: Record<string, InValue>) =>
        isHere(who) || brought.has(String(hash)) || (await store.size(String(hash))) === null
      /** Songs that are here under another id. */
      const known = new Map<string, string>()
      for await (const song of rows(schema.songs)) {
        const here = await tx.all<{ id: string }>(
          sql`SELECT id FROM songs WHERE hash = ${song.hash} AND ${ownRows(who, schema.songs.owner)}`,
        )
        if (here[0]) known.set(String(song.id), here[0].id)
        else if (!(await isTheirs(diskStore(), song))) out.damaged++
        else if (await add(tx, schema.songs, song)) out.songs++
      }
      const songOf = (row: Record<string, InValue>) => known.get(String(row.song_id)) ?? row.song_id ?? null
      for (const table of [schema.hearings, schema.traces, schema.measures])
        for await (const r of rows(table))
          if (await isThere(schema.songs, songOf(r))) await add(tx, table, { ...r, song_id: songOf(r) })
      for await (const r of rows(schema.routines)) {
        if (!(await isThere(schema.songs, songOf(r)))) continue
        const row = {
          ...r,
          song_id: songOf(r),
          document: await onHearingHere(tx, client, r, { known, brought: theirs.brought }),
        }
        if (await add(tx, schema.routines, row)) out.routines++
        else if (await addBeside(tx, row, out)) out.routines++
      }
      for (const table of LOGS)
        for await (const row of rows(table))
          if ((await isThere(schema.routines, row.routine_id ?? null)) && (await add(tx, table, row)))
            out.log++
      for (const table of OTHERS) for await (const row of rows(table)) await add(tx, table, row)
      for await (const film of rows(schema.films))
        if (await isTheirs(filmStore(), film)) await add(tx, schema.films, film)
        else out.damaged++
      for await (const row of rows(schema.moveLists))
        if (!(await add(tx, schema.moveLists, row))) await addMoves(tx, row)
      return out
    })
  })
}

/**
 * A routine's document on what was heard here: where the same version heard other beats in its song, its counts are brought as
 * they fall, so that each keeps its sound.
 * @param known songs that are here under another id
 * @param brought what a song is called where the routine comes from
 */
async function onHearingHere(
  tx: Transaction,
  client: Client,
  row: Record<string, InValue>,
  { known, brought }: { known: ReadonlyMap<string, string>; brought: (id: InValue) => InValue },
): Promise<InValue> {
  const song = known.get(String(row.song_id))
  const routine = song === undefined ? null : readable(String(row.document))
  if (song === undefined || !routine) return row.document ?? null
  const [here] = await tx.all<{ data: string }>(
    sql`SELECT data FROM hearings WHERE song_id = ${song} AND version = ${routine.heardWith}`,
  )
  const { rows } = await client.execute({
    sql: 'SELECT data FROM hearings WHERE song_id = ? AND version = ?',
    args: [brought(row.song_id as InValue), routine.heardWith],
  })
  const [mine, theirs] = [here?.data, rows[0]?.data].map(readHearing)
  if (!mine || !theirs || alike(mine.beats, theirs.beats)) return row.document ?? null
  const beats = repairedBeats(theirs.beats, routine.repairs)
  return JSON.stringify(onSongHere({ routine, beats, hearing: theirs }, mine))
}

/** A routine that is here in another state comes as a second one. */
async function addBeside(tx: Transaction, row: Record<string, InValue>, out: Restored): Promise<boolean> {
  const [here] = await tx.all<{ document: string }>(sql`SELECT document FROM routines WHERE id = ${row.id}`)
  if (here?.document === row.document && row.binned_at === null)
    await tx.run(sql`UPDATE routines SET binned_at = NULL WHERE id = ${row.id}`)
  if (!here || here.document === row.document) return false
  const [mine, theirs] = [here.document, String(row.document)].map(readable)
  if (mine && theirs && sameDance(mine, theirs)) {
    // What learners said is the log's: it comes to what is here, as rows of the log do. So do films it came without.
    const all = withFilmsOf(withLearnersOf(mine, theirs.learners), theirs.films)
    // What lies in the bin here, and on the shelf there, is wanted back.
    if (row.binned_at === null) await tx.run(sql`UPDATE routines SET binned_at = NULL WHERE id = ${row.id}`)
    if (all !== mine)
      await tx.run(
        sql`UPDATE routines SET document = ${JSON.stringify(all)}, revision = revision + 1, writer = '', save = 0 WHERE id = ${row.id}`,
      )
    return false
  }
  // The same state that was brought before is not brought once more.
  const title = `${cutText(String(row.title), 180)} (from a backup)`
  const document = withTitle(String(row.document), title)
  const twin = await tx.all(sql`SELECT id FROM routines WHERE document = ${document}`)
  if (twin.length) return false
  await add(tx, schema.routines, { ...row, id: nanoid(), title, document })
  out.beside.push(title)
  return true
}

/** A document as this version reads it; null where it cannot. */
function readable(document: string): Routine | null {
  try {
    return readRoutine(JSON.parse(document)).routine
  } catch {
    return null
  }
}

/** True where two documents say the same of the dance, and of films both have, however they were written down. */
const sameDance = (a: Routine, b: Routine) =>
  alike(withoutFilms(withoutLearners(a)), withoutFilms(withoutLearners(b))) &&
  b.films.every((f) => {
    const mine = a.films.find((o) => o.id === f.id)
    return !mine || alike(mine, f)
  })

function withTitle(document: string, title: string): string {
  try {
    return JSON.stringify({ ...(JSON.parse(document) as object), title })
  } catch {
    // What this version cannot read stays as it is.
    return document
  }
}

/** Moves of the other list that are not in ours, by id and by name. */
async function addMoves(tx: Transaction, row: Record<string, InValue>): Promise<void> {
  const [here] = await tx.all<{ document: string; revision: number }>(
    sql`SELECT document, revision FROM move_lists WHERE id = ${row.id}`,
  )
  if (!here) return
  type Named = { id: string; name: string }
  const ours = JSON.parse(here.document) as Named[]
  const theirs = JSON.parse(String(row.document)) as Named[]
  const fresh = theirs.filter((m) => !ours.some((o) => o.id === m.id || o.name === m.name))
  if (!fresh.length) return
  await tx.run(
    sql`UPDATE move_lists SET document = ${JSON.stringify([...ours, ...fresh])}, revision = ${here.revision + 1}, writer = '', save = 0 WHERE id = ${row.id}`,
  )
}
