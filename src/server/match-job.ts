import path from 'node:path'
import { and, eq } from 'drizzle-orm'
import * as v from 'valibot'
import { MATCH_VERSION, type Take, TakeSchema } from '@/core/match'
import { database, type Transaction } from './database'
import { diskStore, filmStore } from './file-store'
import { filmById } from './films'
import { nudgeJobs } from './job-nudge'
import { BACK_LATER, type Work } from './job-runner'
import { type About, ask } from './jobs'
import { Problem } from './problem'
import { songOfRoutine } from './routine-song'
import { films, songs } from './schema'
import { filmTakes } from './school-schema'
import { songById } from './songs'
import { type LongEnd, runTelling } from './told-process'

const TakesSchema = v.array(TakeSchema)
const Made = v.object({ takes: TakesSchema })

/** Three hours of film take some minutes of a processor. */
const BOUNDS = { seconds: 1200, megabytes: 1200 }
/** Of its own objects, in MB. */
const HEAP_MB = 600
const MATCHER = '.made/match.mjs'
const HERE_INSTEAD = 'This device looks itself.'

/** The song of a routine, and a film it may be looked for in. @throws Problem 404 */
export const songInFilm = async (routineId: string, filmId: string): Promise<About> => ({
  songId: await songOfRoutine(routineId),
  subjectId: filmId,
})

/** Where the song is in a film, by what looks for it now; null where nobody looked yet. */
export async function takesFound({ songId, subjectId: filmId }: About): Promise<readonly Take[] | null> {
  const [row] = await (await database())
    .select()
    .from(filmTakes)
    .where(
      and(
        ...[eq(filmTakes.filmId, filmId), eq(filmTakes.songId, songId), eq(filmTakes.version, MATCH_VERSION)],
      ),
    )
  return row ? v.parse(v.pipe(v.string(), v.parseJson(), TakesSchema), row.takes) : null
}

/** Asks for the song to be looked for in a film as somebody, where nobody did. */
export async function askForTakes(about: About, person?: string): Promise<void> {
  if (await takesFound(about)) return
  await ask('match', about, person)
  nudgeJobs()
}

/** Keeps them. @throws Problem 404 where song or film went meanwhile */
async function keepTakesIn(
  tx: Transaction,
  { songId, subjectId: filmId }: About,
  takes: readonly Take[],
): Promise<void> {
  const [film] = await tx.select({ id: films.id }).from(films).where(eq(films.id, filmId))
  const [song] = await tx.select({ id: songs.id }).from(songs).where(eq(songs.id, songId))
  if (!film || !song) throw new Problem(404, 'This film is not here any more.', 'missing')
  const kept = { version: MATCH_VERSION, takes: JSON.stringify(takes) }
  await tx
    .insert(filmTakes)
    .values({ filmId, songId, ...kept })
    .onConflictDoUpdate({ target: [filmTakes.filmId, filmTakes.songId], set: kept })
}

/**
 * Looks for a song in a film, in a process of its own.
 * @param film where the process finds it: the path of a file or an address; so the song
 */
export const matchFile = (
  film: string,
  song: string,
  tell: (share: number) => void,
  signal: AbortSignal,
  script = path.resolve(/* turbopackIgnore: true */ MATCHER),
): Promise<LongEnd<v.InferOutput<typeof Made>>> =>
  runTelling({ script, args: [film, song], bounds: BOUNDS, heap: HEAP_MB }, Made, tell, signal)

/** @throws Problem 410 where a file is missing; whatever the store throws where it is away */
async function beThere(song: string, film: string): Promise<void> {
  if ((await diskStore().size(song)) === null || (await filmStore().size(film)) === null)
    throw new Problem(410, 'The file of this film, or of its song, is missing on the server.', 'film-missing')
}

/** Looks for the song of a job in its film. @param match by which program */
export const matchJob =
  (match: typeof matchFile = matchFile): Work =>
  async ({ songId, subjectId: filmId }, tell, signal) => {
    const [song, film] = [await songById(songId), await filmById(filmId)]
    await beThere(song.hash, film.hash)
    const [songAt, filmAt] = [await diskStore().reach(song.hash), await filmStore().reach(film.hash)]
    const came = await match(filmAt, songAt, tell, signal)
    if ('made' in came) return (tx) => keepTakesIn(tx, { songId, subjectId: filmId }, came.made.takes)
    if ('problem' in came) {
      // Where the store is away now it is the machine's fault, and tried again.
      await beThere(song.hash, film.hash)
      throw new Problem(422, `The server cannot hear this film: ${came.problem}. ${HERE_INSTEAD}`, 'unread')
    }
    if (came.end === 'stopped' || came.end === 'no room') return BACK_LATER
    throw new Problem(
      422,
      came.end === 'over'
        ? `Looking for the song in this film takes more time or memory than in any. ${HERE_INSTEAD}`
        : `What looks for songs on the server ended unexpectedly. ${HERE_INSTEAD}`,
      came.end,
    )
  }
