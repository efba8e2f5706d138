import { and, eq, inArray, sql } from 'drizzle-orm'
import * as v from 'valibot'
import { type LoggedRepetition, MARKS, SOUNDS, type Sound } from '@/core/drill'
import { withoutLearners } from '@/core/handout'
import {
  cutText,
  isNewer,
  LIMITS,
  NEWER_WORDS,
  PASSES,
  ROUTINE_VERSION,
  type Routine,
  readNewer,
  readRoutine,
  type Save,
} from '@/core/routine'
import { oneLine } from '@/core/routine/document/text-schema'
import { readableRows } from './checked-rows'
import { database, type Transaction, write } from './database'
import { hearingOf, type StoredHearing, withNamedHearing } from './hearings'
import { appendRow, rowOrigin, songTime, words } from './log-rows'
import { includes, ownRows, type RoutineRight, rightTo } from './may'
import { Problem } from './problem'
import { saveOnce } from './saves'
import { repetitions, routines } from './schema'
import { savesOf } from './song-leftovers'
import { newRoutine, type SongRow, songById } from './songs'
import { me } from './who'

/** Everything a station needs to open a routine. */
export interface OpenRoutine {
  id: string
  revision: number
  routine: Routine
  /** The save that made this revision: its window, and its number there; '' and 0 where no window made it. */
  madeBy: { writer: string; save: number }
  song: Pick<SongRow, 'id' | 'hash' | 'bytes' | 'fileName' | 'title' | 'credit'>
  heard: StoredHearing | null
  /** Written by a newer version: it is looked at and never saved. */
  newer: boolean
  /** What who opens it may do with it. */
  right: RoutineRight
}

const gone = () => new Problem(404, 'That routine is not here any more.', 'missing')

/** The row of a routine, and what who asks may do with it. @throws Problem 404 where it is not there for them */
async function rowFor(id: string) {
  const db = await database()
  const right = await rightTo(db, me(), id)
  const row = right && (await db.query.routines.findFirst({ where: eq(routines.id, id) }))
  if (!right || !row) throw gone()
  return { row, right }
}

/** As much of a routine as is shared: learners are known to whoever teaches them. */
const sharedPart = (routine: Routine, right: RoutineRight): Routine =>
  right === 'own' ? routine : withoutLearners(routine)

/** @throws Problem 404 */
export async function openRoutine(id: string): Promise<OpenRoutine> {
  const { row, right } = await rowFor(id)
  const song = await songById(row.songId)
  const { routine: whole, newer } = readStored(row)
  const routine = sharedPart(whole, right)
  return {
    right,
    id: row.id,
    revision: row.revision,
    routine,
    madeBy: { writer: row.writer, save: row.save },
    song: {
      id: song.id,
      hash: song.hash,
      bytes: song.bytes,
      fileName: song.fileName,
      title: song.title,
      credit: song.credit,
    },
    heard: await hearingOf(song.id, routine.heardWith),
    newer,
  }
}

/** @throws Problem 422 in words where a stored document cannot be read; it stays as it is */
function readStored({ title: stored, document }: { title: string; document: string }) {
  // Whatever was stored as one.
  const title = oneLine(String(stored))
  let newer = false
  try {
    const data: unknown = JSON.parse(document)
    newer = isNewer(data)
    return { newer, routine: newer ? readNewer(data) : readRoutine(data).routine }
  } catch (error) {
    if (newer)
      throw new Problem(
        422,
        `“${title}” was written by a newer version of Azalea, and this one does not understand it. It is kept as it is: open it with that version.`,
        'newer',
      )
    const where = v.isValiError(error)
      ? ` (${v.getDotPath(error.issues[0]) ?? ''}: ${error.issues[0].message})`
      : ''
    throw new Problem(
      422,
      `“${title}” is kept, but what is stored of it cannot be read${where}. It is not changed. A backup that holds it can be brought on the shelf.`,
      'unreadable',
    )
  }
}

const fromNewer = () => new Problem(409, NEWER_WORDS, 'newer')

/** The same, for what makes another document of it. @throws Problem 409 where it would lose what only a newer version knows */
export async function openWhole(id: string): Promise<OpenRoutine> {
  const open = await openRoutine(id)
  if (open.newer) throw fromNewer()
  return open
}

/** The routine with the save that made it, where it is newer than a revision; null where it is not. */
export async function newerThan(id: string, revision: number) {
  const { row, right } = await rowFor(id)
  if (row.revision <= revision) return null
  return { revision: row.revision, writer: row.writer, routine: sharedPart(readStored(row).routine, right) }
}

/**
 * Saves an edit.
 * @returns the revision this save made; sent again, the one it made then
 * @throws Problem 409 when somebody else saved in between; nothing is overwritten
 */
