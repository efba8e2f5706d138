import * as v from 'valibot'
import { LAYERS } from './layers'
import { LIMITS } from './limits'
import { id, line, name, note, text } from './text-schema'

export const place = v.pipe(
  v.number(),
  v.integer(),
  v.minValue(LIMITS.place.min),
  v.maxValue(LIMITS.place.max),
)

/** A piece of the count line; `to` is the first tick that does not belong to it. */
export const StretchSchema = v.pipe(
  v.object({ from: place, to: place }),
  v.check((s) => s.to > s.from, 'A stretch ends after it begins.'),
)

export const SIDES = ['none', 'left', 'right', 'both'] as const
/** What a move does to the weight; the compound ones are several steps (core/choreo/effects). */
export const STEPS = [
  'step',
  'touch',
  'tap',
  'kick',
  'together',
  'jump',
  'hop',
  'ball-change',
  'chassé',
  'grapevine',
  'pas de bourrée',
  'step-touch',
  'pivot',
  'turn',
  'hold',
  'open',
] as const
export const LEVELS = ['high', 'middle', 'low', 'floor'] as const
export const CAUTIONS = ['knee', 'neck', 'back', 'jump', 'kick', 'turn', 'floor'] as const
/** Versions there are from the beginning; an instructor adds names of their own. What is held or free is so in every version. */
export const OPTIONS = ['base', 'easier', 'harder', 'hold', 'open'] as const
const OptionName = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1),
  v.maxLength(LIMITS.option),
  v.regex(/^[^\s"\\]+(?: [^\s"\\]+)*$/, 'A version’s name has no quotes in it.'),
)

/** A turn on the spot: which way, and how many eighths of a full one. */
export const Turn = v.object({
  to: v.picklist(['left', 'right']),
  eighths: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(32)),
})

/** What a cue may say beyond its place, layer and move; what is left out is not said. */
export const cueDetails = {
  /** What starts it: the count, unless words or a sound do. */
  trigger: v.optional(v.object({ kind: v.picklist(['lyric', 'sound']), mark: v.nullable(id) })),
  /** What it does to the weight, where the move's words do not say. */
  step: v.optional(v.picklist(STEPS)),
  turn: v.optional(Turn),
  /** Where the dancer arrives facing, in eighths clockwise from the front. */
  facing: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(7))),
  level: v.optional(v.picklist(LEVELS)),
  quality: v.optional(note),
  look: v.optional(note),
  /** Who does it; everybody where nobody is named. */
  role: v.optional(text),
  /** The version it is danced in; everybody's where none is named. */
  option: v.optional(OptionName),
  tip: v.optional(note),
  /** What usually goes wrong with it. */
  mistake: v.optional(note),
  caution: v.optional(v.picklist(CAUTIONS)),
  /** True where what the move list says of its move is danced to the other side. */
  mirrored: v.optional(v.boolean()),
}

/** One instruction on the count line. Its place is absolute, so renumbering phrases never moves it off its sound. */
export const CueSchema = v.object({
  id,
  at: place,
  length: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(LIMITS.cueLength)),
  layer: v.picklist(LAYERS),
  move: name(LIMITS.text, 'A cue needs a move.'),
  side: v.picklist(SIDES),
  /** The short word the caller says; empty means the move itself. */
  call: text,
  ...cueDetails,
})

/** A repeat: `to` is danced as the stretch of the same length that begins at `from`, plain or to the other side. */
export const RepeatSchema = v.object({ id, to: StretchSchema, from: place, mirrored: v.boolean() })

/**
 * Where the dancer stands at a place, as far as it was written: before the cues that begin there. What is left out is what
 * the cues say.
 */
export const PositionSchema = v.object({
  at: place,
  weight: v.optional(v.picklist(['left', 'right', 'both'])),
  facing: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(7))),
  level: v.optional(v.picklist(LEVELS)),
  arms: v.optional(text),
})

/** A finding somebody looked at and let stand, with the reason; the key changes when what it is about changes. */
export const DismissalSchema = v.object({ key: line(600), reason: text })

export type Cue = v.InferOutput<typeof CueSchema>
export type Side = (typeof SIDES)[number]
export type StepEffect = (typeof STEPS)[number]
export type Turn = v.InferOutput<typeof Turn>
export type Level = (typeof LEVELS)[number]
export type Option = v.InferOutput<typeof OptionName>
export type Position = v.InferOutput<typeof PositionSchema>
export type Repeat = v.InferOutput<typeof RepeatSchema>
