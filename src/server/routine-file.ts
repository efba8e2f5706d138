import { Readable } from 'node:stream'
import type { ReadableStream as NodeStream } from 'node:stream/web'
import yazl from 'yazl'
import { moveBook } from '@/core/choreo'
import {
  movesOf,
  ROUTINE_FILE_VERSION,
  type RoutineFile,
  withoutFilms,
  withoutLearners,
  withoutLessons,
} from '@/core/handout'
import { type Routine, repairedBeats } from '@/core/routine'
import { diskStore, filmStore } from './file-store'
import { filmsOf } from './films'
import { openMoves } from './moves'
import { Problem } from './problem'
import { recordingFile } from './recordings'
import { openWhole } from './routines'
import { songById } from './songs'
import { traceOfSong } from './traces'

/** What the document is called in a zip, and the pictures of its sound. */
export const ROUTINE = 'routine.azalea.json'
export const PEAKS = 'pictures.bin'
export const LARGEST_ROUTINE = 48 * 1024 ** 2
/** The document, what was heard, and how the song sounds. */
const LARGEST_REST = 14 * 1024 ** 2

/** What goes along with a routine where that is wished. */
export interface Along {
  lessons: boolean
  /** Its films, in a zip alone. */
  films?: boolean
}

/** A routine as it leaves: without its log, with the moves it uses and the calls that were recorded for it. */
export async function routineFileOf(id: string, along: Along, now = new Date()): Promise<RoutineFile> {
  const { routine, song, heard } = await openWhole(id)
  const films = along.films ? await filmsOf(routine) : []
  const { moves } = await openMoves()
  const named = [...new Set(routine.voices.map((x) => x.recording))]
  const recordings = await Promise.all(
    named.map(async (r) => {
      const wav = await recordingFile(r).catch(() => null)
      return wav ? [{ id: r, wav: wav.toString('base64') }] : []
    }),
  )
  // Base64 takes a third more; the rest is the document and how its song sounds.
  if (recordings.flat().reduce((sum, r) => sum + r.wav.length, 0) > LARGEST_ROUTINE - LARGEST_REST)
    throw new Problem(
      413,
      'The calls recorded for this routine are longer than a file of it holds: no Azalea could open it. A backup takes them all.',
    )
  return {
    azalea: 'routine',
    version: ROUTINE_FILE_VERSION,
    made: now.toISOString(),
    id,
    routine: leaving(routine, along),
    song: { sha256: song.hash, seconds: heard?.hearing.duration ?? 0 },
    beats: repairedBeats(heard?.hearing.beats ?? [], routine.repairs),
    hearing: heard?.hearing ?? null,
    sound: await traceOfSong(song.id),
    moves: movesOf(routine, moveBook(moves)),
    recordings: recordings.flat(),
    films: films.map(({ id, hash, mime, fileName, seconds, width, height }) => ({
      ...{ id, sha256: hash, mime: mime === 'video/webm' ? 'video/webm' : 'video/mp4' },
      ...{ fileName, seconds, width, height },
    })),
  }
}

/** A routine without what stays here. */
function leaving(routine: Routine, { lessons, films }: Along): Routine {
  const own = withoutLearners(lessons ? routine : withoutLessons(routine))
  return films ? own : withoutFilms(own)
}

/** The same with the song and the pictures of its sound, in one zip. */
export async function routineZipOf(id: string, along: Along): Promise<{ stream: Readable; bytes: number }> {
  const file = await routineFileOf(id, along)
  const { song, heard } = await openWhole(id)
  const { mime } = await songById(song.id)
  const bytes = await diskStore().size(song.hash)
  if (bytes === null) throw new Problem(404, 'The audio of this song is not there any more.', 'missing')
  const zip = new yazl.ZipFile()
  zip.on('error', () => {})
  zip.addBuffer(Buffer.from(JSON.stringify(file)), ROUTINE, { compress: false })
  if (heard) zip.addBuffer(Buffer.from(heard.peaks, 'base64'), PEAKS, { compress: false })
  const suffix =
    /\/(?:x-)?([a-z0-9]{1,5})$/.exec(mime)?.[1]?.replace('mpeg', 'mp3').replace('mp4', 'm4a') ?? 'bin'
  zip.addReadStreamLazy(`song.${suffix}`, { compress: false, size: bytes }, (give) =>
    give(null, Readable.fromWeb(diskStore().read(song.hash, 0, bytes - 1) as NodeStream)),
  )
  for (const film of file.films) {
    const size = (await filmStore().size(film.sha256)) ?? 0
    zip.addReadStreamLazy(`films/${film.id}`, { compress: false, size }, (give) =>
      give(null, Readable.fromWeb(filmStore().read(film.sha256, 0, size - 1) as NodeStream)),
    )
  }
  const end = zip.end.bind(zip) as unknown as (what: object, told: (bytes: number) => void) => void
  return { bytes: await new Promise<number>((told) => end({}, told)), stream: zip.outputStream as Readable }
}
