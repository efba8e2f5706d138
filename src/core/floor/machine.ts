import type { DrillPlan, Mark } from '../drill'
import type { LessonStep } from '../routine'
import type { Ratio, Seconds, Stretch, Ticks } from '../time'
import { type Adding, type AddWay, addingFrom, fallenBack, stretchOf, taken } from './adding'
import { begun, type Drill, ended, faster, lastDanced, marked, markedRepetition, slipped } from './drill'
import {
  type FloorLesson,
  GLANCE,
  isRun,
  planOf,
  rungsOf,
  sameLadder,
  stepAfter,
  stepAfterAdding,
} from './lesson'

/*
 * The floor as a machine: (state, event) -> (state, effects), pure and total. Everything that is decided on the floor is
 * decided here; hooks feed it events and carry its effects out.
 */

export type Phase =
  /** Nothing runs: what is danced is chosen, or a step of a lesson is announced. */
  | { kind: 'still' }
  | { kind: 'dancing' }
  /** A run ended and waits for its mark; or a drill of its own was danced as often as wanted. */
  | { kind: 'ended' }
  /** The sound stopped; where it goes on, null for the beginning of the repetition. */
  | { kind: 'broken'; why: string; from: Ticks | null }

/** The step of a lesson that is shown or danced, and its times, in milliseconds of the wall clock. */
export interface Going {
  index: number
  shown: number
  /** Since when it is danced; null while it is not. */
  begun: number | null
  danced: number
  repetitions: number
  /** Highest speed that sits on this ladder, from its rungs so far. */
  reached: Ratio
}

export interface FloorState {
  phase: Phase
  drill: Drill | null
  lesson: FloorLesson | null
  /** Null outside a lesson. */
  going: Going | null
  /** What the drill is added up from. */
  adding: Adding | null
  /** What was said last, for the eye. */
  said: string
}

/** What is heard when something is pressed; null while nothing plays. `k` counts since the sound began. */
export interface Heard {
  k: number
  into: Seconds
  body: Seconds
}

export type FloorEvent =
  | { kind: 'enter'; lesson: FloorLesson | null; now: number }
  /** A drill or run of one's own. */
  | { kind: 'start'; plan: DrillPlan; id: string; now: number }
  /** The step that is announced. */
  | { kind: 'begin'; id: string; now: number }
  | { kind: 'began'; speed: Ratio; seconds: Seconds; looped: boolean }
  | { kind: 'repetition ended'; k: number; now: number }
  | { kind: 'all ended'; now: number }
  | { kind: 'mark'; mark: Mark; heard: Heard | null; now: number }
  | { kind: 'slip'; tick: Ticks; heard: Heard | null; now: number }
  /** After a run: how one stretch of it went. */
  | { kind: 'mark stretch'; stretch: Stretch; mark: Mark; now: number }
  /** More counts are taken in, up to a place; null where there are none left. */
  | { kind: 'add'; to: Ticks | null; way: AddWay; id: string; now: number }
  /** Without the counts taken in last. */
  | { kind: 'fall back'; id: string; now: number }
  /** What is danced and called, from the next repetition on. */
  | { kind: 'change'; what: Partial<Pick<DrillPlan, 'pass' | 'calls'>> }
  | { kind: 'faster'; by: Ratio }
  /** The device, the page or the computer took the sound away. @param from where it goes on; null for the beginning of the repetition */
  | { kind: 'lost'; why: string; from: Ticks | null; now: number }
  | { kind: 'go on'; now: number }
  /** The sound did not start. */
  | { kind: 'no sound'; now: number }
  /** The dance was changed elsewhere: its counts end here now. */
  | { kind: 'changed'; end: Ticks; now: number }
  | { kind: 'skip'; now: number }
  | { kind: 'back'; now: number }
  | { kind: 'stop'; now: number }
  | { kind: 'leave'; now: number }

export type FloorEffect =
  /** Plays from the beginning, or from a place in it. */
  | { kind: 'play'; plan: DrillPlan; from: Ticks | null }
  | { kind: 'silence' }
  | { kind: 'log'; row: FloorRow }
  | { kind: 'log step'; row: FloorStepRow }
  /** How it is seen, and the version that is danced. */
  | { kind: 'view'; view: LessonStep['view']; version: string }

/** A repetition for the log, on the counts of the page. */
export interface FloorRow {
  id: string
  corrects: string | null
  doneAt: number
  plan: DrillPlan
  stretch: Stretch
  speed: Ratio
  seconds: Seconds
  mark: Mark | 'unmarked'
  looped: boolean
  slips: readonly Ticks[]
}

