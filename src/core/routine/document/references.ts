import * as v from 'valibot'
import { LIMITS } from './limits'
import { place } from './place-schema'
import { line } from './text-schema'

/*
 * What a plan and a routine say of steps and findings that are worked out anew: what it is, and the places it is about. Places go
 * along with the counts like all others.
 */

/**
 * What a step was made as: the same for the same step of a plan made anew, so that changes by hand stay with it. "rung 75" about
 * the place it drills.
 */
export const StepMadeSchema = v.object({
  what: v.pipe(line(120), v.minLength(1)),
  about: v.pipe(v.array(place), v.maxLength(4)),
})
export type StepMade = v.InferOutput<typeof StepMadeSchema>

/** What a step was made as. @param about places, in an order that is the same each time */
export const madeAs = (what: string, ...about: number[]): StepMade => ({ what, about })

/** Tells steps of a plan apart, in lists and while one is chosen; it is kept nowhere. */
export const stepKey = ({ made: { what, about } }: { made: StepMade }): string =>
  [what, ...about.map((tick) => `@${tick}`)].join(' ')

export const FINDING_KINDS = [
  'weight',
  'facing',
  'level',
  'fast',
  'empty',
  'clash',
  'caution',
  'side',
  'outside',
  'room',
  'picture',
  'drift',
  'meet',
  'far',
  'late',
  'hidden',
] as const
export type FindingKind = (typeof FINDING_KINDS)[number]

/** What a finding is about: the same as long as its cues say the same. */
export const FindingAboutSchema = v.object({
  kind: v.picklist(FINDING_KINDS),
  /** Its cues: where, how long, and what of each makes the finding; or the counts where nothing is. */
  places: v.pipe(
    v.array(
      v.object({
        at: place,
        length: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(2 * LIMITS.place.max)),
        says: line(300),
      }),
    ),
    v.minLength(1),
    v.maxLength(4),
  ),
  /** What else it depends on: the least gap that was asked for. */
  limit: v.optional(v.pipe(v.number(), v.finite())),
})
export type FindingAbout = v.InferOutput<typeof FindingAboutSchema>

/** Tells findings apart; it is kept nowhere. */
export const findingKey = ({ kind, places, limit }: FindingAbout): string =>
  JSON.stringify([kind, places.map((p) => [p.at, p.length, p.says]), limit ?? null])
