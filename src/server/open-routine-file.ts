import { readFile } from 'node:fs/promises'
import type { Readable } from 'node:stream'
import { eq } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import {
  NotOpened,
  onCopy,
  onSongHere,
  type RoutineFile,
  readRoutineFile,
  withoutLearners,
} from '@/core/handout'
import type { Hearing } from '@/core/hear'
import type { Take } from '@/core/match'
import { documentBytes, type Edited, LIMITS, type Routine } from '@/core/routine'
import { database, write } from './database'
import { filmsHere, keepFilmOf } from './films'
import { theirId } from './fresh-ids'
import { keepHearing, readHearing } from './hearings'
import { openMoves } from './moves'
import { Problem } from './problem'
import { keepRecording } from './recordings'
import { LARGEST_ROUTINE, PEAKS, ROUTINE } from './routine-file'
import { films, hearings, moveLists, recordings, routines } from './schema'
import { LARGEST_FILM, LARGEST_SONG } from './settings'
import { removeUnused, songById, songOf, takeInSong } from './songs'
import { isHere, me } from './who'
import { type OpenZip, openZip } from './zip'

const SONG = /^song(\.[a-z0-9]{1,5})?$/
const FILM = /^films\/[A-Za-z0-9_-]{8,40}$/
const LARGEST_PEAKS = 16 * 1024 ** 2

/** What opening a file came to. */
export interface Opened {
  id: string
  title: string
  /** What was left out because the song here has not got it. */
  said: readonly string[]
}

/** How a routine is opened that is here already, and on which song where its own is not here. */
export interface OpenWish {
  /** The id it gets; its own where nothing is said. */
  as: string | null
  /** A song of this machine to lay it on, and where the file's song plays in it. */
  on: string | null
  takes?: readonly Take[]
}

/**
 * Opens a routine somebody brings: a JSON file, or a zip with its song.
 * @throws Problem 409 `here` where it is here already, 409 `no-song` where its song is not; else in words what is wrong. Then
 *   nothing is changed
 */
export async function openRoutineFile(path: string, wish: OpenWish): Promise<Opened> {
  const bytes = await readFile(path)
  return bytes.subarray(0, 2).toString('latin1') === 'PK'
    ? openZipped(path, wish)
    : opened((await withFreeIds(bytes.toString('utf8'))).text, wish)
}

async function openZipped(path: string, wish: OpenWish): Promise<Opened> {
  const zip = await openZip(path, (name) =>
    name === ROUTINE
      ? LARGEST_ROUTINE
      : name === PEAKS
        ? LARGEST_PEAKS
        : SONG.test(name)
          ? LARGEST_SONG
          : FILM.test(name)
            ? LARGEST_FILM
            : null,
  )
  try {
    if (!zip.sizes.has(ROUTINE)) throw new Problem(415, 'This is no routine of Azalea. Nothing was changed.')
    const { text, names } = await withFreeIds(await zip.text(ROUTINE))
    const file = read(text)
    await refuseTwice(file, wish)
    const [name, another] = [...zip.sizes.keys()].filter((n) => SONG.test(n))
    if (another) throw new Problem(415, 'There is more than one song in this file. Nothing was changed.')
    if (!name || wish.on) return await withFilms(zip, file, names, () => opened(text, wish))
    const { song } = await takeInSong(await zip.read(name), `${file.routine.title}`, file.song.sha256)
    const peaks = zip.sizes.has(PEAKS) ? Buffer.concat(await all(await zip.read(PEAKS))) : null
    if (file.hearing && peaks)
      await keepHearing(song.id, file.hearing.version, JSON.stringify(file.hearing), peaks)
    return await withFilms(zip, file, names, () => opened(text, wish)).catch(async (error: unknown) => {
      await removeUnused(song.id)
      throw error
    })
  } finally {
    zip.close()
  }
}

/** Opens a routine whose films come with it: they are kept first; where it is not opened, nobody names them, and they go. */
async function withFilms(
  zip: OpenZip,
  { films }: RoutineFile,
  names: ReadonlyMap<string, string>,
  open: () => Promise<Opened>,
): Promise<Opened> {
  for (const film of films) {
    const name = `films/${names.get(film.id) ?? film.id}`
    if (!zip.sizes.has(name))
      throw new Problem(415, 'A film of this routine is missing in it. Nothing was changed.')
    await keepFilmOf(await zip.read(name), film)
  }
  return open()
}

const all = async (stream: Readable): Promise<Buffer[]> => {
  const out: Buffer[] = []
  for await (const chunk of stream) out.push(chunk as Buffer)
  return out
}

function read(text: string): RoutineFile {
  try {
    return readRoutineFile(text)
  } catch (error) {
    if (error instanceof NotOpened) throw new Problem(415, `${error.message} Nothing was changed.`)
    throw error
  }
}

