import type { MoveBook } from '../choreo'
import type { CountedRow } from '../drill'
import {
  addDrill,
  addPlan,
  addStep,
  changePlan,
  changeStep,
  changeSteps,
  keepByHand,
  lessonOf,
  moveSteps,
  newEights,
  nudgeStep,
  type Reach,
  reachOfSteps,
  removePlan,
  setPasses,
  takeOut,
  taughtLike,
  usualMinutes,
} from '../lesson'
import {
  cutText,
  danced,
  type Edit,
  type LessonPlan,
  type LessonSettings,
  type LessonStep,
  type NewId,
  type Pass,
  placePhrases,
  type Routine,
  stepKey,
  USUAL,
} from '../routine'
import { holds, type Stretch, type Times } from '../time'

/*
 * The Teach station as a machine: which plan and which steps are meant, and what is asked of them.
 */

export interface TeachState {
  /** The plan that is shown; null for the first. */
  planId: string | null
  /** Steps that are chosen, by their keys. */
  chosen: ReadonlySet<string>
}

export const TEACH_AT_FIRST: TeachState = { planId: null, chosen: new Set() }

/** What is looked at while an event comes in. */
export interface TeachSeen {
  routine: Routine
  times: Times
  book: MoveBook
  /** The log of the plan's class, on the counts of the page. */
  rows: readonly CountedRow[]
  marked: Stretch | null
  /** Milliseconds. */
  now: number
  newId: NewId
}

export type TeachEvent =
  | { kind: 'first plan' }
  /** Another plan that begins with the settings of this one. */
  | { kind: 'another plan' }
  /** The lesson after those that were danced. */
  | { kind: 'next lesson' }
  | { kind: 'choose plan'; id: string | null }
  | { kind: 'name plan'; name: string }
  | { kind: 'take plan away' }
  | { kind: 'choose steps'; keys: ReadonlySet<string> | 'all' }
  /** How the lesson is taught is changed, and it is laid out anew. */
  | { kind: 'teach'; what: Partial<LessonSettings> }
  | { kind: 'teach like'; way: LessonSettings }
  /** The passes of the place that is chosen; none for the usual order. */
  | { kind: 'passes'; order: readonly Pass[] | null }
  | { kind: 'lay anew' }
  | { kind: 'forget by hand' }
  | { kind: 'change step'; key: string; what: Partial<LessonStep> }
  | { kind: 'change chosen'; did: string; what: Partial<LessonStep> }
  /** All chosen steps with their pick-up, the 1 after, or neither. */
  | { kind: 'reach'; reach: Reach }
  | { kind: 'take out'; key: string }
  | { kind: 'take chosen out' }
  | { kind: 'move steps'; keys: readonly string[]; target: string; after: boolean }
  | { kind: 'nudge'; by: 1 | -1 }
  | { kind: 'add step' }
  | { kind: 'add marked' }
  | { kind: 'drill first'; move: string; stretch: Stretch }
  | { kind: 'class'; group: string }
  | { kind: 'heads'; heads: number | null }

/** An edit, and which plan is shown if it was taken. */
export interface TeachEdit {
  did: string
  change: Edit
  shows: { plan: string | null } | null
}

export interface TeachStepped {
  state: TeachState
  edit: TeachEdit | null
}

/** The plan that is shown. */
export const planShown = (
  { planId }: Pick<TeachState, 'planId'>,
  plans: readonly LessonPlan[],
): LessonPlan | undefined => plans.find((p) => p.id === planId) ?? plans[0]

/** The steps that are chosen, in order. */
export const chosenSteps = (
  { chosen }: Pick<TeachState, 'chosen'>,
  steps: readonly LessonStep[],
): LessonStep[] => steps.filter((s) => chosen.has(stepKey(s)))

/** The one step that is chosen; null where none or several are. */
export function oneChosen(state: Pick<TeachState, 'chosen'>, steps: readonly LessonStep[]): string | null {
  const [one, more] = chosenSteps(state, steps)
  return one && !more ? stepKey(one) : null
}

/** "Thursday beginners, lesson 3" — a name no plan has. */
export function nextName(plans: readonly LessonPlan[], group: string): string {
  const base = group ? `${cutText(group, 180)}, lesson` : 'Lesson'
  for (let n = 2; ; n++) if (!plans.some((p) => p.name === `${base} ${n}`)) return `${base} ${n}`
}

/** Steps as they would be laid out now, with what was done by hand. */
const laid = (
  { routine, times, book, rows }: TeachSeen,
  settings: LessonSettings,
  old: Pick<LessonPlan, 'steps' | 'gone' | 'goesOn'>,
): LessonStep[] => keepByHand(old, lessonOf(routine, times, book, { ...old, settings }, rows).steps)

/** A plan that is there no more since the event was made is left alone. */
const on = (plan: LessonPlan, did: string, what: (p: LessonPlan) => LessonPlan): TeachEdit => ({
  did,
  change: (r) => changePlan(r, plan.id, what),
  shows: null,
})

/** A plan of its own, shown when it is there. */
function made(
  seen: TeachSeen,
  settings: LessonSettings,
  name: string,
  like: LessonPlan | undefined,
  goesOn: number | null = null,
): TeachEdit {
  const steps = laid(seen, settings, { steps: [], gone: [], goesOn })
  const { group, heads } = like ?? { group: '', heads: null }
  const plan: LessonPlan = { id: seen.newId(), name, settings, steps, goesOn, group, heads, gone: [] }
  return { did: 'a new lesson plan', change: (r) => addPlan(r, plan), shows: { plan: plan.id } }
}

