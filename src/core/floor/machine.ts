import type { DrillPlan } from '../drill'
import type { Ratio } from '../time'
import { type Adding, type AddWay, addingFrom, fallenBack, stretchOf, taken } from './adding'
import { begun, type Drill, ended, faster } from './drill'
import { begunAt, lateBy, leaveOut, putBack } from './late'
import { goTo, leadOn, logStep, shown, skip } from './leading'
import { isRun, planOf, rungsOf } from './lesson'
import { mark, markApart, slip } from './marking'
import { pause, settle, settleBefore, stop } from './settling'
import { type FloorEvent, type FloorState, type Going, just, STILL, type Stepped, stepOf } from './state'

/*
 * The floor as a machine: (state, event) -> (state, effects), pure and total. Everything that is decided on the floor is
 * decided here; hooks feed it events and carry its effects out.
 */

/** The next state, and what is to be done. */
export function step(state: FloorState, event: FloorEvent): Stepped {
  const { drill, phase } = state
  switch (event.kind) {
    case 'enter':
      return just({
        ...STILL,
        lesson: event.lesson,
        going: event.lesson ? shown(0, event.now, 0) : null,
      })
    case 'start': {
      const settled = settle(pause(state, event.now), event.now)
      const adding = event.plan.kind === 'drill' ? addingFrom(event.plan.stretch) : null
      // In a step that is explained, what is danced meanwhile is danced, not talk.
      const going = settled.state.going && { ...settled.state.going, begun: event.now }
      const next = { ...settled.state, ...playing(event.plan, event.id, []), going, adding, said: '' }
      return just(next, ...settled.effects, { kind: 'play', plan: event.plan, from: null })
    }
    case 'begin':
      return begin(state, event)
    case 'began':
      return drill && phase.kind === 'dancing' ? just({ ...state, drill: begun(drill, event) }) : just(state)
    case 'repetition ended': {
      if (!drill) return just(state)
      const k = drill.offset + event.k
      if (!drill.repetitions[k]) return just(state)
      const going = state.going && drill.repetitions[k]?.whole ? again(state.going) : state.going
      // The one before can no longer be meant by a mark.
      return settleBefore({ ...state, going, drill: ended(drill, k, event.now) }, k, event.now)
    }
    case 'all ended': {
      if (!drill || phase.kind !== 'dancing') return just(state)
      const over = pause({ ...state, phase: { kind: 'ended' } }, event.now)
      const here = stepOf(over)
      return here && !isRun(here) ? leadOn(over, event.now) : just(over)
    }
    case 'mark':
      return mark(state, event)
    case 'slip':
      return slip(state, event)
    case 'mark stretch':
      return markApart(state, event)
    case 'add': {
      if (!drill || !state.adding) return just(state)
      if (event.piece === null) return just({ ...state, said: 'The dance has no counts left' })
      return regrown(state, taken(state.adding, event.piece), event.way, event)
    }
    case 'fall back': {
      if (!drill || !state.adding) return just(state)
      const adding = fallenBack(state.adding)
      return adding === state.adding
        ? just({ ...state, said: 'These are the first counts' })
        : regrown(state, adding, 'top', event)
    }
    case 'change':
      return drill && phase.kind !== 'ended'
        ? just({
            ...state,
            drill: { ...drill, plan: { ...drill.plan, ...event.what } },
            said: 'From the next repetition on',
          })
        : just(state)
    case 'faster':
      return drill && phase.kind !== 'ended'
        ? just({ ...state, drill: faster(drill, event.by) })
        : just(state)
    case 'lost': {
      if (!drill || phase.kind !== 'dancing') return just(state)
      const broken = { ...state, phase: { kind: 'broken' as const, why: event.why, from: event.from } }
      const settled = settle(pause(broken, event.now), event.now, false)
      return just(settled.state, { kind: 'silence' }, ...settled.effects)
    }
    case 'go on': {
      if (!drill || phase.kind !== 'broken') return just(state)
      // What did not end is danced again; it counts only from the beginning.
      const repetitions = drill.repetitions.filter((r) => r.endedAt !== null)
      const next: Drill = {
        ...drill,
        repetitions,
        offset: repetitions.length,
        partly: phase.from !== null,
        since: Math.min(drill.since, repetitions.length),
      }
      const going = state.going && { ...state.going, begun: event.now }
      const on: FloorState = { ...state, going, phase: { kind: 'dancing' }, drill: next, said: '' }
      return just(on, { kind: 'play', plan: drill.plan, from: phase.from })
    }
    case 'no sound':
      return stop(state, event.now)
    case 'changed': {
      if (!drill || phase.kind === 'ended') return just(state)
      if (drill.plan.stretch.to <= event.end)
        return just({ ...state, said: 'The dance was changed: the next repetition is danced as it is now' })
      const stopped = stop(state, event.now)
      return just({ ...stopped.state, said: 'These counts are not there any more' }, ...stopped.effects)
    }
    case 'jump':
      return goTo(state, event.index, event.now)
    case 'leave out': {
      if (!state.lesson || !state.going) return just(state)
      const wanted = event.seconds ?? lateBy(state, event.now)
      if (wanted <= 0) return just({ ...state, said: 'It is not late' })
      const { lesson, gone, seconds } = leaveOut(state.lesson, state.going.index, wanted)
      if (!gone.length) return just({ ...state, said: 'There is nothing left to leave out' })
      const steps = gone.length === 1 ? 'A step is' : `${gone.length} steps are`
      return just({
        ...state,
        lesson,
        said: `${steps} left out: ${Math.max(1, Math.round(seconds / 60))} min`,
      })
    }
    case 'put back': {
      if (!state.lesson || !state.going) return just(state)
      const { lesson, index } = putBack(state.lesson, state.going.index)
      return just({ ...state, lesson, going: { ...state.going, index }, said: '' })
    }
    case 'skip':
      return skip(state, event.now)
    case 'back':
      return state.going ? goTo(state, state.going.index - 1, event.now) : just(state)
    case 'stop':
      return stop(state, event.now)
    case 'leave': {
      const stopped = stop(state, event.now)
      const held = logStep(stopped.state, event.now)
      return just({ ...stopped.state, going: null }, ...stopped.effects, ...held)
    }
  }
}

