import * as v from 'valibot'
import { LIMITS } from './limits'
import { place } from './place-schema'
import { id, line, name, text } from './text-schema'

/*
 * The room a dance is danced in. Places are metres from the middle of the front edge: x grows to the right of a dancer who faces the
 * audience, y away from the audience.
 */

const metres = v.pipe(v.number(), v.minValue(-LIMITS.metres), v.maxValue(LIMITS.metres))
const length = v.pipe(v.number(), v.minValue(0), v.maxValue(LIMITS.metres))
const size = v.pipe(v.number(), v.minValue(0.5), v.maxValue(LIMITS.metres))

export const SpotSchema = v.object({ x: metres, y: metres })

/** Where a step goes of which nobody says it: to the side of its foot, nowhere, or nobody knows. */
export const PLAIN_STEPS = ['unknown', 'side', 'spot'] as const

/** How far steps go here, and how much room there is. */
export const SpaceSchema = v.object({
  /** Length of a step to the side, of a walk, of a run. */
  step: length,
  walk: length,
  run: length,
  plain: v.picklist(PLAIN_STEPS),
  room: v.nullable(v.object({ width: size, depth: size })),
  /** The camera before the middle of the front edge: how far, and how wide its picture is at that edge. */
  camera: v.nullable(v.object({ distance: size, width: size })),
  /** Where one dancer alone begins; null where it fits best. */
  begin: v.nullable(SpotSchema),
})

/** Somebody who stands at places of their own. */
export const DancerSchema = v.object({
  id,
  name: name(80, 'A dancer needs a name.'),
  /** One or two letters on the plan. */
  letters: v.pipe(line(2), v.minLength(1, 'A dancer needs a letter.')),
  /** Whose cues are danced; empty for everybody's. */
  role: text,
  /** Who is danced with. */
  partner: v.nullable(id),
})

/** How long, in ticks. */
const ticks = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(LIMITS.cueLength))

/** Where somebody stands, and how they come there. */
export const FormationSpotSchema = v.object({
  dancer: id,
  ...SpotSchema.entries,
  /** In eighths clockwise from the front. */
  facing: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(7))),
  /** The way is bent through here; straight where nothing is said. */
  through: v.optional(SpotSchema),
  /** So much later than the others it is begun and ended: one after another. Ticks. */
  later: v.optional(ticks),
})

/** Who stands where from a count on. Who is not named stays where they stood. */
export const FormationSchema = v.object({
  id,
  at: place,
  name: text,
  spots: v.pipe(v.array(FormationSpotSchema), v.maxLength(LIMITS.dancers)),
  /** How long the ways there take; worked out from the cues where it is not said. Ticks. */
  over: v.optional(ticks),
})

export type Space = v.InferOutput<typeof SpaceSchema>
export type Spot = v.InferOutput<typeof SpotSchema>
export type Dancer = v.InferOutput<typeof DancerSchema>
export type FormationSpot = v.InferOutput<typeof FormationSpotSchema>
export type Formation = v.InferOutput<typeof FormationSchema>

/** Common practice, no published source: half a metre to the side, a walk a little longer, a run a metre. */
export const USUAL_SPACE: Space = {
  step: 0.5,
  walk: 0.6,
  run: 1,
  plain: 'unknown',
  room: null,
  camera: null,
  begin: null,
}
