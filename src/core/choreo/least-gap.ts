import { FIELDS, type Grade, type Routine, USUAL } from '../routine'
import { gridTempo, type Seconds, type Times } from '../time'

/** Seconds learners need between two actions of a layer. Common practice, no published source. */
const GAPS: Record<Grade, Seconds> = { children: 0.35, beginners: 0.25, intermediate: 0.18, advanced: 0.12 }
/** Those who have practice dance every "&", whatever the tempo. Common practice, no published source. */
const PRACTISED = new Set<Grade>(['intermediate', 'advanced'])

/** The least time between two actions, and whether somebody said it. */
export interface LeastGap {
  seconds: Seconds
  said: boolean
  /** Whose it is, where nobody said it. */
  grade: Grade
}

/**
 * What is too fast in a dance: what was said, else what the learners of its first plan need at its tempo.
 * @param times when each count falls
 */
export function leastGapOf(
  routine: Pick<Routine, 'leastGap' | 'leastGapSaid' | 'plans'>,
  times: Times,
): LeastGap {
  const grade = routine.plans[0]?.settings.grade ?? USUAL.grade
  const said = routine.leastGapSaid || routine.leastGap !== FIELDS.leastGap.usual
  if (said) return { seconds: routine.leastGap, said, grade }
  const half = times.length > 1 ? 30 / gridTempo([...times]) : Number.POSITIVE_INFINITY
  return { seconds: PRACTISED.has(grade) ? Math.min(GAPS[grade], half) : GAPS[grade], said, grade }
}