/** A step of a lesson as it was held. */
export interface FloorStepRow {
  id: string
  doneAt: number
  lesson: FloorLesson
  step: LessonStep
  index: number
  repetitions: number
  seconds: Seconds
  danced: Seconds
}

export interface Stepped {
  state: FloorState
  effects: FloorEffect[]
}

export const STILL: FloorState = {
  phase: { kind: 'still' },
  drill: null,
  lesson: null,
  going: null,
  adding: null,
  said: '',
}

const just = (state: FloorState, ...effects: FloorEffect[]): Stepped => ({ state, effects })

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
    case 'mark stretch': {
      if (drill?.plan.kind !== 'run') return just(state)
      const { from } = event.stretch
      const n = drill.apart.get(from) ?? 0
      const name = (k: number) => `${drill.id}-s${from}${k ? `-${k}` : ''}`
      const row: FloorRow = {
        id: name(n),
        corrects: n ? name(n - 1) : null,
        // Right after the run, whose own mark is not to be the later word on it.
        doneAt: (drill.repetitions.at(-1)?.endedAt ?? event.now) + 1,
        plan: { ...drill.plan, kind: 'drill' },
        stretch: event.stretch,
        speed: drill.plan.speed,
        // Its time is in the run's own row.
        seconds: 0,
        mark: event.mark,
        looped: false,
        slips: [],
      }
      return just(
        { ...state, drill: { ...drill, apart: new Map(drill.apart).set(from, n + 1) } },
        { kind: 'log', row },
      )
    }
    case 'add': {
      if (!drill || !state.adding) return just(state)
      if (event.to === null) return just({ ...state, said: 'The dance has no counts left' })
      return regrown(state, taken(state.adding, event.to), event.way, event)
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

const shown = (index: number, now: number, reached: Ratio): Going => ({
  index,
  shown: now,
  begun: null,
  danced: 0,
  repetitions: 0,
  reached,
})
const again = (going: Going): Going => ({ ...going, repetitions: going.repetitions + 1 })

/** The step of the lesson that is shown or danced; null outside a lesson and at its end. */
export const stepOf = ({ lesson, going }: FloorState): LessonStep | null =>
  (lesson && going && lesson.steps[going.index]) ?? null

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

/** Time danced up to now is added up; nothing is danced from here on. */
function pause(state: FloorState, now: number): FloorState {
  const { going } = state
  if (!going || going.begun === null) return state
  return { ...state, going: { ...going, danced: going.danced + now - going.begun, begun: null } }
}

const rowId = (drill: Drill, k: number, n: number) => `${drill.id}-${k}${n ? `-${n}` : ''}`

/** A row for the log of one repetition as it stands; one that has a row already is corrected. */
function logged(state: FloorState, k: number, now: number): Stepped {
  const { drill } = state
  const r = drill?.repetitions[k]
  if (!drill || !r?.whole) return just(state)
  const row: FloorRow = {
    id: rowId(drill, k, r.rows),
    corrects: r.rows ? rowId(drill, k, r.rows - 1) : null,
    // When it was danced, whenever it is marked.
    doneAt: r.endedAt ?? now,
    plan: drill.plan,
    stretch: drill.plan.stretch,
    speed: r.speed,
    seconds: r.seconds,
    mark: r.mark ?? (r.slips.length ? 'missed' : 'unmarked'),
    looped: r.looped,
    slips: r.slips,
  }
  const repetitions = drill.repetitions.map((x, i) => (i === k ? { ...x, rows: x.rows + 1 } : x))
  return just({ ...state, drill: { ...drill, repetitions } }, { kind: 'log', row })
}

/** Logs what was danced to its end before a repetition and was never marked. */
function settleBefore(state: FloorState, before: number, now: number): Stepped {
  const effects: FloorEffect[] = []
  let next = state
  for (const [k, r] of (state.drill?.repetitions ?? []).entries()) {
    if (k >= before || r.endedAt === null || r.rows) continue
    const done = logged(next, k, now)
    next = done.state
    effects.push(...done.effects)
  }
  return { state: next, effects }
}

/** Logs everything that was danced to its end. @param over the drill is over with it */
function settle(state: FloorState, now: number, over = true): Stepped {
  const { state: next, effects } = settleBefore(state, Number.POSITIVE_INFINITY, now)
  return { state: over ? { ...next, drill: null } : next, effects }
}

function stop(state: FloorState, now: number): Stepped {
  if (!state.drill) return just(state)
  const going = state.going && {
    ...state.going,
    reached: Math.max(state.going.reached, state.drill.reached),
  }
  const settled = settle(pause({ ...state, going }, now), now)
  return just(
    { ...settled.state, phase: { kind: 'still' }, said: '' },
    { kind: 'silence' },
    ...settled.effects,
  )
}

/** Which repetition is meant by what is pressed now. */
function meant(state: FloorState, heard: Heard | null): { k: number } | { said: string } {
  const { drill } = state
  if (!drill) return { said: '' }
  const k = heard ? markedRepetition(drill.offset + heard.k, heard.into, heard.body) : lastDanced(drill)
  if (k === null || !drill.repetitions[k]) return { said: 'Nothing danced yet to mark' }
  if (!drill.repetitions[k]?.whole) return { said: 'That was a part only; mark the next whole one' }
  return { k }
}

function mark(state: FloorState, event: { mark: Mark; heard: Heard | null; now: number }): Stepped {
  const { drill } = state
  if (!drill) return just(state)
  const which = meant(state, event.heard)
  const waits = state.phase.kind === 'ended' && stepOf(state) !== null
  if ('said' in which) return waits ? leadOn(state, event.now) : just({ ...state, said: which.said })
  const said = drill.plan.kind === 'run' ? `Run: ${event.mark}` : `Repetition ${which.k + 1}: ${event.mark}`
  const done = logged({ ...state, drill: marked(drill, which.k, event.mark), said }, which.k, event.now)
  // A run of a lesson that was waiting for its mark leads on.
  if (!waits) return done
  const on = leadOn(done.state, event.now)
  return { state: on.state, effects: [...done.effects, ...on.effects] }
}

function slip(state: FloorState, event: { tick: Ticks; heard: Heard | null; now: number }): Stepped {
  const { drill } = state
  if (!drill) return just(state)
  const which = meant(state, event.heard)
  if ('said' in which) return just({ ...state, said: which.said })
  const next = { ...state, drill: slipped(drill, which.k, event.tick), said: 'Marked where it slipped' }
  // Before it was marked, its row comes with its mark.
  return drill.repetitions[which.k]?.rows ? logged(next, which.k, event.now) : just(next)
}

/** What was danced to its end leads to the next step; rungs that sit already are passed over. */
function leadOn(state: FloorState, now: number): Stepped {
  const { lesson, going, drill } = state
  if (!lesson || !going) return just(state)
  return goTo(state, stepAfter(lesson.steps, going.index, Math.max(going.reached, drill?.reached ?? 0)), now)
}

/** The next step; what was added up beyond the plan is not taught once more. */
function skip(state: FloorState, now: number): Stepped {
  const { lesson, going, adding, drill } = state
  if (!lesson || !going) return just(state)
  const next = going.index + 1
  if (!adding || adding.ends.length < 2) return goTo(state, next, now)
  const here = lesson.steps[going.index]
  const by = { pass: drill?.plan.pass ?? here?.pass ?? 'all', speed: drill?.plan.speed ?? here?.speed ?? 0 }
  const to = stepAfterAdding(lesson.steps, going.index, stretchOf(adding, 'top'), by)
  const on = goTo(state, to, now)
  const over = to - next
  if (over <= 0) return on
  const said = `${over} ${over === 1 ? 'step was' : 'steps were'} added up already: passed over`
  return just({ ...on.state, said }, ...on.effects)
}

function goTo(state: FloorState, to: number, now: number): Stepped {
  const { lesson, going } = state
  if (!lesson || !going) return just(state)
  const stopped = stop(state, now)
  const held = logStep(stopped.state, now)
  const index = Math.max(0, Math.min(lesson.steps.length, to))
  const [from, next] = [lesson.steps[going.index], lesson.steps[index]]
  // What sat on one ladder says nothing of the next.
  const reached = from && next && sameLadder(from, next) ? (stopped.state.going?.reached ?? 0) : 0
  return just(
    { ...stopped.state, phase: { kind: 'still' }, adding: null, going: shown(index, now, reached) },
    ...stopped.effects,
    ...held,
  )
}

/** The row of a step that was held; none for one that was only glanced at. */
function logStep({ lesson, going }: FloorState, now: number): FloorEffect[] {
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
