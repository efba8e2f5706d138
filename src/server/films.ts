import { and, eq, inArray } from 'drizzle-orm'
import type { Routine } from '@/core/routine'
import { database, queued, transact } from './database'
import { filmStore, hashOf } from './file-store'
import { removeUnnamedFilm } from './film-leftovers'
import { readFilm } from './film-look'
import { forgetUpload, wholeUpload } from './incoming-films'
import { marked } from './leftovers'
import { ownRows } from './may'
import { Problem } from './problem'
import { films } from './schema'
import { isHere, me } from './who'

export type FilmRow = typeof films.$inferSelect

/** What a page is told of a film. */
export interface FilmFile {
  id: string
  fileName: string
  bytes: number
  seconds: number
  width: number
  height: number
}

export const factsOfFilm = ({ id, fileName, bytes, seconds, width, height }: FilmRow): FilmFile => ({
  ...{ id, fileName, bytes, seconds, width, height },
})

const rowOf = async (id: string) => (await database()).query.films.findFirst({ where: eq(films.id, id) })

/** @throws Problem 404 */
export async function filmById(id: string): Promise<FilmRow> {
  const film = await rowOf(id)
  if (!film) throw new Problem(404, 'This film is not here any more.', 'missing')
  return film
}

/** Takes over a film that came in whole, once by its content; asked for again after an answer that was lost, it is the one there is. @param owner whose it is */
export async function takeInFilm(id: string, owner = me().id): Promise<FilmRow> {
  const there = await rowOf(id)
  if (there && !isHere(me()) && there.owner !== owner) throw new Problem(409, 'This id is taken.', 'taken')
  if (there) return there
  const { file, fileName, bytes, silent } = await wholeUpload(id)
  const look = await readFilm(file, fileName, silent).catch(async (error: unknown) => {
    // What is no film is let go; one that could not be looked at now can be later.
    if (!(error instanceof Problem) || error.code !== 'busy') await forgetUpload(id)
    throw error
  })
  return keepFilm({ id, owner, fileName, bytes, hash: await hashOf(file), ...look }, file)
}

type NewFilm = Pick<
  FilmRow,
  'id' | 'owner' | 'fileName' | 'bytes' | 'hash' | 'seconds' | 'width' | 'height' | 'mime'
>

/** Puts a file in its place and writes its row. */
async function keepFilm(film: NewFilm, file: string): Promise<FilmRow> {
  const store = filmStore()
  return marked(store, film.hash, async (kept) => {
    await store.stage(file, film.hash)
    return queued(async (db) => {
      const { id, owner, fileName, bytes, hash, seconds, width, height, mime } = film
      const row = {
        id,
        owner,
        fileName,
        bytes,
        hash,
        seconds,
        width,
        height,
        mime,
        createdAt: new Date(),
        unnamedSince: null,
      }
      if ((await store.size(hash)) === null) await store.adopt(file, hash)
      const done = transact(db, async (tx) => {
        await tx.insert(films).values(row).onConflictDoNothing()
        return row
      })
      // A file without a row is nobody's.
      await done.catch(() => removeUnnamedFilm(db, hash))
      await kept()
      await done
      // The same film may have been let go of at this very moment.
      if ((await store.size(hash)) === null) await store.adopt(file, hash)
      await forgetUpload(id)
      return row
    })
  })
}

/** Which of some films are here, by their ids. */
export async function filmsHere(ids: readonly string[]): Promise<Set<string>> {
  if (!ids.length) return new Set()
  const rows = await (await database())
    .select({ id: films.id })
    .from(films)
    .where(and(inArray(films.id, [...ids]), ownRows(me(), films.owner)))
  return new Set(rows.map((r) => r.id))
}

/** The films of a routine whose files are here. */
export async function filmsOf({ films: named }: Pick<Routine, 'films'>): Promise<FilmRow[]> {
  const ids = [...new Set(named.map((f) => f.file))]
  if (!ids.length) return []
  const rows = await (await database()).query.films.findMany({ where: inArray(films.id, ids) })
  const sizes = await Promise.all(rows.map((r) => filmStore().size(r.hash)))
  return rows.filter((_, i) => sizes[i] !== null)
}

/**
 * Keeps a film that comes with a routine, under the id it has there.
 * @throws Problem 415 where it is another one than it says, or none
 */
export async function keepFilmOf(
  bytes: AsyncIterable<Uint8Array>,
  { id, sha256, fileName }: { id: string; sha256: string; fileName: string },
): Promise<void> {
  const there = await rowOf(id)
  const incoming = await filmStore().receive(bytes)
  try {
    if (incoming.hash !== sha256 || (there && there.hash !== sha256))
      throw new Problem(
        415,
        `The film “${fileName}” in this file is not the one it says. Nothing was changed.`,
      )
    if (there && (await filmStore().size(sha256)) !== null) return
    const look = await incoming.asFile((file) => readFilm(file, fileName, true))
    await incoming.asFile((file) =>
      keepFilm({ id, owner: me().id, fileName, bytes: incoming.bytes, hash: sha256, ...look }, file),
    )
  } finally {
    await incoming.discard()
  }
}
