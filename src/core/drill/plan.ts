import * as v from 'valibot'
import {
  type Dance,
  danceOf,
  LEAD_INS,
  type LeadIn,
  PASSES,
  type Pass,
  type PlacedPhrase,
  pieceWithin,
  STEP_CALLS,
  type StepCalls,
  StretchSchema,
  withRunUp,
} from '../routine'
import { FASTEST, type Ratio, SLOWEST, type Stretch, TICKS_PER_COUNT } from '../time'

/** What sounds: counts, the song, or both. */
export const SOUNDS = ['counts', 'music', 'both'] as const
export type Sound = (typeof SOUNDS)[number]
export type DrillKind = 'drill' | 'run'

/** What is drilled and how. */
export interface DrillPlan {
  kind: DrillKind
  /** What is danced and judged. */
  stretch: Stretch
  speed: Ratio
  sound: Sound
  /** Counts called before the first cue. */
  countIn: number
  /** Count in again before each repetition; without it the loop has no gap. */
  countInEach: boolean
  /** How often, then it ends; without end where nothing is said. */
  repetitions?: number
  /** Counts danced before the stretch, not judged. */
  runUp?: number
  /** Danced to the back of the room, away from the mirror. */
  toBack?: boolean
  /** Only the places are gone through: the plan of the floor stands beside the counts. */
  walked?: boolean
  /** Only this part of the body is shown and counted in for. */
  pass?: Pass
  /** What is called, where it is not what the routine says. */
  calls?: StepCalls
  /** What leads into the first repetition; clicks where nothing is said. Before others the song leads in as long as they are counted in. */
  leadIn?: LeadIn
}

const counts = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(64))

/** A plan as it is handed from page to page. */
export const DrillPlanSchema: v.GenericSchema<unknown, DrillPlan> = v.object({
  kind: v.picklist(['drill', 'run']),
  stretch: StretchSchema,
  speed: v.pipe(v.number(), v.minValue(SLOWEST), v.maxValue(FASTEST)),
  sound: v.picklist(SOUNDS),
  countIn: counts,
  countInEach: v.boolean(),
  repetitions: v.exactOptional(v.pipe(v.number(), v.integer(), v.minValue(1))),
  runUp: v.exactOptional(counts),
  toBack: v.exactOptional(v.boolean()),
  walked: v.exactOptional(v.boolean()),
  pass: v.exactOptional(v.picklist(PASSES)),
  calls: v.exactOptional(v.picklist(STEP_CALLS)),
  leadIn: v.exactOptional(v.picklist(LEAD_INS)),
})

/** Fewer counts than this before the first phrase of a dance are danced with it. */
const LEAD = 4

/**
 * The counts that are danced when phrases are chosen: their piece as far as it belongs to the dance. What the dance
 * begins with before the 1 of its first phrase (on 8, on "7 8") is danced with that phrase.
 * @param placed all phrases of the page
 */
export function stretchOfPhrases(
  routine: Dance,
  placed: readonly PlacedPhrase[],
  first: PlacedPhrase,
  last: PlacedPhrase,
): Stretch {
  const whole = { from: first.start, to: Math.max(first.end, last.end) }
  const dance = danceOf(routine)
  const stretch = pieceWithin(placed, whole, dance) ?? whole
  const lead = whole.from - dance.from
  return lead > 0 && lead < LEAD * TICKS_PER_COUNT ? { ...stretch, from: dance.from } : stretch
}

/** The ticks a drill plays: its stretch, and the run-up before it as far as it lies in the dance. */
export const rangeOf = (
  { stretch, runUp = 0 }: Pick<DrillPlan, 'stretch' | 'runUp'>,
  routine: Dance,
): Stretch => withRunUp(routine, stretch, runUp)
