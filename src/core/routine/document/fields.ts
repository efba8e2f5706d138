import * as v from 'valibot'
import { type Seconds, TICKS_PER_COUNT } from '../../time'
import { cueAlong } from './cue-fields'
import { CueSchema, DismissalSchema, PositionSchema, RepeatSchema } from './cue-schema'
import { FilmSchema } from './film-schema'
import { LearnerSchema } from './learner-schema'
import { Course, LessonPlan } from './lesson-schema'
import { LIMITS } from './limits'
import { StretchSchema } from './place-schema'
import type { StepMade } from './references'
import type { Regrid } from './regrid'
import {
  BorderSchema,
  BreathSchema,
  PartSchema,
  PhraseSchema,
  phraseLength,
  RepairSchema,
  SectionSchema,
  SongMarkSchema,
} from './song-schema'
import { DancerSchema, FormationSchema, SpaceSchema, USUAL_SPACE } from './space-schema'
import { lines, name, note, text } from './text-schema'
import { VoiceSchema } from './voice-schema'

/*
 * What a routine holds, each field described once. From here come its schema and the empty routine (schema.ts), what the gate
 * reads (gate/commit.ts), what goes along to another grid (edits/rebase.ts), what undo remembers (gate/past.ts), what a lesson
 * is laid out from, and what leaves the house (handout/practice-page.ts, handout/routine-file.ts).
 */

/** What a field is. */
interface What<S extends v.GenericSchema, Needed extends boolean> {
  schema: S
  /** What it is where nothing was said: in a new routine, and where a document is without it. */
  usual: v.InferOutput<S>
  /** No document may be without it. */
  needed: Needed
}

/** What a list is: what an item of it is, how many there may be, and what they are called in messages. */
interface WhatList<S extends v.GenericSchema, Needed extends boolean> {
  of: S
  most: number
  name: string
  needed: Needed
}

/** What becomes of a field. */
interface Becomes<Value, Page> {
  /** How it goes along when counts get other numbers. */
  along: 'stays' | ((value: Value, to: Regrid) => Value)
  /** It says what is danced, and to what: lessons, alikes and checks are worked out from these alone. */
  danced: boolean
  /** On a practice page: shown as it is, chosen from (practice-page.ts says how), or staying home. */
  page: Page
  /** In the routine's own file and copies: always, left out where that is asked for, with the films it names, or never. */
  file: 'always' | 'unless left out' | 'with films' | 'never'
}

type OnAPage = 'shown' | 'chosen' | 'home'

/** Something said once. */
const single = <S extends v.GenericSchema, const N extends boolean, const P extends OnAPage>(
  what: What<S, N>,
  becomes: Becomes<v.InferOutput<S>, P>,
) => ({ ...what, ...becomes, list: null })

const list = <S extends v.GenericSchema, const N extends boolean, const P extends OnAPage>(
  { of, most, name, needed }: WhatList<S, N>,
  becomes: Becomes<v.InferOutput<S>[], P>,
) => ({
  schema: v.pipe(v.array(of), v.maxLength(most)),
  usual: [] as v.InferOutput<S>[],
  needed,
  ...becomes,
  list: { of: of as v.GenericSchema, most, name },
})

const madeAlong = ({ what, about }: StepMade, to: Regrid): StepMade => ({
  what,
  about: about.map((at) => to.inside(at)),
})

/** A stretch by which is told how many new counts an old one is. */
const WHOLE = 64 * TICKS_PER_COUNT
const overBorder = (ticks: number) => Math.max(0, Math.min(LIMITS.border, Math.round(ticks)))
const nearHalf = (ticks: number) =>
  overBorder(Math.round((2 * ticks) / TICKS_PER_COUNT) * (TICKS_PER_COUNT / 2))

