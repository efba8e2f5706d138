import { eq } from 'drizzle-orm'
import * as v from 'valibot'
import { type Move, MoveListSchema, STARTING_MOVES } from '@/core/choreo'
import type { Save } from '@/core/routine'
import { database, write } from './database'
import { Problem } from './problem'
import { saveOnce } from './saves'
import { moveLists } from './schema'

/** The one list there is; its revision rises with each saved edit. */
const OWN = 'own'

/** The move list with the save that made it; the starting one where nothing was changed yet (revision 0). */
export async function openMoves(): Promise<{
  revision: number
  madeBy: { writer: string; save: number }
  moves: Move[]
}> {
  const row = await (await database()).query.moveLists.findFirst({ where: eq(moveLists.id, OWN) })
  if (!row) return { revision: 0, madeBy: { writer: '', save: 0 }, moves: [...STARTING_MOVES] }
  const moves = v.safeParse(v.pipe(v.string(), v.parseJson(), MoveListSchema), row.document)
  if (!moves.success)
    throw new Problem(
      422,
      'Your move list is kept, but what is stored of it cannot be read. It is not changed. A backup that holds it can be brought into another data directory.',
      'unreadable',
    )
  return { revision: row.revision, madeBy: { writer: row.writer, save: row.save }, moves: moves.output }
}

/**
 * Saves the whole list, made from a known revision.
 * @throws Problem 409 when it was changed elsewhere in between; nothing is overwritten
 */
export async function saveMoves(asked: Save, moves: readonly Move[]): Promise<number> {
  return write(async (tx) => {
    const row = await tx.query.moveLists.findFirst({ where: eq(moveLists.id, OWN) })
    const document = JSON.stringify(moves)
    const { writer, save } = asked
    return saveOnce(
      tx,
      {
        ...{ document: 'moves', revision: row?.revision ?? 0, text: document },
        words:
          'The move list was changed in another window too. What you did here is not saved until you choose: on Cue, under Moves.',
      },
      asked,
      (revision) => {
        const next = { revision, writer, save, document, updatedAt: new Date() }
        return row
          ? tx.update(moveLists).set(next).where(eq(moveLists.id, OWN))
          : tx.insert(moveLists).values({ id: OWN, ...next })
      },
    )
  })
}
