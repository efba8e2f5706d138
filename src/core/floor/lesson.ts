import type { DrillPlan } from '../drill'
import type { LessonSettings, LessonStep } from '../routine'
import { contains, type Ratio, type Seconds, type Stretch, sameStretch } from '../time'

/** A lesson as the floor runs it. */
export interface FloorLesson {
  /** One evening: all its rows share this. */
  evening: string
  name: string
  steps: readonly LessonStep[]
  /** Planned length of each step. */
  planned: readonly Seconds[]
  countIn: LessonSettings['countIn']
  /** The class it is held for; '' for none. How many they are; null where nobody counted. */
  group?: string
  heads?: number | null
  /** All of it as it was planned, where some was left out. */
  whole?: { steps: readonly LessonStep[]; planned: readonly Seconds[] }
}

/** Steps looked at for less than this, and not danced, were passed over. */
export const GLANCE: Seconds = 3

/** True for rungs of one ladder: the same stretch, danced whole. */
export const sameLadder = (a: LessonStep, b: LessonStep): boolean =>
  a.kind === 'drill' &&
  b.kind === 'drill' &&
  a.pass === 'all' &&
  b.pass === 'all' &&
  a.stretch !== null &&
  b.stretch !== null &&
  sameStretch(a.stretch, b.stretch)

/** Speeds that marks move a step along; none for steps that have one speed. */
export const rungsOf = (steps: readonly LessonStep[], step: LessonStep): Ratio[] =>
  [...new Set(steps.filter((s) => sameLadder(s, step)).map((s) => s.speed))].sort((a, b) => a - b)

/**
 * The step after one that ended: a rung at or below the speed that sits already is passed over.
 * @param reached speed danced clean twice in a row; 0 for none
 */
export function stepAfter(steps: readonly LessonStep[], index: number, reached: Ratio): number {
  const now = steps[index]
  let next = index + 1
  while (now && steps[next] && sameLadder(now, steps[next] as LessonStep)) {
    if ((steps[next] as LessonStep).speed > reached + 1e-9) break
    next++
  }
  return next
}

/**
 * The step after one in which more was taken in than was planned: what was added up already is passed over, up to the next
 * step with something new in it, a run or a rest.
 * @param danced what was added up
 * @param by how it was danced: with what of the body, and how fast; what the plan dances faster is still to come
 */
export function stepAfterAdding(
  steps: readonly LessonStep[],
  index: number,
  danced: Stretch,
  by: Pick<LessonStep, 'pass' | 'speed'>,
): number {
  const now = steps[index]?.stretch
  // Nothing more than was planned changes nothing.
  if (!now || contains(now, danced)) return index + 1
  let next = index + 1
  while (steps[next] && isAddedUp(steps[next] as LessonStep, danced, by)) next++
  return next
}

function isAddedUp(
  { kind, stretch, pass, speed }: LessonStep,
  danced: Stretch,
  by: Pick<LessonStep, 'pass' | 'speed'>,
): boolean {
  if (!stretch || !contains(danced, stretch)) return false
  if (by.pass !== 'all' && pass !== by.pass) return false
  const explained = kind === 'show' || kind === 'break down'
  return explained || ((kind === 'drill' || kind === 'join') && speed <= by.speed + 1e-9)
}

/** True for steps that are danced as a run and wait for a mark. */
export const isRun = (step: LessonStep): boolean => step.kind === 'run' || step.kind === 'checkpoint'

/** What is danced in a step; null for talk and rest. */
export function planOf(step: LessonStep, countIn: number): DrillPlan | null {
  if (!step.repetitions || !step.stretch) return null
  return {
    kind: isRun(step) ? 'run' : 'drill',
    stretch: step.stretch,
    speed: step.speed,
    sound: step.sound,
    countIn,
    countInEach: true,
    repetitions: step.repetitions,
    runUp: step.runUp,
    pass: step.pass,
    ...(step.how === 'to the back' ? { toBack: true } : {}),
    ...(step.how === 'walk' ? { walked: true } : {}),
    ...(step.calls === 'as set' ? {} : { calls: step.calls }),
    ...(step.leadIn === 'clicks' ? {} : { leadIn: step.leadIn }),
  }
}
