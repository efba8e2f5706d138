import { alike } from '../document/alike'
import { LessonPlan, type LessonStep } from '../document/lesson-schema'
import { stepKey } from '../document/references'
import { weaveKeys } from './weave-keys'

/* Two who worked on one lesson plan: other steps of it, or other settings, are no clash. */

/** All that a plan says but its steps, and those that are gone from it. */
const SINGLE = (Object.keys(LessonPlan.entries) as (keyof LessonPlan)[]).filter(
  (field) => field !== 'steps' && field !== 'gone',
)

/** Both changed it, each otherwise. */
const clash = (base: unknown, mine: unknown, theirs: unknown): boolean =>
  !alike(mine, base) && !alike(theirs, base) && !alike(mine, theirs)

/** Items by their keys; null where two have one key. */
function byKey<T>(list: readonly T[], keyOf: (item: T) => string): ReadonlyMap<string, T> | null {
  const items = new Map(list.map((item) => [keyOf(item), item]))
  return items.size === list.length ? items : null
}

/** Items that have an order, as both have them; null where both changed the same one or moved them otherwise. */
function mergeInOrder<T>(
  base: readonly T[],
  mine: readonly T[],
  theirs: readonly T[],
  keyOf: (item: T) => string,
): T[] | null {
  const [was, here, there] = [byKey(base, keyOf), byKey(mine, keyOf), byKey(theirs, keyOf)]
  if (!was || !here || !there) return null
  const result = new Map<string, T>()
  for (const key of new Set([...here.keys(), ...there.keys()])) {
    const [b, m, t] = [was.get(key), here.get(key), there.get(key)]
    if (clash(b, m, t)) return null
    const item = alike(m, b) ? t : m
    if (item !== undefined) result.set(key, item)
  }
  const common = (side: ReadonlyMap<string, T>) =>
    [...side.keys()].filter((k) => was.has(k) && here.has(k) && there.has(k))
  if (clash(common(was), common(here), common(there))) return null
  const isMine = !alike(common(here), common(was))
  const [frame, other] = isMine ? [here, there] : [there, here]
  const left = (side: ReadonlyMap<string, T>) => [...side.keys()].filter((k) => result.has(k))
  return weaveKeys(left(frame), left(other), was).map((k) => result.get(k) as T)
}

/** Steps as both have them. Laid out anew by one of the two, they are one thing. */
function mergeSteps(base: LessonPlan, mine: LessonPlan, theirs: LessonPlan): readonly LessonStep[] | null {
  if (alike(mine.steps, base.steps)) return theirs.steps
  if (alike(theirs.steps, base.steps)) return mine.steps
  if (!alike(mine.settings, base.settings) || !alike(theirs.settings, base.settings)) return null
  return mergeInOrder(base.steps, mine.steps, theirs.steps, stepKey)
}

function mergePlan(base: LessonPlan, mine: LessonPlan, theirs: LessonPlan): LessonPlan | null {
  if (SINGLE.some((f) => clash(base[f], mine[f], theirs[f]))) return null
  const own = Object.fromEntries(SINGLE.filter((f) => !alike(mine[f], base[f])).map((f) => [f, mine[f]]))
  const steps = mergeSteps(base, mine, theirs)
  const gone = mergeInOrder(base.gone, mine.gone, theirs.gone, (made) => stepKey({ made }))
  return steps && gone ? { ...theirs, ...own, steps: [...steps], gone } : null
}

/**
 * The plans of two, each as it would be if both had done to it what the other did, wherever they touched different things of it.
 * @returns mine and theirs; a plan in which both changed the same stays as each has it
 */
export function bringPlansTogether(
  base: readonly LessonPlan[],
  mine: readonly LessonPlan[],
  theirs: readonly LessonPlan[],
): { mine: readonly LessonPlan[]; theirs: readonly LessonPlan[] } {
  const together = new Map<string, LessonPlan>()
  for (const m of mine) {
    const [b, t] = [base, theirs].map((list) => list.find((p) => p.id === m.id))
    const made = b && t && clash(b, m, t) ? mergePlan(b, m, t) : null
    if (made) together.set(m.id, made)
  }
  if (!together.size) return { mine, theirs }
  const as = (list: readonly LessonPlan[]) => list.map((p) => together.get(p.id) ?? p)
  return { mine: as(mine), theirs: as(theirs) }
}
