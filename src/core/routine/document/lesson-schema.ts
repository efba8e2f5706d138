import * as v from 'valibot'
import { PASSES } from './layers'
import { LIMITS } from './limits'
import { StretchSchema } from './place-schema'
import { StepMadeSchema } from './references'
import { day, dayAndHour, id, line, name, note, text } from './text-schema'

export const GRADES = ['children', 'beginners', 'intermediate', 'advanced'] as const
/** How much is taught at once: counts, phrases, a part, or as much as is as hard. */
export const CHUNKS = ['two counts', 'four counts', 'hard', 'eight', 'two', 'part'] as const
export const ORDERS = ['feet first', 'arms first', 'whole body'] as const
/** What is danced again after each chunk: all from the top, the last two, the join alone, all now and then. */
export const REVIEWS = ['top', 'last two', 'join', 'checkpoints'] as const
export const LADDERS = ['counts', 'music', 'both'] as const
/** What is called in the steps of a plan: as the routine says, or less and less as it sits: numbers, moves, the lyric, nothing. */
export const CALLING = ['as set', 'fading'] as const
export const VIEWS = ['mirrored', 'true', 'behind'] as const

/** How often one drills: repetitions of a slow rung, of one at tempo, and rungs of a ladder. */
const Drilled = v.object({
  slow: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(12)),
  fast: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(12)),
  rungs: v.pipe(v.number(), v.integer(), v.minValue(2), v.maxValue(8)),
})
export type Drilled = v.InferOutput<typeof Drilled>

/** Drilled no more than this where nobody said otherwise. Common practice, no published source. */
export const USUALLY_DRILLED: Drilled = { slow: 3, fast: 2, rungs: 4 }

/** What a ladder at the end of a lesson climbs where nothing else is said. */
export const CLOSING: readonly number[] = [0.6, 0.8]

/** How somebody teaches: the schools of the trade, the learners, and the minutes there are. */
export const LessonSettings = v.object({
  grade: v.picklist(GRADES),
  /** How much is taught at once. */
  chunk: v.picklist(CHUNKS),
  order: v.picklist(ORDERS),
  /** What is danced again after each chunk. */
  review: v.picklist(REVIEWS),
  /** Slow with spoken counts and then music; music slowed; both. */
  ladder: v.picklist(LADDERS),
  countIn: v.picklist([2, 4, 8]),
  view: v.picklist(VIEWS),
  /** Seconds a learner needs between two actions at first. */
  gap: v.pipe(v.number(), v.minValue(0.1), v.maxValue(2)),
  minutes: v.pipe(v.number(), v.integer(), v.minValue(5), v.maxValue(240)),
  /** Minutes of talk an eight of new material takes; null for what is common for the grade. */
  talk: v.nullable(v.pipe(v.number(), v.minValue(0), v.maxValue(30))),
  /** Seconds between two repetitions. */
  pause: v.pipe(v.number(), v.minValue(0), v.maxValue(60)),
  /** Chunks are learned from the last to the first. */
  backward: v.boolean(),
  calling: v.optional(v.picklist(CALLING), 'as set'),
  /** How often one drills, at the most; null for what is usual. */
  drilled: v.optional(v.nullable(Drilled), null),
  /** Speeds at which all of it is danced at the end, before it is danced with the song to the front and to the back; none for the song alone. */
  closing: v.optional(
    v.pipe(v.array(v.pipe(v.number(), v.minValue(0.4), v.maxValue(1.1))), v.maxLength(4)),
    [],
  ),
  /** All of it is shown once before anything is taught. */
  preview: v.optional(v.boolean(), false),
  /** Passes in another order than the usual one, for what begins in these stretches. */
  passes: v.optional(
    v.pipe(
      v.array(
        v.object({ stretch: StretchSchema, passes: v.pipe(v.array(v.picklist(PASSES)), v.maxLength(8)) }),
      ),
      v.maxLength(LIMITS.parts),
    ),
    [],
  ),
})

export type LessonSettings = v.InferOutput<typeof LessonSettings>
export type StepCalls = (typeof STEP_CALLS)[number]
export type Grade = (typeof GRADES)[number]

/** Minutes of talk an eight of new material takes. Common practice, wide, no published source. */
export const TALK: Record<Grade, number> = { children: 4.5, beginners: 3, intermediate: 2, advanced: 1 }