/** The drill goes on with other counts, as fast and counted in as before; what was danced is logged. */
function regrown(
  state: FloorState,
  adding: Adding,
  way: AddWay,
  { id, now }: { id: string; now: number },
): Stepped {
  if (!state.drill) return just(state)
  // Danced until somebody says enough, also where a lesson had said how often.
  const { repetitions: _, ...plan } = state.drill.plan
  const on: DrillPlan = { ...plan, kind: 'drill', runUp: 0, stretch: stretchOf(adding, way) }
  const settled = settle(pause(state, now), now)
  const going = settled.state.going && { ...settled.state.going, begun: now }
  const next = { ...settled.state, ...playing(on, id, []), going, adding, said: '' }
  return just(next, { kind: 'silence' }, ...settled.effects, { kind: 'play', plan: on, from: null })
}

const again = (going: Going): Going => ({ ...going, repetitions: going.repetitions + 1 })

function playing(plan: DrillPlan, id: string, rungs: readonly Ratio[], reached: Ratio = 0) {
  const drill: Drill = {
    id,
    plan,
    rungs,
    repetitions: [],
    apart: new Map(),
    offset: 0,
    partly: false,
    since: 0,
    reached,
    before: null,
  }
  return { phase: { kind: 'dancing' as const }, drill }
}

function begin(state: FloorState, event: { id: string; now: number }): Stepped {
  const { lesson, going } = state
  const here = stepOf(state)
  if (!lesson || !going || !here || state.phase.kind === 'dancing') return just(state)
  const plan = planOf(here, lesson.countIn)
  if (!plan) return goTo(state, going.index + 1, event.now)
  const rungs = here.kind === 'drill' && here.pass === 'all' ? rungsOf(lesson.steps, here) : []
  const next: FloorState = {
    ...state,
    ...playing(plan, event.id, rungs, going.reached),
    begunAt: begunAt(state, event.now),
    adding: plan.kind === 'drill' ? addingFrom(plan.stretch) : null,
    going: { ...going, begun: event.now },
    said: '',
  }
  return just(
    next,
    { kind: 'view', view: here.view, version: here.version },
    { kind: 'play', plan, from: null },
  )
}