/** The lesson with other settings, laid out anew; what was done by hand stays. */
const taught = (seen: TeachSeen, plan: LessonPlan, settings: LessonSettings, did: string): TeachEdit => {
  const steps = laid(seen, settings, plan)
  return on(plan, did, (p) => ({ ...p, settings, steps }))
}

/** Of somebody new: as long as a usual class with as much that is new. */
const firstSettings = ({ routine, times, book }: TeachSeen): LessonSettings => ({
  ...USUAL,
  minutes: usualMinutes(newEights(routine, times, book, USUAL), USUAL.grade),
})

const CHANGED = 'change how the lesson is taught'

/** What an event asks of the plan that is shown; null where it asks nothing. */
function planEdit(state: TeachState, event: TeachEvent, plan: LessonPlan, seen: TeachSeen): TeachEdit | null {
  const { settings, steps } = plan
  const picked = chosenSteps(state, steps)
  const last = picked.at(-1)
  /** After which step another is added. */
  const beside = last ? stepKey(last) : null
  const stepId = () => seen.newId().slice(0, 10)
  switch (event.kind) {
    case 'another plan':
      return made(seen, settings, `${cutText(plan.name, 180)} (another)`, plan)
    case 'next lesson':
      return made(seen, settings, nextName(seen.routine.plans, plan.group), plan, seen.now)
    case 'name plan':
      return on(plan, 'name the plan', (p) => ({ ...p, name: event.name }))
    case 'take plan away':
      return { did: 'take a plan away', change: (r) => removePlan(r, plan.id), shows: { plan: null } }
    case 'teach':
      return taught(seen, plan, { ...settings, ...event.what }, CHANGED)
    case 'teach like':
      return taught(seen, plan, taughtLike(settings, event.way), CHANGED)
    case 'passes': {
      const here = picked[0]?.stretch
      return here ? taught(seen, plan, setPasses(settings, here, event.order), 'the passes of a place') : null
    }
    case 'lay anew': {
      const next = laid(seen, settings, plan)
      return on(plan, 'lay the lesson out anew', (p) => ({ ...p, steps: next }))
    }
    case 'forget by hand': {
      const fresh = lessonOf(seen.routine, seen.times, seen.book, plan, seen.rows).steps
      return on(plan, 'forget changes by hand', (p) => ({ ...p, gone: [], steps: fresh }))
    }
    case 'change step':
      return on(plan, 'change a step', (p) => changeStep(p, event.key, event.what))
    case 'change chosen':
      return on(plan, event.did, (p) => changeSteps(p, state.chosen, event.what))
    case 'reach':
      return on(plan, 'how far steps reach', (p) =>
        reachOfSteps(p, state.chosen, event.reach, placePhrases(seen.routine), danced(seen.routine)),
      )
    case 'take out':
      return on(plan, 'take a step out', (p) => takeOut(p, new Set([event.key])))
    case 'take chosen out': {
      const did = picked.length === 1 ? 'take a step out' : `take ${picked.length} steps out`
      return picked.length ? on(plan, did, (p) => takeOut(p, state.chosen)) : null
    }
    case 'move steps':
      return on(plan, 'move a step', (p) => moveSteps(p, event.keys, event.target, event.after))
    case 'nudge':
      return on(plan, 'move a step', (p) => nudgeStep(p, oneChosen(state, p.steps), event.by))
    case 'add step':
      return on(plan, 'add a step', (p) => addStep(p, beside, stepId))
    case 'add marked': {
      const { marked } = seen
      return marked && on(plan, 'add what is marked', (p) => addDrill(p, marked, beside, stepId))
    }
    case 'drill first':
      return on(plan, `drill “${event.move}” first`, (p) => {
        const warmUp = p.steps.find((s) => s.kind === 'warm-up')
        return addDrill(p, event.stretch, warmUp ? stepKey(warmUp) : null, stepId)
      })
    case 'class':
      return on(plan, 'the class of the plan', (p) => ({ ...p, group: event.group.trim() }))
    case 'heads':
      return on(plan, 'how many come', (p) => ({ ...p, heads: event.heads }))
    default:
      return null
  }
}

const keysOf = (plan: LessonPlan | undefined): ReadonlySet<string> => new Set(plan?.steps.map(stepKey))

/** The next state, and the edit that is asked for. */
export function stepTeach(state: TeachState, event: TeachEvent, seen: TeachSeen): TeachStepped {
  const plan = planShown(state, seen.routine.plans)
  switch (event.kind) {
    case 'choose plan':
      return { state: { planId: event.id, chosen: new Set() }, edit: null }
    case 'choose steps':
      return { state: { ...state, chosen: event.keys === 'all' ? keysOf(plan) : event.keys }, edit: null }
    case 'first plan':
      return { state, edit: made(seen, firstSettings(seen), 'First lesson', plan) }
    default:
      return { state, edit: plan ? planEdit(state, event, plan, seen) : null }
  }
}

/** The passes of the place that is chosen, where they are in another order than the usual one. */
export const passesHere = (
  settings: LessonSettings,
  steps: readonly LessonStep[],
): readonly Pass[] | null => {
  const here = steps[0]?.stretch
  return (here && settings.passes.find((p) => holds(p.stretch, here.from))?.passes) ?? null
}
