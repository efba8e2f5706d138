import * as v from 'valibot'
import { type Move, type MoveBook, MoveListSchema, moveNamed } from '../choreo'
import { base64Text } from '../formats/base64'
import { parseJson } from '../formats/decode-json'
import { type Hearing, HearingSchema } from '../hear'
import {
  danced,
  FIELDS,
  type FilmTake,
  fieldsWhere,
  isNewer,
  LIMITS,
  type Routine,
  RoutineSchema,
  readRoutine,
  repairedBeats,
} from '../routine'
import { instant } from '../routine/document/text-schema'
import { isGrid, type Seconds } from '../time'

/** Raised when a file of before can no longer be read as it is; older ones are brought up. */
export const ROUTINE_FILE_VERSION = 1

const id = v.pipe(v.string(), v.regex(/^[A-Za-z0-9_-]{8,40}$/))
const second = v.pipe(v.number(), v.finite(), v.minValue(-60), v.maxValue(36_000))

/** A routine as it leaves one machine and is opened on another. */
export const RoutineFileSchema = v.object({
  azalea: v.literal('routine'),
  version: v.literal(ROUTINE_FILE_VERSION),
  made: instant,
  /** The same routine has the same id everywhere, so that one opened twice is known. */
  id,
  routine: RoutineSchema,
  song: v.object({
    /** SHA-256 of the very file it was made on; other copies are found by their sound. */
    sha256: v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/)),
    seconds: v.pipe(v.number(), v.minValue(0), v.maxValue(36_000)),
  }),
  /** When each count falls, in seconds of the song, as mended: the counts of the routine stand on these. */
  beats: v.pipe(v.array(second), v.maxLength(40_000)),
  /** What was heard, for those who want to mend the counts further. */
  hearing: v.nullable(HearingSchema),
  /** How the song sounds, from which another copy of it is known; base64. Empty where nobody worked it out. */
  sound: v.optional(v.pipe(v.string(), v.maxLength(2_000_000)), ''),
  /** The moves of the instructor's list it uses. */
  moves: MoveListSchema,
  /** The instructor's own calls: WAV files as base64. */
  recordings: v.pipe(v.array(v.object({ id, wav: base64Text(7_000_000) })), v.maxLength(200)),
  /** Its films, each beside this in the zip; none where it comes without them. */
  films: v.optional(
    v.pipe(
      v.array(
        v.object({
          id,
          sha256: v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/)),
          mime: v.picklist(['video/mp4', 'video/webm']),
          fileName: v.pipe(v.string(), v.maxLength(300)),
          seconds: v.pipe(v.number(), v.minValue(0), v.maxValue(36_000)),
          width: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(16_384)),
          height: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(16_384)),
        }),
      ),
      v.maxLength(LIMITS.films),
    ),
    [],
  ),
})

export type RoutineFile = v.InferOutput<typeof RoutineFileSchema>

/** Moves a routine uses, and those they need, of a list. */
export function movesOf(routine: Routine, book: MoveBook): Move[] {
  const found = new Map<string, Move>()
  const take = (name: string) => {
    const move = moveNamed(name, book)
    if (!move || found.has(move.id)) return
    found.set(move.id, move)
    for (const needed of move.needs) take(needed)
  }
  for (const c of danced(routine)) take(c.move)
  return [...found.values()]
}

/** A routine without the fields that leave so. */
function without(routine: Routine, file: 'never' | 'unless left out' | 'with films'): Routine {
  const emptied = fieldsWhere((f) => f.file === file).map((name) => [name, FIELDS[name].usual])
  return { ...routine, ...(Object.fromEntries(emptied) as Partial<Routine>) }
}

/** What stays behind always: what learners said is the log's. */
export const withoutLearners = (routine: Routine): Routine => without(routine, 'never')

/** What may stay behind: lessons name classes, which are nobody else's. */
export const withoutLessons = (routine: Routine): Routine => without(routine, 'unless left out')

