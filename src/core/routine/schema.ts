import * as v from 'valibot'
import { CueSchema, DismissalSchema, RepeatSchema, TEXT } from './cue-schema'
import { LessonPlan } from './lesson-schema'

const id = v.pipe(v.string(), v.minLength(1), v.maxLength(40))
const text = v.pipe(v.string(), v.maxLength(TEXT))
const ticks = v.pipe(v.number(), v.integer(), v.minValue(-24 * 64), v.maxValue(24 * 20_000))

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

/** A run of counts, numbered from 1; `pickUp` numbers it backwards from 8 (three counts are 6 7 8). */
const Phrase = v.object({
  id,
  length: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(32)),
  feel: v.picklist(['straight', 'triplet']),
  pickUp: v.boolean(),
})

/** A named stretch that begins with a phrase and lasts until the next section. */
const Section = v.object({
  id,
  phrase: id,
  name: text,
  kind: v.picklist(SECTION_KINDS),
  letter: v.pipe(v.string(), v.maxLength(3)),
})

const beat = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(40_000))
const seconds = v.pipe(v.number(), v.finite(), v.minValue(-60), v.maxValue(36_000))

/**
 * What a person changed about the heard beats, applied in order; the hearing itself is never touched. Beats are named by
 * their index in the grid as repaired so far.
 */
const Repair = v.variant('kind', [
  v.object({ kind: v.literal('double') }),
  v.object({ kind: v.literal('halve'), keep: v.picklist([0, 1]) }),
  /** Every beat, or every one from a beat on, earlier or later. */
  v.object({
    kind: v.literal('shift'),
    seconds: v.pipe(v.number(), v.finite(), v.minValue(-5), v.maxValue(5)),
    from: v.optional(beat),
  }),
  /** A beat held at a time: what lies between it and the next pins gives way, what lies beyond them does not move. */
  v.object({ kind: v.literal('pin'), beat, at: seconds }),
  /** The beats from one index up to another (not included), replaced by these: tapped, steadied, brought along. */
  v.object({
    kind: v.literal('grid'),
    from: beat,
    to: beat,
    beats: v.pipe(v.array(seconds), v.maxLength(40_000)),
  }),
])

/**
 * Something heard in the song: words sung, or a sound. It stands in seconds of the song (whole milliseconds), so neither
 * a repair of the grid nor a renumbering moves it off its sound.
 */
const Mark = v.object({
  id,
  at: seconds,
  /** When it is over; null where nobody said. */
  end: v.nullable(seconds),
  kind: v.picklist(['lyric', 'sound']),
  text: v.pipe(v.string(), v.trim(), v.minLength(1, 'A mark needs words.'), v.maxLength(TEXT)),
})

/** A stretch of the dance as the instructor divides it, beside the song's own sections; lasts until the next one. */
const Part = v.object({
  id,
  at: ticks,
  name: v.pipe(v.string(), v.trim(), v.minLength(1, 'A part needs a name.'), v.maxLength(TEXT)),
})

const Excerpt = v.pipe(
  v.object({ start: ticks, end: ticks }),
  v.check((e) => e.end > e.start, 'An excerpt ends after it starts.'),
)

/** One choreography on one song. Positions are ticks on the count line; count 0 is the first repaired beat. */
export const RoutineSchema = v.pipe(
  v.object({
    version: v.literal(1),
    title: v.pipe(v.string(), v.trim(), v.minLength(1, 'A routine needs a name.'), v.maxLength(TEXT)),
    credit: text,
    /** Version of the hearing the counts stand on; 0 for the first there is. */
    heardWith: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0)), 0),
    repairs: v.pipe(v.array(Repair), v.maxLength(200)),
    /** Counts of a phrase where nothing else is said: 8, or 6, 4, 3 for other metres. */
    usual: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(32)), 8),
    phrases: v.pipe(v.array(Phrase), v.maxLength(2000)),
    sections: v.pipe(v.array(Section), v.maxLength(500)),
    excerpt: v.nullable(Excerpt),
    parts: v.optional(v.pipe(v.array(Part), v.maxLength(500)), []),
    marks: v.optional(v.pipe(v.array(Mark), v.maxLength(5000)), []),
    /** Lyric lines written down but not yet tapped in, one a line. */
    lyrics: v.optional(v.pipe(v.string(), v.maxLength(50_000)), ''),
    cues: v.pipe(v.array(CueSchema), v.maxLength(20_000)),
    repeats: v.optional(v.pipe(v.array(RepeatSchema), v.maxLength(4000)), []),
    /** Findings let stand. */
    dismissed: v.optional(v.pipe(v.array(DismissalSchema), v.maxLength(2000)), []),
    /** Seconds a learner needs between two actions; what is faster is a finding. */
    leastGap: v.optional(v.pipe(v.number(), v.minValue(0.05), v.maxValue(2)), 0.25),
    plans: v.optional(v.pipe(v.array(LessonPlan), v.maxLength(50)), []),
    /** What is called: numbers, the moves' words, the lyric, or words where there are some and numbers elsewhere. */
    called: v.optional(v.picklist(['numbers', 'words', 'lyric', 'mix']), 'numbers'),
    /** Moves are called a count before they are danced. */
    calledAhead: v.optional(v.boolean(), false),
  }),
  v.check((r) => new Set(r.phrases.map((p) => p.id)).size === r.phrases.length, 'Two phrases share an id.'),
  v.check((r) => new Set(r.cues.map((c) => c.id)).size === r.cues.length, 'Two cues share an id.'),
  v.check((r) => new Set(r.marks.map((m) => m.id)).size === r.marks.length, 'Two marks share an id.'),
  v.check((r) => {
    const known = new Set(r.phrases.map((p) => p.id))
    return r.sections.every((s) => known.has(s.phrase))
  }, 'A section begins at a phrase that is not there.'),
)

export type Routine = v.InferOutput<typeof RoutineSchema>
export type Phrase = v.InferOutput<typeof Phrase>
export type Section = v.InferOutput<typeof Section>
export type Mark = v.InferOutput<typeof Mark>
export type Part = v.InferOutput<typeof Part>
export type Repair = v.InferOutput<typeof Repair>
export type SectionKind = (typeof SECTION_KINDS)[number]

/** A routine with nothing in it yet. */
export function emptyRoutine(title: string, credit = ''): Routine {
  return {
    version: 1,
    title,
    credit,
    heardWith: 0,
    repairs: [],
    usual: 8,
    phrases: [],
    sections: [],
    excerpt: null,
    parts: [],
    marks: [],
    lyrics: '',
    cues: [],
    repeats: [],
    dismissed: [],
    leastGap: 0.25,
    plans: [],
    called: 'numbers',
    calledAhead: false,
  }
}
