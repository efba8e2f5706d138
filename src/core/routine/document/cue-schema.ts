import * as v from 'valibot'
import { CUE_FIELDS, type CueFieldName } from './cue-fields'
import { LEVELS } from './cue-words'
import { place, StretchSchema } from './place-schema'
import { FindingAboutSchema } from './references'
import { id, text } from './text-schema'

type Entries = {
  [K in CueFieldName]: (typeof CUE_FIELDS)[K]['needed'] extends true
    ? (typeof CUE_FIELDS)[K]['schema']
    : v.OptionalSchema<(typeof CUE_FIELDS)[K]['schema'], undefined>
}

const entries = Object.fromEntries(
  Object.entries(CUE_FIELDS).map(([name, { schema, needed }]) => [
    name,
    needed ? schema : v.optional(schema as v.GenericSchema),
  ]),
) as Entries

/** One instruction on the count line, its fields as `cue-fields.ts` describes them. Its place is absolute, so renumbering phrases never moves it off its sound. */
export const CueSchema = v.object(entries)

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

/** A finding somebody looked at and let stand, with the reason; it comes back when what it is about changes. */
export const DismissalSchema = v.object({ about: FindingAboutSchema, reason: text })

export type Cue = v.InferOutput<typeof CueSchema>
export type Position = v.InferOutput<typeof PositionSchema>
export type Repeat = v.InferOutput<typeof RepeatSchema>
