import type { Ratio } from '../time'
import { stretchOf } from './adding'
import { begunAt } from './late'
import { GLANCE, sameLadder, stepAfter, stepAfterAdding } from './lesson'
import { stop } from './settling'
import { type FloorEffect, type FloorState, type FloorStepRow, type Going, just, type Stepped } from './state'

/* How a lesson goes from step to step. */

export const shown = (index: number, now: number, reached: Ratio): Going => ({
  index,
  shown: now,
  begun: null,
  danced: 0,
  repetitions: 0,
  reached,
})
/** What was danced to its end leads to the next step; rungs that sit already are passed over. */
export function leadOn(state: FloorState, now: number): Stepped {
  const { lesson, going, drill } = state
  if (!lesson || !going) return just(state)
  return goTo(state, stepAfter(lesson.steps, going.index, Math.max(going.reached, drill?.reached ?? 0)), now)
}

/** The next step; what was added up beyond the plan is not taught once more. */
export function skip(state: FloorState, now: number): Stepped {
  const { lesson, going, adding, drill } = state
  if (!lesson || !going) return just(state)
  const next = going.index + 1
  if (!adding || adding.pieces.length < 2) return goTo(state, next, now)
  const here = lesson.steps[going.index]
  const by = { pass: drill?.plan.pass ?? here?.pass ?? 'all', speed: drill?.plan.speed ?? here?.speed ?? 0 }
  const to = stepAfterAdding(lesson.steps, going.index, stretchOf(adding, 'top'), by)
  const on = goTo(state, to, now)
  const over = to - next
  if (over <= 0) return on
  const said = `${over} ${over === 1 ? 'step was' : 'steps were'} added up already: passed over`
  return just({ ...on.state, said }, ...on.effects)
}

export function goTo(state: FloorState, to: number, now: number): Stepped {
  const { lesson, going } = state
  if (!lesson || !going) return just(state)
  const stopped = stop(state, now)
  const held = logStep(stopped.state, now)
  const index = Math.max(0, Math.min(lesson.steps.length, to))
  const [from, next] = [lesson.steps[going.index], lesson.steps[index]]
  // What sat on one ladder says nothing of the next.
  const reached = from && next && sameLadder(from, next) ? (stopped.state.going?.reached ?? 0) : 0
  return just(
    {
      ...{ ...stopped.state, phase: { kind: 'still' } as const, adding: null },
      ...{ going: shown(index, now, reached), begunAt: begunAt(state, now) },
    },
    ...stopped.effects,
    ...held,
  )
}

/** The row of a step that was held; none for one that was only glanced at. */
export function logStep({ lesson, going }: FloorState, now: number): FloorEffect[] {
  const here = lesson && going && lesson.steps[going.index]
  if (!lesson || !going || !here) return []
  const danced = (going.danced + (going.begun === null ? 0 : now - going.begun)) / 1000
  const seconds = (now - going.shown) / 1000
  if (danced === 0 && seconds < GLANCE) return []
  const row: FloorStepRow = {
    id: `${lesson.evening}-${going.index}-${Math.round(going.shown)}`,
    doneAt: now,
    lesson,
    step: here,
    index: going.index,
    repetitions: going.repetitions,
    seconds,
    danced,
  }
  return [{ kind: 'log step', row }]
}