export const FIELDS = {
  title: single(
    { schema: name(LIMITS.text, 'A routine needs a name.'), usual: '', needed: true },
    { along: 'stays', danced: false, page: 'shown', file: 'always' },
  ),
  credit: single(
    { schema: text, usual: '', needed: true },
    { along: 'stays', danced: false, page: 'shown', file: 'always' },
  ),
  /** Moves on counts alone, at a tempo, without a song: laid on songs later. */
  combination: single(
    { schema: v.boolean(), usual: false, needed: false },
    { along: 'stays', danced: false, page: 'home', file: 'always' },
  ),
  /** Version of the hearing the counts stand on; 0 while there are none. */
  heardWith: single(
    {
      schema: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(1_000_000)),
      usual: 0,
      needed: false,
    },
    { along: 'stays', danced: false, page: 'home', file: 'always' },
  ),
  /** Version of the hearing whose way to count was said to be right: of it the song asks no more. 0 for none. */
  confirmed: single(
    {
      schema: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(1_000_000)),
      usual: 0,
      needed: false,
    },
    { along: 'stays', danced: false, page: 'home', file: 'always' },
  ),
  /** Counts of a phrase where nothing else is said: 8, or 6, 4, 3 for other metres. */
  usual: single(
    { schema: phraseLength, usual: 8, needed: false },
    { along: 'stays', danced: true, page: 'shown', file: 'always' },
  ),
  excerpt: single(
    { schema: v.nullable(StretchSchema), usual: null, needed: true },
    { along: (excerpt, to) => excerpt && to.stretch(excerpt), danced: true, page: 'chosen', file: 'always' },
  ),
  /** Lyric lines written down but not yet tapped in, one a line. */
  lyrics: single(
    { schema: lines(50_000), usual: '', needed: false },
    { along: 'stays', danced: false, page: 'home', file: 'always' },
  ),
  /** Seconds a learner needs between two actions, where somebody said so; what is faster is a finding. */
  leastGap: single(
    { schema: v.pipe(v.number(), v.minValue(0.05), v.maxValue(2)), usual: 0.25 as Seconds, needed: false },
    { along: 'stays', danced: true, page: 'home', file: 'always' },
  ),
  /** Somebody said the least gap; else it is the program's, by learners and tempo (choreo/least-gap.ts). */
  leastGapSaid: single(
    { schema: v.boolean(), usual: false, needed: false },
    { along: 'stays', danced: true, page: 'home', file: 'always' },
  ),
  /** What is called: numbers, the moves' words, the lyric, words where there are some and numbers elsewhere, or the instructor's own voice. */
  called: single(
    { schema: v.picklist(['numbers', 'words', 'lyric', 'mix', 'own']), usual: 'numbers', needed: false },
    { along: 'stays', danced: false, page: 'shown', file: 'always' },
  ),
  /** Moves are called a count before they are danced. */
  calledAhead: single(
    { schema: v.boolean(), usual: false, needed: false },
    { along: 'stays', danced: false, page: 'shown', file: 'always' },
  ),
  /** Words counted in with instead of numbers, on the last counts before the dance: "ready and go". */
  leadWords: single(
    { schema: text, usual: '', needed: false },
    { along: 'stays', danced: false, page: 'shown', file: 'always' },
  ),
  /** What is needed for this dance: pads, shoes, clothes. */
  gear: single(
    { schema: note, usual: '', needed: false },
    { along: 'stays', danced: false, page: 'home', file: 'always' },
  ),
  /** Of the room: how far it travels, where to stand at first. */
  room: single(
    { schema: note, usual: '', needed: false },
    { along: 'stays', danced: false, page: 'home', file: 'always' },
  ),
  /** How far steps go, and how much room there is. */
  space: single(
    { schema: SpaceSchema, usual: USUAL_SPACE, needed: false },
    { along: 'stays', danced: false, page: 'home', file: 'always' },
  ),
  dancers: list(
    { of: DancerSchema, most: LIMITS.dancers, name: 'dancers', needed: false },
    { along: 'stays', danced: false, page: 'chosen', file: 'always' },
  ),
  formations: list(
    { of: FormationSchema, most: LIMITS.formations, name: 'formations', needed: false },
    {
      along: (formations, to) => {
        const lasting = (at: number, ticks: number | undefined) =>
          ticks === undefined ? undefined : Math.max(0, to.tick(at) - to.tick(at - ticks))
        const placed = [...formations]
          .sort((a, b) => a.at - b.at)
          .map(({ over, ...f }) => {
            const took = lasting(f.at, over)
            const spots = f.spots.map(({ later, ...s }) => {
              const by = lasting(f.at, later)
              return by === undefined ? s : { ...s, later: by }
            })
            return { ...f, at: to.inside(f.at), spots, ...(took === undefined ? {} : { over: took }) }
          })
        // Two that come to lie on one place: the later one is where they stand from there on.
        return [...new Map(placed.map((f) => [f.at, f])).values()]
      },
      danced: false,
      page: 'chosen',
      file: 'always',
    },
  ),
  // Beats are named by their number, not by ticks.
  repairs: list(
    { of: RepairSchema, most: LIMITS.repairs, name: 'repairs of the beat', needed: true },
    { along: 'stays', danced: true, page: 'home', file: 'always' },
  ),
  phrases: list(
    { of: PhraseSchema, most: LIMITS.phrases, name: 'phrases', needed: true },
    { along: (_, to) => to.phrases(), danced: true, page: 'shown', file: 'always' },
  ),
  sections: list(
    { of: SectionSchema, most: LIMITS.sections, name: 'sections', needed: true },
    {
      along: (sections, to) => sections.map((s) => ({ ...s, at: to.phraseStart(s.at) })),
      danced: true,
      page: 'shown',
      file: 'always',
    },
  ),
  /** What belongs over the border of a phrase, at every border of which nothing else is said. */
  usualBorder: single(
    { schema: BreathSchema, usual: { lean: 0, resolve: 0 }, needed: false },
    {
      // As many of the new counts as it was of the old ones, in all.
      along: ({ lean, resolve }, to) => {
        const share = (to.tick(WHOLE) - to.tick(0)) / WHOLE
        return { lean: nearHalf(lean * share), resolve: nearHalf(resolve * share) }
      },
      danced: true,
      page: 'shown',
      file: 'always',
    },
  ),
  /** The borders at which it is otherwise. */
  borders: list(
    { of: BorderSchema, most: LIMITS.phrases, name: 'borders', needed: false },
    {
      along: (borders, to) =>
        borders.map(({ at, lean, resolve }) => ({
          at: to.phraseStart(at),
          lean: overBorder(to.tick(at) - to.tick(at - lean)),
          resolve: overBorder(to.tick(at + resolve) - to.tick(at)),
        })),
      danced: true,
      page: 'shown',
      file: 'always',
    },
  ),
  parts: list(
    { of: PartSchema, most: LIMITS.parts, name: 'parts', needed: false },
    {
      along: (parts, to) => parts.map((p) => ({ ...p, at: Math.max(0, to.inside(p.at)) })),
      danced: true,
      page: 'home',
      file: 'always',
    },
  ),
  // In seconds of the song.
  marks: list(
    { of: SongMarkSchema, most: LIMITS.marks, name: 'words and sounds', needed: false },
    { along: 'stays', danced: false, page: 'chosen', file: 'always' },
  ),
  cues: list(
    { of: CueSchema, most: LIMITS.cues, name: 'cues', needed: true },
    {
      along: (cues, to) => cues.map((c) => cueAlong(c, to)),
      danced: true,
      page: 'chosen',
      file: 'always',
    },
  ),
  repeats: list(
    { of: RepeatSchema, most: LIMITS.repeats, name: 'repeats', needed: false },
    {
      along: (repeats, to) => repeats.map((r) => ({ ...r, to: to.stretch(r.to), from: to.inside(r.from) })),
      danced: true,
      page: 'home',
      file: 'always',
    },
  ),
  positions: list(
    { of: PositionSchema, most: LIMITS.positions, name: 'positions', needed: false },
    {
      along: (positions, to) => {
        const inOrder = [...positions].sort((a, b) => a.at - b.at)
        const placed = inOrder.map((p) => ({ ...p, at: to.inside(p.at) }))
        // Two that come to lie on one place: the later one was written of what follows.
        return [...new Map(placed.map((p) => [p.at, p])).values()]
      },
      danced: true,
      page: 'chosen',
      file: 'always',
    },
  ),
  dismissed: list(
    { of: DismissalSchema, most: LIMITS.dismissed, name: 'findings let stand', needed: false },
    {
      along: (dismissed, to) =>
        dismissed.map((d) => {
          const places = d.about.places.map(({ at, length, says }) => {
            const from = to.inside(at)
            return { at: from, length: Math.max(1, to.inside(at + length) - from), says }
          })
          return { ...d, about: { ...d.about, places } }
        }),
      danced: true,
      page: 'home',
      file: 'always',
    },
  ),
  plans: list(
    { of: LessonPlan, most: LIMITS.plans, name: 'lesson plans', needed: false },
    {
      along: (plans, to) =>
        plans.map((plan) => ({
          ...plan,
          settings: {
            ...plan.settings,
            passes: plan.settings.passes.map((p) => ({ ...p, stretch: to.stretch(p.stretch) })),
          },
          gone: plan.gone.map((made) => madeAlong(made, to)),
          steps: plan.steps.map((s) => ({
            ...s,
            made: madeAlong(s.made, to),
            stretch: s.stretch && to.stretch(s.stretch),
          })),
        })),
      danced: false,
      page: 'home',
      file: 'unless left out',
    },
  ),
  voices: list(
    { of: VoiceSchema, most: LIMITS.voices, name: 'recordings', needed: false },
    {
      // What was said lies between ticks, and stays there.
      along: (voices, to) =>
        voices.map((x) => ({
          ...x,
          stretch: to.stretch(x.stretch),
          pieces: x.pieces.map((p) => ({ ...p, at: to.between(p.at) })),
        })),
      danced: false,
      page: 'chosen',
      file: 'always',
    },
  ),
  courses: list(
    { of: Course, most: LIMITS.plans, name: 'courses', needed: false },
    { along: 'stays', danced: false, page: 'home', file: 'unless left out' },
  ),
  // In seconds of the song and of the film; a note on a film is on a count.
  films: list(
    { of: FilmSchema, most: LIMITS.films, name: 'films', needed: false },
    {
      along: (films, to) =>
        films.map((f) => ({ ...f, notes: f.notes.map((n) => ({ ...n, at: to.inside(n.at) })) })),
      danced: false,
      page: 'home',
      file: 'with films',
    },
  ),
  // What learners said is the log's.
  learners: list(
    { of: LearnerSchema, most: LIMITS.learners, name: 'learners', needed: false },
    {
      along: (learners, to) =>
        learners.map((x) => ({
          ...x,
          marks: x.marks.map((m) => ({ ...m, stretch: to.stretch(m.stretch) })),
        })),
      danced: false,
      page: 'home',
      file: 'never',
    },
  ),
} as const

export type FieldName = keyof typeof FIELDS

/** Every field, in the order a document is written in. */
export const FIELD_NAMES = Object.keys(FIELDS) as FieldName[]

type ListName = { [K in FieldName]: (typeof FIELDS)[K]['list'] extends null ? never : K }[FieldName]
export const LIST_NAMES = FIELD_NAMES.filter((name): name is ListName => FIELDS[name].list !== null)
export const SINGLE_NAMES = FIELD_NAMES.filter(
  (name): name is Exclude<FieldName, ListName> => FIELDS[name].list === null,
)

/** The fields of which something is so. */
export const fieldsWhere = (holds: (field: (typeof FIELDS)[FieldName]) => boolean): FieldName[] =>
  FIELD_NAMES.filter((name) => holds(FIELDS[name]))

/** Of the fields, those that say this of `page`. */
export type OnPage<P extends OnAPage> = {
  [K in FieldName]: (typeof FIELDS)[K]['page'] extends P ? K : never
}[FieldName]
