import {
  borderOfBeginning,
  borderOfEnd,
  type Course,
  type DancedCue,
  type LessonPlan,
  type LessonSettings,
  type LessonStep,
  LIMITS,
  madeAs,
  type Pass,
  type PlacedPhrase,
  plainStep,
  Refused,
  type Routine,
  stepKey,
} from '../routine'
import { type Stretch, sameStretch, TICKS_PER_COUNT, type Ticks, without } from '../time'

/** Steps made by hand are made as nothing else is; laying the lesson out anew never makes one of these. */
const OWN = 'own '

/** Steps moved before or after another one, together and in the order they had; theirs by hand from then on. */
export function moveSteps(
  plan: LessonPlan,
  ids: readonly string[],
  target: string,
  after: boolean,
): LessonPlan {
  const moved = plan.steps.filter((s) => ids.includes(stepKey(s))).map((s) => ({ ...s, own: true }))
  const rest = plan.steps.filter((s) => !ids.includes(stepKey(s)))
  const beside = rest.findIndex((s) => stepKey(s) === target)
  if (beside < 0 || moved.length === 0) return plan
  const at = beside + (after ? 1 : 0)
  return { ...plan, steps: [...rest.slice(0, at), ...moved, ...rest.slice(at)] }
}

/** One step earlier or later by a place; at the ends it stays. */
export function nudgeStep(plan: LessonPlan, id: string | null, by: 1 | -1): LessonPlan {
  const i = plan.steps.findIndex((s) => stepKey(s) === id)
  const [step, target] = [plan.steps[i], plan.steps[i + by]]
  return step && target ? moveSteps(plan, [stepKey(step)], stepKey(target), by > 0) : plan
}

/** A copy of a step after it, to be changed; without one, a copy of the first drill at the end. */
export function addStep(plan: LessonPlan, beside: string | null, newId: () => string): LessonPlan {
  const i = plan.steps.findIndex((s) => stepKey(s) === beside)
  const model = plan.steps[i] ?? plan.steps.find((s) => s.kind === 'drill') ?? plan.steps[0]
  if (!model) return plan
  const next = { ...model, made: madeAs(`${OWN}${newId()}`), own: true, why: '' }
  return { ...plan, steps: plan.steps.toSpliced(i < 0 ? plan.steps.length : i + 1, 0, next) }
}

export function changeStep(plan: LessonPlan, id: string, what: Partial<LessonStep>): LessonPlan {
  return { ...plan, steps: plan.steps.map((s) => (stepKey(s) === id ? { ...s, ...what, own: true } : s)) }
}

/** Several steps changed alike, by hand from then on. */
export function changeSteps(
  plan: LessonPlan,
  ids: ReadonlySet<string>,
  what: Partial<LessonStep>,
): LessonPlan {
  return { ...plan, steps: plan.steps.map((s) => (ids.has(stepKey(s)) ? { ...s, ...what, own: true } : s)) }
}

/** How far a step may reach over the borders of its phrases. */
export const REACHES = ['pick-up', '1 after', 'as counted'] as const
export type Reach = (typeof REACHES)[number]

/**
 * A stretch that begins with its pick-up, ends on the 1 after, or is as its phrases are counted.
 * @param leads how long before its first count it begins, where the page does not say so
 */
function reaching(
  stretch: Stretch,
  reach: Reach,
  placed: readonly PlacedPhrase[],
  leads: (at: Ticks) => Ticks,
): Stretch {
  const core = { from: borderOfBeginning(placed, stretch.from), to: borderOfEnd(placed, stretch.to) }
  if (reach === 'as counted') return core
  if (reach === '1 after') return { from: stretch.from, to: core.to + TICKS_PER_COUNT }
  const begin = placed.find((p) => p.start === core.from)
  return { from: core.from - (begin?.lean || leads(core.from)), to: stretch.to }
}

/** How long before a count what leads into it begins: the first cue of the count before that is off the beat, else all of that count. */
function leadBefore(cues: readonly DancedCue[], at: Ticks): Ticks {
  const off = cues.filter((c) => c.at > at - TICKS_PER_COUNT && c.at < at)
  return off.length ? at - Math.min(...off.map((c) => c.at)) : TICKS_PER_COUNT
}