/** What stays behind where the films themselves do. */
export const withoutFilms = (routine: Routine): Routine => without(routine, 'with films')

/** Why a file is not opened, in words for people. */
export class NotOpened extends Error {}

/**
 * Reads a routine file of this or an older version.
 * @throws NotOpened for what is none, is broken, or is of a newer version
 */
export function readRoutineFile(text: string): RoutineFile {
  let data: unknown
  try {
    data = parseJson(text)
  } catch {
    throw new NotOpened('This is no routine of Azalea: it cannot be read.')
  }
  const kind = v.safeParse(v.object({ azalea: v.literal('routine'), version: v.number() }), data)
  if (!kind.success) throw new NotOpened('This is no routine of Azalea.')
  if (kind.output.version > ROUTINE_FILE_VERSION)
    throw new NotOpened('This routine was made by a newer version of Azalea: it can be opened with that one.')
  if (isNewer((data as { routine?: unknown }).routine))
    throw new NotOpened('This routine was made by a newer version of Azalea: it can be opened with that one.')
  const file = v.safeParse(RoutineFileSchema, withCurrentDocument(data as Record<string, unknown>))
  if (!file.success) {
    const where = v.getDotPath(file.issues[0])
    throw new NotOpened(`This routine is broken${where ? ` (${where})` : ''}: ${file.issues[0].message}`)
  }
  if (file.output.beats.length > 1 && !isGrid(file.output.beats))
    throw new NotOpened('This routine is broken: its counts do not follow one another.')
  return file.output
}

/** The document of an older version, brought up; what is none is left to the check that follows. */
function withCurrentDocument(data: Record<string, unknown>): unknown {
  try {
    return { ...data, routine: readRoutine(data.routine).routine }
  } catch {
    return data
  }
}

/**
 * The routine on the song as it is heard here. Where the very same beats were heard, its mending stays as it was made; else its
 * beats are brought as one repair: every cue keeps its count, and every count its sound.
 * @param heard what was heard here, with its version
 * @param place where a time of the file's song lies in the one here; the same where it is the same file
 */
export function onSongHere(
  { routine, beats, hearing }: Pick<RoutineFile, 'routine' | 'beats' | 'hearing'>,
  heard: Pick<Hearing, 'beats' | 'version'>,
  place: (at: Seconds) => Seconds = (at) => at,
): Routine {
  const moved = beats.map((b) => ms(place(b)))
  const same =
    hearing !== null &&
    hearing.beats.length === heard.beats.length &&
    hearing.beats.every((b, i) => b === heard.beats[i] && Math.abs(place(b) - b) < 1e-6)
  if (same) return { ...routine, heardWith: heard.version }
  const marks = routine.marks.map((m) => ({
    ...m,
    at: whole(place(m.at)),
    end: m.end && whole(place(m.end)),
  }))
  const films = routine.films.map((f) => ({ ...f, takes: f.takes.map((t) => takeOnCopy(t, place)) }))
  const from = repairedBeats(heard.beats, [])
  const repairs: Routine['repairs'] = moved.length
    ? [{ kind: 'grid', from: 0, to: from.length, beats: moved }]
    : []
  return { ...routine, marks, films, heardWith: heard.version, repairs }
}

/** A take of a film on another copy of the song, which may be a little faster. */
function takeOnCopy(take: FilmTake, place: (at: Seconds) => Seconds): FilmTake {
  const seconds = take.to - take.from
  const [at, end] = [place(take.at), place(take.at + seconds * take.rate)]
  const rate = (end - at) / seconds
  const legal = rate >= LIMITS.filmRate.min && rate <= LIMITS.filmRate.max
  return { ...take, at: ms(at), rate: legal ? rate : take.rate }
}

/** Marks stand on whole milliseconds. */
export const whole = (s: Seconds): Seconds => Math.round(s * 1000) / 1000

export const ms = (s: Seconds): Seconds => Math.round(s * 1e6) / 1e6
