import { and, desc, eq, inArray, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import * as v from 'valibot'
import { type Routine, RoutineSchema } from '@/core/routine'
import { diskStore } from './audio-store'
import { database, write } from './database'
import { hearingOf, type StoredHearing } from './hearings'
import { Problem } from './problem'
import { repetitions, routines, songs } from './schema'
import { newRoutine, type SongRow, songById } from './songs'

/** Everything a station needs to open a routine. */
export interface OpenRoutine {
  id: string
  revision: number
  routine: Routine
  song: Pick<SongRow, 'id' | 'hash' | 'bytes' | 'fileName' | 'title' | 'credit'>
  heard: StoredHearing | null
}

const gone = () => new Problem(404, 'That routine is not here any more.', 'missing')

/** @throws Problem 404 */
export async function openRoutine(id: string): Promise<OpenRoutine> {
  const row = await (await database()).query.routines.findFirst({ where: eq(routines.id, id) })
  if (!row) throw gone()
  const song = await songById(row.songId)
  const routine = v.parse(RoutineSchema, JSON.parse(row.document))
  return {
    id: row.id,
    revision: row.revision,
    routine,
    song: {
      id: song.id,
      hash: song.hash,
      bytes: song.bytes,
      fileName: song.fileName,
      title: song.title,
      credit: song.credit,
    },
    heard: await hearingOf(song.id, routine.heardWith),
  }
}

/**
 * All routines, the last used first; and the names of those whose documents cannot be read, which stay as they are and
 * keep nobody from the others.
 */
export async function shelf(): Promise<{ open: OpenRoutine[]; unreadable: string[] }> {
  const rows = await (await database())
    .select({ id: routines.id, title: routines.title })
    .from(routines)
    .orderBy(desc(routines.updatedAt))
  const unreadable: string[] = []
  const open = await Promise.all(
    rows.map(({ id, title }) =>
      openRoutine(id).catch((error: unknown) => {
        if (!(error instanceof v.ValiError || error instanceof SyntaxError)) throw error
        console.error(`Routine ${id} cannot be read:`, error.message)
        unreadable.push(title)
        return null
      }),
    ),
  )
  return { open: open.filter((o) => o !== null), unreadable }
}

/**
 * Saves an edit made on a known revision.
 * @throws Problem 409 when somebody else saved in between; nothing is overwritten
 */
export async function saveRoutine(id: string, revision: number, routine: Routine): Promise<number> {
  return write(async (tx) => {
    const changed = await tx
      .update(routines)
      .set({
        document: JSON.stringify(routine),
        title: routine.title,
        revision: revision + 1,
        updatedAt: new Date(),
      })
      .where(and(eq(routines.id, id), eq(routines.revision, revision)))
      .returning({ revision: routines.revision })
    if (changed[0]) return changed[0].revision
    const there = await tx.select({ id: routines.id }).from(routines).where(eq(routines.id, id))
    if (!there.length) throw gone()
    throw new Problem(
      409,
      'This routine was changed in another window. What you did here is not saved; load it again to go on from there.',
      'conflict',
    )
  })
}

/** A further routine on a song that is already here. */
export async function addRoutine(songId: string): Promise<string> {
  const song = await songById(songId)
  const row = newRoutine(song, `${song.title} (another)`.slice(0, 200))
  await write((tx) => tx.insert(routines).values(row))
  return row.id
}

/** A copy of a routine on the same song, with a log of its own. */
export async function copyRoutine(id: string): Promise<string> {
  const { routine, song } = await openRoutine(id)
  const title = `${routine.title.slice(0, 190)} (copy)`
  const row = newRoutine(await songById(song.id), title)
  row.document = JSON.stringify({ ...routine, title })
  await write((tx) => tx.insert(routines).values(row))
  return row.id
}

/** Takes a routine and its log away, and the song with its audio when nothing else uses it. */
export async function removeRoutine(id: string): Promise<void> {
  const orphan = await write(async (tx) => {
    const row = await tx.query.routines.findFirst({ where: eq(routines.id, id) })
    if (!row) throw gone()
    await tx.delete(routines).where(eq(routines.id, id))
    const left = await tx
      .select({ id: routines.id })
      .from(routines)
      .where(eq(routines.songId, row.songId))
      .limit(1)
    if (left.length) return null
    const [song] = await tx.delete(songs).where(eq(songs.id, row.songId)).returning({ hash: songs.hash })
    return song?.hash ?? null
  })
  if (orphan) await diskStore().remove(orphan)
}

/** What comes from the floor for one repetition. */
export const RepetitionSchema = v.object({
  kind: v.picklist(['drill', 'run']),
  firstPhrase: v.pipe(v.string(), v.maxLength(40)),
  lastPhrase: v.pipe(v.string(), v.maxLength(40)),
  label: v.pipe(v.string(), v.maxLength(300)),
  layer: v.optional(v.picklist(['feet', 'arms', 'all']), 'all'),
  speed: v.pipe(v.number(), v.minValue(0.4), v.maxValue(1.1)),
  sound: v.picklist(['counts', 'music', 'both']),
  seconds: v.pipe(v.number(), v.minValue(0), v.maxValue(7200)),
  mark: v.picklist(['clean', 'shaky', 'missed', 'unmarked']),
  corrects: v.nullable(v.pipe(v.string(), v.maxLength(40))),
})

export type NewRepetition = v.InferInput<typeof RepetitionSchema>
export type Repetition = Omit<typeof repetitions.$inferSelect, 'doneAt'> & { doneAt: number }

/** Adds one row to the log. */
export async function logRepetition(routineId: string, r: NewRepetition): Promise<string> {
  const id = nanoid()
  await write(async (tx) => {
    const there = await tx.select({ id: routines.id }).from(routines).where(eq(routines.id, routineId))
    if (!there.length) throw gone()
    await tx.insert(repetitions).values({ id, routineId, doneAt: new Date(), ...r })
  })
  return id
}

/** The log of some routines, oldest first. */
export async function logOf(routineIds: string[]): Promise<Repetition[]> {
  if (!routineIds.length) return []
  const rows = await (await database())
    .select()
    .from(repetitions)
    .where(inArray(repetitions.routineId, routineIds))
    // Two rows of one millisecond stay in the order they were added.
    .orderBy(repetitions.doneAt, sql`rowid`)
  return rows.map((r) => ({ ...r, doneAt: r.doneAt.getTime() }))
}
