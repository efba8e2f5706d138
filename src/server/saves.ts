import { createHash } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import { judgeSave, type Save } from '@/core/routine'
import type { Transaction } from './database'
import { Problem } from './problem'
import { saves } from './schema'

/**
 * Judges a save of a document and has it written where it was made on what is there.
 * @param document names it among all that are saved so
 * @param revision of what is there
 * @param text what is saved
 * @param store writes it, with its new revision
 * @returns the revision this very save made, now or when it came before
 * @throws Problem 409 `conflict` where it was made on something else, `overtaken` where its window saved something newer
 */
export async function saveOnce(
  tx: Transaction,
  { document, revision, text, words }: { document: string; revision: number; text: string; words: string },
  asked: Save,
  store: (revision: number) => Promise<unknown>,
): Promise<number> {
  const mine = and(eq(saves.document, document), eq(saves.writer, asked.writer))
  const [last] = await tx.select().from(saves).where(mine)
  const hash = createHash('sha256').update(text).digest('hex')
  const verdict = judgeSave(revision, last ?? null, asked, hash)
  if (verdict === 'known') return last?.revision ?? revision
  if (verdict !== 'write') throw new Problem(409, words, verdict)
  const taken = { save: asked.save, revision: revision + 1, hash, savedAt: new Date() }
  await store(taken.revision)
  await tx
    .insert(saves)
    .values({ document, writer: asked.writer, ...taken })
    .onConflictDoUpdate({ target: [saves.document, saves.writer], set: taken })
  return taken.revision
}
