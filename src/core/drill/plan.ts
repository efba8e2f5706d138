import { type PlacedPhrase, phraseName, placeName, type Routine, sectionTitle } from '../routine'
import { type Ratio, TICKS_PER_COUNT, type Ticks } from '../time'

export type Sound = 'counts' | 'music' | 'both'
export type DrillKind = 'drill' | 'run'

/** What is drilled and how. */
export interface DrillPlan {
  kind: DrillKind
  /** First and last phrase, by their place on the page. */
  first: number
  last: number
  speed: Ratio
  sound: Sound
  /** Counts called before the first cue. */
  countIn: number
  /** Count in again before each repetition; without it the loop has no gap. */
  countInEach: boolean
  /** How often, then it ends; without end where nothing is said. */
  repetitions?: number
  /** Counts danced before the first phrase. */
  runUp?: number
  /** Danced to the back of the room, away from the mirror. */
  toBack?: boolean
  /** Only this layer is shown and counted in for. */
  layer?: 'feet' | 'arms' | 'all'
}

/** "Chorus, eights 1 to 2" for a run of phrases. */
export function rangeName(first: PlacedPhrase, last: PlacedPhrase): string {
  if (first === last) return placeName(first)
  if (first.section && first.section === last.section)
    return `${sectionTitle(first.section)}, ${phraseName(first)} to ${phraseName(last)}`
  return `${placeName(first)} to ${placeName(last)}`
}

/** The ticks a plan plays: whole phrases; where the dance begins inside or before the first one, from there. */
export function rangeOf(
  { placed }: { placed: readonly PlacedPhrase[] },
  { excerpt }: Pick<Routine, 'excerpt'>,
  plan: Pick<DrillPlan, 'first' | 'last' | 'runUp'>,
): { from: Ticks; to: Ticks } {
  const first = placed[plan.first]
  const last = placed[plan.last]
  if (!first || !last) return { from: 0, to: 0 }
  const begin = Math.max(0, first.start - (plan.runUp ?? 0) * TICKS_PER_COUNT)
  const from = excerpt && excerpt.start > begin && excerpt.start < last.end ? excerpt.start : begin
  const to = excerpt && excerpt.end < last.end && excerpt.end > from ? excerpt.end : last.end
  return { from, to }
}

/**
 * How often a drill that was interrupted is danced yet. Those danced whole are behind; a part to go on with is one more,
 * since it does not count.
 * @param repetitions planned; undefined without end
 * @param danced whole
 * @param whole true where it goes on from the beginning of a repetition
 */
export function repetitionsLeft(
  repetitions: number | undefined,
  danced: number,
  whole: boolean,
): number | undefined {
  return repetitions === undefined ? undefined : Math.max(1, repetitions - danced) + (whole ? 0 : 1)
}