/** Several steps that reach over their borders alike; what would reach out of all that is counted stays. */
export function reachOfSteps(
  plan: LessonPlan,
  ids: ReadonlySet<string>,
  reach: Reach,
  placed: readonly PlacedPhrase[],
  cues: readonly DancedCue[],
): LessonPlan {
  const end = placed.at(-1)?.end ?? 0
  const steps = plan.steps.map((s) => {
    if (!s.stretch || !ids.has(stepKey(s))) return s
    const stretch = reaching(s.stretch, reach, placed, (at) => leadBefore(cues, at))
    const same = sameStretch(stretch, s.stretch) || stretch.from < 0 || stretch.to > end
    return same ? s : { ...s, stretch, own: true }
  })
  return steps.every((s, i) => s === plan.steps[i]) ? plan : { ...plan, steps }
}

/** A drill of any counts, after a step or at the end. */
export function addDrill(
  plan: LessonPlan,
  stretch: Stretch,
  beside: string | null,
  newId: () => string,
): LessonPlan {
  const i = plan.steps.findIndex((s) => stepKey(s) === beside)
  const step = plainStep({
    ...{ made: madeAs(`${OWN}${newId()}`), kind: 'drill', stretch, speed: 0.75, repetitions: 2, own: true },
    view: plan.settings.view,
  })
  return { ...plan, steps: plan.steps.toSpliced(i < 0 ? plan.steps.length : i + 1, 0, step) }
}

/** The passes of a place in another order than the usual one; none chosen, the usual order is taken again. */
export function setPasses(
  settings: LessonSettings,
  stretch: Stretch,
  passes: readonly Pass[] | null,
): LessonSettings {
  const others = settings.passes.flatMap((p) =>
    without(p.stretch, stretch).map((s) => ({ ...p, stretch: s })),
  )
  return { ...settings, passes: passes ? [...others, { stretch, passes: [...passes] }] : others }
}

/** A way to teach as it goes to other dances: without the places of this one. */
export const wayOf = (settings: LessonSettings): LessonSettings => ({ ...settings, passes: [] })

/** Another way to teach, with the places of this dance as they are. */
export const taughtLike = (settings: LessonSettings, way: LessonSettings): LessonSettings => ({
  ...way,
  passes: settings.passes,
})

/** Without a step; laid out anew, the plan stays without it. */
export function takeOut(plan: LessonPlan, ids: ReadonlySet<string>): LessonPlan {
  const out = plan.steps.filter((s) => ids.has(stepKey(s)))
  const laidOut = out.flatMap(({ made }) => (made.what.startsWith(OWN) ? [] : [made]))
  return { ...plan, steps: plan.steps.filter((s) => !out.includes(s)), gone: [...plan.gone, ...laidOut] }
}

/** Adds a plan to a routine. @throws Refused where there are as many as can be kept */
export function addPlan(routine: Routine, plan: LessonPlan): Routine {
  if (routine.plans.length >= LIMITS.plans)
    throw new Refused(`There are ${LIMITS.plans} lesson plans already: take one away first.`)
  return { ...routine, plans: [...routine.plans, plan] }
}

export function removePlan(routine: Routine, id: string): Routine {
  return { ...routine, plans: routine.plans.filter((p) => p.id !== id) }
}

/** Keeps a course, or changes the one with its id. */
export const putCourse = (routine: Routine, course: Course): Routine => ({
  ...routine,
  courses: routine.courses.some((c) => c.id === course.id)
    ? routine.courses.map((c) => (c.id === course.id ? course : c))
    : [...routine.courses, course],
})

export const removeCourse = (routine: Routine, id: string): Routine => ({
  ...routine,
  courses: routine.courses.filter((c) => c.id !== id),
})

/** Changes one plan; what changes nothing is no step to undo. */
export function changePlan(routine: Routine, id: string, what: (plan: LessonPlan) => LessonPlan): Routine {
  const plans = routine.plans.map((p) => (p.id === id ? what(p) : p))
  return plans.every((p, i) => p === routine.plans[i]) ? routine : { ...routine, plans }
}
