import * as v from 'valibot'
import { LIMITS } from './limits'
import { place } from './place-schema'
import { day, id, line, name, note } from './text-schema'

const ofFilm = v.pipe(v.number(), v.minValue(0), v.maxValue(LIMITS.filmSeconds))
const ofSong = v.pipe(v.number(), v.minValue(LIMITS.seconds.min), v.maxValue(LIMITS.seconds.max))

/** Where in a film the song plays, how fast, and from which place of it on. Seconds. */
export const FilmTakeSchema = v.pipe(
  v.object({
    from: ofFilm,
    to: ofFilm,
    /** Time of the song at `from`. */
    at: ofSong,
    /** Seconds of the song in one of the film. */
    rate: v.pipe(v.number(), v.minValue(LIMITS.filmRate.min), v.maxValue(LIMITS.filmRate.max)),
    /** How alike film and song sound, 0 to 1. */
    sure: v.pipe(v.number(), v.minValue(0), v.maxValue(1)),
    /** Found by its sound, or placed by somebody. */
    by: v.picklist(['sound', 'hand']),
  }),
  v.check((t) => t.to > t.from, 'A take ends after it begins.'),
)

/** A picture of a count in a film, and what is to be said of it. */
export const FilmNoteSchema = v.object({
  id,
  at: place,
  /** The picture it was made on, in seconds of the film. */
  seconds: ofFilm,
  text: note,
})

/** A film of the dance. The file is kept beside the routine, under its id. */
export const FilmSchema = v.object({
  id,
  file: v.pipe(v.string(), v.regex(/^[A-Za-z0-9_-]{8,40}$/)),
  name: name(LIMITS.text, 'A film needs a name.'),
  /** Who dances in it; empty for the instructor. */
  whose: line(80),
  /** From where it was filmed. */
  side: v.picklist(['front', 'back', 'side']),
  /** The picture is that of a mirror. */
  mirrored: v.boolean(),
  filmed: v.nullable(day),
  seconds: ofFilm,
  /** Pictures a second, to go from one to the next. */
  frameRate: v.optional(v.pipe(v.number(), v.minValue(1), v.maxValue(240)), 30),
  /** Somebody or something looked for takes in it. */
  searched: v.boolean(),
  takes: v.pipe(v.array(FilmTakeSchema), v.maxLength(LIMITS.filmTakes)),
  notes: v.pipe(v.array(FilmNoteSchema), v.maxLength(LIMITS.filmNotes)),
})

export type Film = v.InferOutput<typeof FilmSchema>
export type FilmTake = v.InferOutput<typeof FilmTakeSchema>
export type FilmNote = v.InferOutput<typeof FilmNoteSchema>
