import * as v from 'valibot'
import { LIMITS } from './limits'
import { place } from './place-schema'
import { id, line, name, text } from './text-schema'

export const SECTION_KINDS = [
  'intro',
  'verse',
  'pre-chorus',
  'chorus',
  'hook',
  'bridge',
  'rap',
  'break',
  'outro',
  'part',
] as const

/** Counts of a phrase where nothing else is said, and the most one may have. */
export const phraseLength = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(LIMITS.phrase))

/** A run of counts, numbered from 1; `pickUp` numbers it backwards from the last count (three of eight are 6 7 8). */
export const PhraseSchema = v.object({
  length: phraseLength,
  feel: v.picklist(['straight', 'triplet']),
  pickUp: v.boolean(),
})

/** Names phrases: begins where one begins, and lasts until the next section. */
export const SectionSchema = v.object({
  id,
  at: place,
  name: text,
  kind: v.picklist(SECTION_KINDS),
  letter: line(LIMITS.letter),
})

const beat = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(2 * LIMITS.beats))
const seconds = v.pipe(v.number(), v.finite(), v.minValue(LIMITS.seconds.min), v.maxValue(LIMITS.seconds.max))

/**
 * What a person changed about the heard beats, applied in order; the hearing itself is never touched. Beats are named by
 * their index in the grid as repaired so far.
 */
export const RepairSchema = v.variant('kind', [
  v.object({ kind: v.literal('double') }),
  v.object({ kind: v.literal('halve'), keep: v.picklist([0, 1]) }),
  /** Every beat, or every one from a beat on, earlier or later. */
  v.object({
    kind: v.literal('shift'),
    seconds: v.pipe(v.number(), v.finite(), v.minValue(-LIMITS.shift), v.maxValue(LIMITS.shift)),
    from: v.optional(beat),
  }),
  /** A beat held at a time: what lies between it and the next pins gives way, what lies beyond them does not move. */
  v.object({ kind: v.literal('pin'), beat, at: seconds }),
  /** The beats from one index up to another (not included), replaced by these; of the new grid, these are held. */
  v.object({
    kind: v.literal('grid'),
    from: beat,
    to: beat,
    beats: v.pipe(v.array(seconds), v.maxLength(2 * LIMITS.beats)),
    pins: v.optional(v.pipe(v.array(beat), v.maxLength(2 * LIMITS.beats))),
  }),
])

/**
 * Something heard in the song: words sung, or a sound. It stands in seconds of the song (whole milliseconds), so neither
 * a repair of the grid nor a renumbering moves it off its sound.
 */
export const SongMarkSchema = v.object({
  id,
  at: seconds,
  /** When it is over; null where nobody said. */
  end: v.nullable(seconds),
  kind: v.picklist(['lyric', 'sound']),
  text: name(LIMITS.text, 'A mark needs words.'),
})

/** A piece of the dance as the instructor divides it, beside the song's own sections; lasts until the next one. */
export const PartSchema = v.object({
  id,
  at: place,
  name: name(LIMITS.text, 'A part needs a name.'),
})

/** The most counts that belong over the border of a phrase. */
const over = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(LIMITS.border))

/** How the dance breathes at the border of a phrase: both in ticks. */
export const BreathSchema = v.object({
  /** So much before the border belongs to what follows: the pick-up. */
  lean: over,
  /** So much after the border still belongs to what came before: the 1 it lands on. */
  resolve: over,
})

/** The border with which a phrase begins, where it is not as usual. */
export const BorderSchema = v.object({ at: place, ...BreathSchema.entries })

export type Breath = v.InferOutput<typeof BreathSchema>
export type Border = v.InferOutput<typeof BorderSchema>
export type Phrase = v.InferOutput<typeof PhraseSchema>
export type Section = v.InferOutput<typeof SectionSchema>
export type SongMark = v.InferOutput<typeof SongMarkSchema>
export type Part = v.InferOutput<typeof PartSchema>
export type Repair = v.InferOutput<typeof RepairSchema>
export type SectionKind = (typeof SECTION_KINDS)[number]