export async function saveRoutine(id: string, asked: Save, routine: Routine): Promise<number> {
  return write(async (tx) => {
    const [now] = await tx
      .select({
        revision: routines.revision,
        songId: routines.songId,
        version: sql<number>`iif(json_valid(${routines.document}), json_extract(${routines.document}, '$.version'), 0)`,
      })
      .from(routines)
      .where(eq(routines.id, id))
    // Once more: what was shared may have been taken back since.
    const right = await rightTo(tx, me(), id)
    if (!now || !right) throw gone()
    if (!includes(right, 'edit'))
      throw new Problem(403, 'This routine is shared with you, and not to be changed.', 'not-yours')
    if (now.version > ROUTINE_VERSION) throw fromNewer()
    const text = JSON.stringify(routine)
    const { writer, save } = asked
    const named = async () => {
      const known = right === 'own' ? routine : await withLearnersThere(tx, id, routine)
      const whole = await withNamedHearing(tx, now.songId, known)
      return whole === routine ? text : JSON.stringify(whole)
    }
    return saveOnce(
      tx,
      {
        ...{ document: savesOf(id), revision: now.revision, text },
        words: 'This routine was changed in another window. What you did here since then is not saved.',
      },
      asked,
      async (revision) =>
        tx
          .update(routines)
          .set({
            document: await named(),
            title: routine.title,
            revision,
            writer,
            save,
            updatedAt: new Date(),
          })
          .where(eq(routines.id, id)),
    )
  })
}

/** What somebody else saves of a routine, with the learners its owner has in it. */
async function withLearnersThere(tx: Transaction, id: string, routine: Routine): Promise<Routine> {
  const row = await tx.query.routines.findFirst({ where: eq(routines.id, id) })
  return row ? { ...routine, learners: readStored(row).routine.learners } : routine
}

/** Begins a routine; asked for again after an answer that was lost, it is the one there is. @throws Problem 409 where the id is another song's */
async function begin(row: ReturnType<typeof newRoutine>): Promise<string> {
  return write(async (tx) => {
    const there = await tx.query.routines.findFirst({ where: eq(routines.id, row.id) })
    if (there && (there.songId !== row.songId || there.owner !== row.owner))
      throw new Problem(409, 'There is another routine of that id.', 'taken')
    if (!there) await tx.insert(routines).values(row)
    return row.id
  })
}

/** A further routine on a song that is already here. @param as its id, chosen by who asks */
export async function addRoutine(songId: string, as?: string): Promise<string> {
  const song = await songById(songId)
  return begin(newRoutine(song, `${cutText(song.title, 190)} (another)`, as))
}

/** A copy of a routine on the same song, with a log of its own. @param as its id, chosen by who asks */
export async function copyRoutine(id: string, as?: string): Promise<string> {
  const { routine, song } = await openWhole(id)
  const title = `${cutText(routine.title, 190)} (copy)`
  const row = newRoutine(await songById(song.id), title, as)
  row.document = JSON.stringify({ ...withoutLearners(routine), title })
  return begin(row)
}

/** What comes from the floor for one repetition. */
export const RepetitionSchema = v.object({
  ...rowOrigin,
  kind: v.picklist(['drill', 'run']),
  from: songTime,
  to: songTime,
  label: words(300),
  pass: v.picklist(PASSES),
  speed: v.pipe(v.number(), v.minValue(0.4), v.maxValue(1.1)),
  sound: v.picklist(SOUNDS),
  seconds: v.pipe(v.number(), v.minValue(0), v.maxValue(7200)),
  mark: v.picklist([...MARKS, 'unmarked']),
  looped: v.boolean(),
  slips: v.pipe(v.array(v.pipe(v.number(), v.finite())), v.maxLength(400)),
  corrects: v.nullable(v.pipe(v.string(), v.maxLength(80))),
  /** The class it was danced with. */
  group: v.optional(words(LIMITS.text), ''),
})

export type NewRepetition = v.InferOutput<typeof RepetitionSchema>
export type Repetition = LoggedRepetition & { routineId: string; sound: Sound }

/** Adds one row to the log. */
export const logRepetition = (routineId: string, r: NewRepetition): Promise<string> =>
  appendRow(repetitions, routineId, r)

/** The log of some routines, oldest first. */
export async function logOf(routineIds: string[]): Promise<Repetition[]> {
  if (!routineIds.length) return []
  const rows = await (await database())
    .select()
    .from(repetitions)
    .where(and(inArray(repetitions.routineId, routineIds), ownRows(me(), repetitions.person)))
    // Two rows of one millisecond stay in the order they were added.
    .orderBy(repetitions.doneAt, sql`rowid`)
  return readableRows(repetitions, rows).map(({ firstPhrase: _, lastPhrase: __, person: ___, ...r }) => ({
    ...r,
    doneAt: r.doneAt.getTime(),
  }))
}