/**
 * A file under ids that are free or of who opens it: what somebody else brought under the same ids is theirs.
 * @returns its text, and what each new id is called in the file
 */
async function withFreeIds(text: string): Promise<{ text: string; names: ReadonlyMap<string, string> }> {
  const names = new Map<string, string>()
  const who = me()
  if (isHere(who)) return { text, names }
  const file = read(text)
  const db = await database()
  const ofOthers = async (table: typeof routines | typeof films | typeof recordings, id: string) =>
    (await db.select({ owner: table.owner }).from(table).where(eq(table.id, id))).some(
      (r) => r.owner !== who.id,
    )
  const named = [
    [routines, [file.id]],
    [films, file.films.map((f) => f.id)],
    [recordings, file.recordings.map((r) => r.id)],
  ] as const
  let out = text
  for (const [table, ids] of named)
    for (const id of ids) {
      if (!(await ofOthers(table, id))) continue
      const fresh = theirId(who, id)
      names.set(fresh, id)
      out = out.replaceAll(`"${id}"`, `"${fresh}"`)
    }
  return { text: out, names }
}

/** @throws Problem 409 where this routine is here already and no other id was wished for */
async function refuseTwice({ id }: RoutineFile, { as }: OpenWish): Promise<void> {
  const there = await (await database()).query.routines.findFirst({ where: eq(routines.id, as ?? id) })
  if (!there) return
  const seen = isHere(me()) || there.owner === me().id
  if (seen && there.binnedAt)
    throw new Problem(409, `It is in the bin, as “${there.title}”: take it out of there.`, 'binned')
  throw new Problem(409, seen ? `It is here already, as “${there.title}”.` : 'This id is taken.', 'here')
}

async function opened(text: string, wish: OpenWish): Promise<Opened> {
  const file = read(text)
  await refuseTwice(file, wish)
  const db = await database()
  const song = wish.on ? await songById(wish.on) : await songOf(db, file.song.sha256)
  if (!song) throw new Problem(409, 'The song it was made on is not here. Choose your copy of it.', 'no-song')
  const heard = await heardHere(song.id, file.hearing?.version ?? 0)
  if (!heard)
    throw new Problem(
      409,
      'Its song was not heard here yet: open the song once, then this file again.',
      'unheard',
    )
  const { routine: laid, said } = laidOn(file, heard, wish)
  // Learners come by their own door: the Log of who taught them.
  const own = withoutLearners(laid)
  // What is known of a film is nothing without it.
  const here = await filmsHere(own.films.map((f) => f.file))
  const routine = { ...own, films: own.films.filter((f) => here.has(f.file)) }
  if (documentBytes(routine) > LIMITS.bytes)
    throw new Problem(
      413,
      `This routine is larger than can be saved (${Math.ceil(documentBytes(routine) / 1e6)} MB). Nothing was changed.`,
    )
  for (const r of file.recordings) await keepRecording(r.id, { wav: r.wav })
  const id = wish.as ?? file.id
  const now = new Date()
  const { title } = routine
  await write(async (tx) => {
    await tx.insert(routines).values({
      ...{ id, songId: song.id, title, owner: me().id, revision: 0, document: JSON.stringify(routine) },
      ...{ createdAt: now, updatedAt: now },
    })
    const { moves, revision } = await openMoves()
    const fresh = file.moves.filter((m) => !moves.some((o) => o.id === m.id || o.name === m.name))
    if (!fresh.length) return
    const list = { document: JSON.stringify([...moves, ...fresh]), revision: revision + 1, updatedAt: now }
    await tx
      .insert(moveLists)
      .values({ id: 'own', writer: '', save: 0, ...list })
      .onConflictDoUpdate({ target: moveLists.id, set: { writer: '', save: 0, ...list } })
  })
  return { id, title, said }
}

/** A file's routine on the song that is here. @throws Problem 409 `other-song` */
function laidOn(file: RoutineFile, heard: Hearing, { on, takes }: OpenWish): Edited<Routine> {
  if (!on || !takes) return { routine: onSongHere(file, heard), said: [] }
  try {
    return onCopy(file, heard, takes, nanoid)
  } catch (error) {
    if (error instanceof NotOpened)
      throw new Problem(409, `${error.message} Nothing was changed.`, 'other-song')
    throw error
  }
}

/** What was heard in a song here: of a version, or the newest there is. */
async function heardHere(songId: string, version: number): Promise<Hearing | null> {
  const rows = await (await database()).query.hearings.findMany({ where: eq(hearings.songId, songId) })
  const sorted = rows.sort(
    (a, b) => Number(b.version === version) - Number(a.version === version) || b.version - a.version,
  )
  for (const row of sorted) {
    const hearing = readHearing(row.data)
    if (hearing) return hearing
  }
  return null
}
