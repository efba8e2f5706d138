import * as v from 'valibot'
import { dancedCount } from '../repeats/repeat-ways'
import { CueSchema, DismissalSchema, PositionSchema, place, RepeatSchema, StretchSchema } from './cue-schema'
import { LearnerSchema } from './learner-schema'
import { Course, LessonPlan } from './lesson-schema'
import { LIMITS } from './limits'
import { id, line, lines, name, note, text } from './text-schema'
import { VoiceSchema } from './voice-schema'

/** Version of the document this program writes. */
export const ROUTINE_VERSION = 2

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
const phraseLength = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(LIMITS.phrase))

/** A run of counts, numbered from 1; `pickUp` numbers it backwards from the last count (three of eight are 6 7 8). */
const Phrase = v.object({
  length: phraseLength,
  feel: v.picklist(['straight', 'triplet']),
  pickUp: v.boolean(),
})

/** Names phrases: begins where one begins, and lasts until the next section. */
const Section = v.object({
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
const Repair = v.variant('kind', [
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
const SongMark = v.object({
  id,
  at: seconds,
  /** When it is over; null where nobody said. */
  end: v.nullable(seconds),
  kind: v.picklist(['lyric', 'sound']),
  text: name(LIMITS.text, 'A mark needs words.'),
})

/** A piece of the dance as the instructor divides it, beside the song's own sections; lasts until the next one. */
const Part = v.object({
  id,
  at: place,
  name: name(LIMITS.text, 'A part needs a name.'),
})

/** The lists of a routine: what one of them may hold, and how many. The gate checks what an edit made anew by itself. */
export const LISTS = {
  repairs: { of: Repair, most: LIMITS.repairs, name: 'repairs of the beat' },
  phrases: { of: Phrase, most: LIMITS.phrases, name: 'phrases' },
  sections: { of: Section, most: LIMITS.sections, name: 'sections' },
  parts: { of: Part, most: LIMITS.parts, name: 'parts' },
  marks: { of: SongMark, most: LIMITS.marks, name: 'words and sounds' },
  cues: { of: CueSchema, most: LIMITS.cues, name: 'cues' },
  repeats: { of: RepeatSchema, most: LIMITS.repeats, name: 'repeats' },
  positions: { of: PositionSchema, most: LIMITS.positions, name: 'positions' },
  dismissed: { of: DismissalSchema, most: LIMITS.dismissed, name: 'findings let stand' },
  plans: { of: LessonPlan, most: LIMITS.plans, name: 'lesson plans' },
  voices: { of: VoiceSchema, most: LIMITS.voices, name: 'recordings' },
  courses: { of: Course, most: LIMITS.plans, name: 'courses' },
  learners: { of: LearnerSchema, most: LIMITS.learners, name: 'learners' },
} as const

/** What a routine says once. */
export const SINGLES = {
  title: name(LIMITS.text, 'A routine needs a name.'),
  credit: text,
  /** Version of the hearing the counts stand on; 0 while there are none. */
  heardWith: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(1_000_000)),
  /** Counts of a phrase where nothing else is said: 8, or 6, 4, 3 for other metres. */
  usual: phraseLength,
  excerpt: v.nullable(StretchSchema),
  /** Lyric lines written down but not yet tapped in, one a line. */
  lyrics: lines(50_000),
  /** Seconds a learner needs between two actions; what is faster is a finding. */
  leastGap: v.pipe(v.number(), v.minValue(0.05), v.maxValue(2)),
  /** What is called: numbers, the moves' words, the lyric, words where there are some and numbers elsewhere, or the instructor's own voice. */
  called: v.picklist(['numbers', 'words', 'lyric', 'mix', 'own']),
  /** Moves are called a count before they are danced. */
  calledAhead: v.boolean(),
  /** Words counted in with instead of numbers, on the last counts before the dance: "ready and go". */
  leadWords: text,
  /** What is needed for this dance: pads, shoes, clothes; and of the room: how far it travels, where to stand at first. */
  gear: note,
  room: note,
} as const

const list = <T extends v.GenericSchema>({ of, most }: { of: T; most: number }) =>
  v.pipe(v.array(of), v.maxLength(most))

/** One choreography on one song. Positions are ticks on the count line; count 0 is the first repaired beat. */
export const RoutineSchema = v.pipe(
  v.object({
    version: v.literal(ROUTINE_VERSION),
    ...SINGLES,
    heardWith: v.optional(SINGLES.heardWith, 0),
    usual: v.optional(SINGLES.usual, 8),
    repairs: list(LISTS.repairs),
    phrases: list(LISTS.phrases),
    sections: list(LISTS.sections),
    parts: v.optional(list(LISTS.parts), []),
    marks: v.optional(list(LISTS.marks), []),
    lyrics: v.optional(SINGLES.lyrics, ''),
    cues: list(LISTS.cues),
    repeats: v.optional(list(LISTS.repeats), []),
    positions: v.optional(list(LISTS.positions), []),
    dismissed: v.optional(list(LISTS.dismissed), []),
    leastGap: v.optional(SINGLES.leastGap, 0.25),
    plans: v.optional(list(LISTS.plans), []),
    voices: v.optional(list(LISTS.voices), []),
    courses: v.optional(list(LISTS.courses), []),
    learners: v.optional(list(LISTS.learners), []),
    called: v.optional(SINGLES.called, 'numbers'),
    calledAhead: v.optional(SINGLES.calledAhead, false),
    leadWords: v.optional(SINGLES.leadWords, ''),
    gear: v.optional(SINGLES.gear, ''),
    room: v.optional(SINGLES.room, ''),
  }),
  v.rawCheck(({ dataset, addIssue }) => {
    if (!dataset.typed) return
    const why = disagreement(dataset.value)
    if (why) addIssue({ message: why })
  }),
)

export type Routine = v.InferOutput<typeof RoutineSchema>
export type Phrase = v.InferOutput<typeof Phrase>
export type Section = v.InferOutput<typeof Section>
export type SongMark = v.InferOutput<typeof SongMark>
export type Part = v.InferOutput<typeof Part>
export type Repair = v.InferOutput<typeof Repair>
export type SectionKind = (typeof SECTION_KINDS)[number]

const twice = (items: readonly { id: string }[]) => new Set(items.map((i) => i.id)).size !== items.length

/** How many names there are of something that cues say. */
const named = (r: Pick<Routine, 'cues'>, of: 'role' | 'option') =>
  new Set(r.cues.flatMap((c) => c[of] ?? [])).size

/** What of a routine, each part legal by itself, is more than can be danced; null where nothing is. */
function tooMuch(r: Pick<Routine, 'cues' | 'repeats'>): string | null {
  if (named(r, 'role') > LIMITS.roles) return `There are more than ${LIMITS.roles} roles.`
  if (named(r, 'option') > LIMITS.versions) return `There are more than ${LIMITS.versions} versions.`
  const counts = new Map<number, number>()
  for (const c of r.cues) {
    const count = Math.floor(c.at / 24)
    const many = (counts.get(count) ?? 0) + 1
    if (many > LIMITS.onOneCount) return `More than ${LIMITS.onOneCount} cues would stand on one count.`
    counts.set(count, many)
  }
  if (dancedCount(r) > LIMITS.danced)
    return `With its repeats there would be more than ${LIMITS.danced.toLocaleString('en')} cues to dance.`
  return null
}

/** In what the parts of a routine, each legal by itself, contradict one another; null where they agree. */
export function disagreement(r: Omit<Routine, 'version'>): string | null {
  if (twice(r.cues)) return 'Two cues share an id.'
  if (twice(r.marks)) return 'Two marks share an id.'
  if (twice(r.sections)) return 'Two sections share an id.'
  if (twice(r.repeats)) return 'Two repeats share an id.'
  if (twice(r.courses)) return 'Two courses share an id.'
  if (twice(r.voices)) return 'Two recordings share an id.'
  if (twice(r.learners)) return 'Two learners share an id.'
  if (twice(r.plans)) return 'Two plans share an id.'
  if (new Set(r.positions.map((p) => p.at)).size !== r.positions.length)
    return 'Two positions are written at one place.'
  const starts = new Set<number>()
  let tick = 0
  for (const p of r.phrases) {
    starts.add(tick)
    tick += 24 * p.length
  }
  let before = Number.NEGATIVE_INFINITY
  for (const s of r.sections) {
    if (!starts.has(s.at)) return 'A section begins where no phrase does.'
    if (s.at <= before) return 'Sections are not in order.'
    before = s.at
  }
  const repeats = [...r.repeats].sort((a, b) => a.to.from - b.to.from)
  for (const [i, x] of repeats.entries())
    if (i > 0 && x.to.from < (repeats[i - 1] as typeof x).to.to) return 'Two repeats lie over one another.'
  return tooMuch(r)
}

/** A routine with nothing in it yet. */
export function emptyRoutine(title: string, credit = ''): Routine {
  return {
    version: ROUTINE_VERSION,
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
    positions: [],
    dismissed: [],
    leastGap: 0.25,
    plans: [],
    voices: [],
    courses: [],
    learners: [],
    called: 'numbers',
    calledAhead: false,
    leadWords: '',
    gear: '',
    room: '',
  }
}