/** What a new plan begins with. */
export const USUAL: LessonSettings = {
  grade: 'beginners',
  chunk: 'eight',
  order: 'feet first',
  review: 'checkpoints',
  ladder: 'both',
  countIn: 4,
  view: 'mirrored',
  gap: 0.6,
  minutes: 60,
  talk: null,
  pause: 4,
  backward: false,
  calling: 'as set',
  drilled: null,
  closing: [],
  preview: false,
  passes: [],
}

/** How a step is danced: watched, together, small, or with all there is. */
export const HOWS = ['watch', 'together', 'small', 'full out', 'to the back', 'walk'] as const
/** What is called in a step: as the routine says, or what is said here; `own` is the instructor's own voice where it was recorded. */
export const STEP_CALLS = ['as set', 'numbers', 'words', 'lyric', 'mix', 'own', 'none'] as const
/**
 * What leads in: clicks and numbers alone, or the song before the entry with the count over its end, for as long as the count-in,
 * for so many counts, or from where it begins.
 */
export const LEAD_INS = ['clicks', 'song', '8', '16', '32', 'beginning'] as const
export type LeadIn = (typeof LEAD_INS)[number]

export const STEP_KINDS = [
  'warm-up',
  'show',
  'break down',
  'drill',
  'join',
  'checkpoint',
  'run',
  'rest',
  'cool-down',
] as const

/** One step of a lesson. */
export const LessonStep = v.object({
  made: StepMadeSchema,
  kind: v.picklist(STEP_KINDS),
  /** What is danced; null for steps without dancing. */
  stretch: v.nullable(StretchSchema),
  /** Counts danced before it as a run-up, not judged. */
  runUp: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(32)),
  pass: v.picklist(PASSES),
  speed: v.pipe(v.number(), v.minValue(0.4), v.maxValue(1.1)),
  sound: v.picklist(['counts', 'music', 'both']),
  view: v.picklist(VIEWS),
  repetitions: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(50)),
  /** Talk or waiting, in seconds, beside what the repetitions take. */
  talk: v.pipe(v.number(), v.minValue(0), v.maxValue(7200)),
  why: line(300),
  /** The version that is danced; the base where none is said. */
  version: v.optional(line(LIMITS.option), ''),
  how: v.optional(v.picklist(HOWS), 'together'),
  calls: v.optional(v.picklist(STEP_CALLS), 'as set'),
  leadIn: v.optional(v.picklist(LEAD_INS), 'clicks'),
  /** What to say. */
  note: v.optional(note, ''),
  /** Changed or added by hand: a plan made anew leaves it as it is. */
  own: v.boolean(),
})

export type LessonStep = v.InferOutput<typeof LessonStep>

/** A step with what is usual where nothing is said. */
export const plainStep = (what: Partial<LessonStep> & Pick<LessonStep, 'made' | 'kind'>): LessonStep => ({
  stretch: null,
  runUp: 0,
  pass: 'all',
  speed: 1,
  sound: 'both',
  view: 'true',
  repetitions: 0,
  talk: 0,
  why: '',
  version: '',
  how: 'together',
  calls: 'as set',
  leadIn: 'clicks',
  note: '',
  own: false,
  ...what,
})

/** A lesson as it is kept in a routine. */
export const LessonPlan = v.object({
  id,
  name: name(LIMITS.text, 'A plan needs a name.'),
  settings: LessonSettings,
  /** The class it is for; its log and its estimates are its own. */
  group: v.optional(text, ''),
  /** How many come; null where nobody counted. */
  heads: v.optional(v.nullable(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(999))), null),
  /** When it was laid out to go on from the lessons before it, in milliseconds; null for a lesson of its own. */
  goesOn: v.optional(v.nullable(v.pipe(v.number(), v.minValue(0))), null),
  steps: v.pipe(v.array(LessonStep), v.maxLength(LIMITS.steps)),
  /** Steps taken out by hand: a plan made anew does not bring them back. */
  gone: v.pipe(v.array(StepMadeSchema), v.maxLength(LIMITS.steps)),
})

export type LessonPlan = v.InferOutput<typeof LessonPlan>

/** A course: a class, the dates of its lessons, how long each is, and when the dance must stand. */
export const Course = v.object({
  id,
  group: text,
  dates: v.pipe(v.array(dayAndHour), v.minLength(1, 'A course has a lesson at least.'), v.maxLength(60)),
  minutes: v.pipe(v.number(), v.integer(), v.minValue(5), v.maxValue(240)),
  /** A day; null for the last lesson. */
  standsBy: v.nullable(day),
})

export type Course = v.InferOutput<typeof Course>
