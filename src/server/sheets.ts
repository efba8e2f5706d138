import { eq } from 'drizzle-orm'
import * as v from 'valibot'
import type { SheetRow } from '@/core/handout'
import { database, queued, type Transaction, transact } from './database'
import { sheetStore } from './file-store'
import type { SheetMade } from './handout/set-sheet'
import type { Paper, SheetHead } from './handout/sheet-pdf'
import { asPassingFile, marked } from './leftovers'
import { Problem } from './problem'
import { songOfRoutine } from './routine-song'
import { sheets } from './school-schema'
import { removeUnnamedSheet, setFileOf } from './sheet-leftovers'
import { me } from './who'

/*
 * Cue sheets that are set as work of a school's: what is asked for, and the sheet that comes of it, lie in the store of files for a day, wherever
 * the process is that sets it.
 */

/** What is set. */
export interface Sheet {
  rows: readonly SheetRow[]
  head: SheetHead
  paper: Paper
}

const isThing = (x: unknown) => typeof x === 'object' && x !== null
const Asked = v.object({
  rows: v.array(v.custom<SheetRow>(isThing)),
  head: v.custom<SheetHead>(isThing),
  paper: v.custom<Paper>(isThing),
})
const First = v.object({ missing: v.array(v.string()) })

async function* onePiece(bytes: Uint8Array) {
  yield bytes
}

/** The bytes of a file of the store; null where there is none. */
async function bytesIn(file: string): Promise<Buffer | null> {
  const bytes = await sheetStore().size(file)
  if (bytes === null) return null
  return Buffer.from(await new Response(sheetStore().read(file, 0, bytes - 1)).arrayBuffer())
}

/**
 * Keeps what is asked for. Who asks for the same once more gets the same, and what was set by then.
 * @param version of what sets it: a newer one may set it differently
 * @returns the sheet's id
 * @throws Problem 404 where the routine went meanwhile
 */
export async function keepAsked(
  routineId: string,
  asked: Sheet,
  version = process.env.AZALEA_VERSION ?? '',
): Promise<string> {
  const person = me().id
  const text = JSON.stringify({ version, person, routineId, ...asked })
  const incoming = await sheetStore().receive(onePiece(new TextEncoder().encode(text)))
  const id = incoming.hash
  const row = { id, routineId, personId: person, askedAt: new Date() }
  try {
    await marked(sheetStore(), id, async (kept) => {
      await incoming.stage()
      await queued(async (db) => {
        await incoming.keep()
        await transact(db, (tx) => keepRow(tx, row)).catch(async (error) => {
          await removeUnnamedSheet(db, id)
          await kept()
          throw error
        })
        await kept()
      })
    })
  } finally {
    await incoming.discard()
  }
  return id
}

async function keepRow(tx: Transaction, row: typeof sheets.$inferInsert): Promise<void> {
  await songOfRoutine(row.routineId, tx)
  const set = { askedAt: row.askedAt }
  await tx.insert(sheets).values(row).onConflictDoUpdate({ target: sheets.id, set })
}

/** What is to be set. @throws Problem 410 where it is not here any more */
export async function askedIn(id: string): Promise<Sheet> {
  const bytes = await bytesIn(id)
  if (!bytes) throw gone()
  return v.parse(v.pipe(v.string(), v.parseJson(), Asked), bytes.toString('utf8'))
}

const gone = () => new Problem(410, 'This sheet is not kept any more. Ask for it again.', 'missing')

/** Keeps a sheet that was set, where it is still asked for. Set twice it is the same. */
export async function keepSet(id: string, { pdf, missing }: SheetMade): Promise<void> {
  const bytes = Buffer.concat([Buffer.from(`${JSON.stringify({ missing })}\n`), pdf])
  await asPassingFile(onePiece(bytes), (file) =>
    marked(sheetStore(), id, async (kept) => {
      await sheetStore().adopt(file, setFileOf(id))
      const [row] = await (await database()).select({ id: sheets.id }).from(sheets).where(eq(sheets.id, id))
      if (!row) await sheetStore().remove(setFileOf(id))
      await kept()
    }),
  )
}

export const isSet = async (id: string): Promise<boolean> => (await sheetStore().size(setFileOf(id))) !== null

/** A sheet that was set. @throws Problem 410 where there is none */
export async function sheetSet(id: string): Promise<SheetMade> {
  const bytes = await bytesIn(setFileOf(id))
  if (!bytes) throw gone()
  const line = bytes.indexOf(10)
  const { missing } = v.parse(v.pipe(v.string(), v.parseJson(), First), bytes.toString('utf8', 0, line))
  return { pdf: bytes.subarray(line + 1), missing }
}
