import { eq } from 'drizzle-orm'
import * as v from 'valibot'
import { type Move, MoveListSchema, STARTING_MOVES } from '@/core/choreo'
import { database, write } from './database'
import { Problem } from './problem'
import { judge, type Save } from './routines'
import { moveLists } from './schema'

/** The one list there is; its revision rises with each saved edit. */
const OWN = 'own'

/** The move list, or the starting one where nothing was changed yet (revision 0). */
export async function openMoves(): Promise<{ revision: number; moves: Move[] }> {
  const row = await (await database()).query.moveLists.findFirst({ where: eq(moveLists.id, OWN) })
  if (!row) return { revision: 0, moves: [...STARTING_MOVES] }
  return { revision: row.revision, moves: v.parse(MoveListSchema, JSON.parse(row.document)) }
}

/**
 * Saves the whole list, made from a known revision.
 * @throws Problem 409 when it was changed elsewhere in between; nothing is overwritten
 */
export async function saveMoves(asked: Save, moves: readonly Move[]): Promise<number> {
  return write(async (tx) => {
    const row = await tx.query.moveLists.findFirst({ where: eq(moveLists.id, OWN) })
    const now = row ?? { revision: 0, writer: '', save: 0 }
    const verdict = judge(now, asked)
    if (verdict === 'known') return now.revision
    if (verdict === 'conflict')
      throw new Problem(
        409,
        'The move list was changed in another window. What you did here is not saved.',
        'conflict',
      )
    const { writer, save } = asked
    const next = {
      revision: now.revision + 1,
      writer,
      save,
      document: JSON.stringify(moves),
      updatedAt: new Date(),
    }
    if (row) await tx.update(moveLists).set(next).where(eq(moveLists.id, OWN))
    else await tx.insert(moveLists).values({ id: OWN, ...next })
    return next.revision
  })
}
