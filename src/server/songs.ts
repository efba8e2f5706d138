import { and, eq, isNull } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { emptyRoutine } from '@/core/routine'
import { type Database, database, queued, type Transaction, transact } from './database'
import { diskStore } from './file-store'
import { soundSoFar } from './first-bytes'
import { marked, markKeeping } from './leftovers'
import { ownRows } from './may'
import { Problem } from './problem'
import { routines, songs } from './schema'
import { removeUnnamed } from './song-leftovers'
import { longTag, notSound, readTags } from './tags'
import { me } from './who'

export type SongRow = typeof songs.$inferSelect

/** A song that was taken in, and the routines that use it. */
export interface TakenIn {
  song: SongRow
  /** False when the same bytes were already here. */
  fresh: boolean
  routines: { id: string; title: string }[]
}

/** Streams a file into the store, reads its tags, and adds the song with a first routine if it is new. */
export async function takeIn(bytes: AsyncIterable<Uint8Array>, fileName: string): Promise<TakenIn> {
  return received(bytes, fileName, null, async (tx, song) => {
    const used = await tx
      .select({ id: routines.id, title: routines.title })
      .from(routines)
      .where(and(eq(routines.songId, song.id), isNull(routines.binnedAt)))
    if (used.length) return { song, fresh: false, routines: used }
    const first = newRoutine(song)
    await tx.insert(routines).values(first)
    return { song, fresh: true, routines: [{ id: first.id, title: first.title }] }
  })
}

/** The same for a song a routine comes with: no routine is begun on it. @param hash what its bytes must be */
export async function takeInSong(
  bytes: AsyncIterable<Uint8Array>,
  title: string,
  hash: string,
): Promise<{ song: SongRow }> {
  return received(bytes, title, hash, async (_, song) => ({ song }))
}

/** Streams a file into the store and reads its tags; what comes of it is done in the transaction that adds the song. */
export async function received<T>(
  bytes: AsyncIterable<Uint8Array>,
  fileName: string,
  hash: string | null,
  then: (tx: Transaction, song: SongRow) => Promise<T>,
): Promise<T> {
  const refused = { notSound: () => notSound(fileName), longTag: longTag(fileName) }
  const incoming = await diskStore().receive(soundSoFar(bytes, refused))
  try {
    if (incoming.bytes === 0) throw new Problem(415, `“${fileName}” is empty. Nothing was kept.`)
    if (hash !== null && incoming.hash !== hash)
      throw new Problem(415, 'The song in this file is not the one it says. Nothing was kept.')
    const tags = await incoming.asFile((file) => readTags(file, fileName))
    return await marked(diskStore(), incoming.hash, async (kept) => {
      await incoming.stage()
      return queued(async (db) => {
        // While nobody else writes: a song that is being removed at this moment must not take the new file along.
        await incoming.keep()
        const done = transact(db, async (tx) => {
          const known = await songOf(tx, incoming.hash)
          const song = known ?? {
            id: nanoid(),
            owner: me().id,
            hash: incoming.hash,
            bytes: incoming.bytes,
            fileName,
            createdAt: new Date(),
            ...tags,
          }
          if (!known) await tx.insert(songs).values(song)
          return then(tx, song)
        })
        // A file without a row is nobody's.
        await done.catch(() => removeUnnamed(db, incoming.hash))
        await kept()
        return done
      })
    })
  } finally {
    await incoming.discard()
  }
}

/** The song of who asks that has these very bytes. Somebody else's copy of it is theirs. */
export const songOf = (db: Database | Transaction, hash: string): Promise<SongRow | undefined> =>
  db.query.songs.findFirst({ where: and(eq(songs.hash, hash), ownRows(me(), songs.owner)) })

/** Takes a song away again on which nothing came to stand. */
export async function removeUnused(id: string): Promise<void> {
  await queued(async (db) => {
    const used = await db.query.routines.findFirst({ where: eq(routines.songId, id) })
    if (used) return
    const song = await db.query.songs.findFirst({ where: eq(songs.id, id) })
    if (!song) return
    const removed = await markKeeping(song.hash)
    await db.delete(songs).where(eq(songs.id, id))
    await removeUnnamed(db, song.hash)
    await removed()
  })
}

/** The row of an empty routine on a song. */
export function newRoutine(
  song: SongRow,
  title = song.title,
  id = nanoid(),
): typeof routines.$inferInsert & { id: string } {
  const now = new Date()
  const document = JSON.stringify(emptyRoutine(title, song.credit))
  return { id, songId: song.id, title, owner: me().id, revision: 0, document, createdAt: now, updatedAt: now }
}

/** @throws Problem 404 */
export async function songById(id: string): Promise<SongRow> {
  const song = await (await database()).query.songs.findFirst({ where: eq(songs.id, id) })
  if (!song) throw new Problem(404, 'That song is not here any more.', 'missing')
  return song
}
