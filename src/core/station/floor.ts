import type { DrillPlan, Mark } from '../drill'
import {
  type Added,
  type AddWay,
  type FloorEvent,
  type FloorLesson,
  type FloorState,
  nextPiece,
  stepOf,
} from '../floor'
import { type LessonStep, movesFeet, type PlacedPhrase, type Routine, stepKey } from '../routine'
import { clampSpeed, type Ratio, type Seconds, type Stretch, type Ticks } from '../time'

/*
 * The Floor station as a machine: what is chosen to be drilled, and what a key or a press means now. What is danced is
 * the business of the floor's own machine (core/floor), which is told of it.
 */

export const BESIDE = ['none', 'camera', 'figure', 'plan', 'film'] as const
export type BesideCounts = (typeof BESIDE)[number]
export const REPLAYS = ['now', 'last', 'both'] as const
export type Replay = (typeof REPLAYS)[number]

export interface FloorPlace {
  /** What a drill would be. */
  plan: DrillPlan
  /** Somebody chose its counts; until then they follow what is proposed. */
  chosen: boolean
  /** The lesson that is held, as it was when the floor was entered; null outside one. */
  lesson: FloorLesson | null
  /** How much is taken in at once when a drill is added up. */
  size: Added
  /** The lit line of each step's prompter, by the step's key: it keeps its place while something else is danced. */
  lit: Readonly<Record<string, number>>
  /** Steps of a lesson begin by themselves. */
  handsFree: boolean
  /** The list of the lesson's steps is open. */
  list: boolean
  /** The timing trainer is open, and how moves are told to it. */
  timing: 'tap' | 'clap' | null
}

/** What is looked at while an event comes in. */
export interface FloorSeen {
  floor: FloorState
  /** The counts that are danced at all. */
  dance: Stretch
  placed: readonly PlacedPhrase[]
  /** Where each line of the step's prompter is danced; null where nothing is read out. */
  prompt: readonly Ticks[] | null
  beside: BesideCounts
  replay: Replay
  /** Films of the dance with takes, and the one that is shown. */
  films: readonly string[]
  /** There is something to be seen on a plan of the floor: dancers, or steps. */
  planned: boolean
  film: string | null
}

export type FloorStationEvent =
  /** The key that begins, goes on and stops. */
  | { kind: 'go' }
  /** Out of what is under way, or off the floor. */
  | { kind: 'out' }
  | { kind: 'drill' }
  | { kind: 'run' }
  /** The same once more. */
  | { kind: 'again' }
  | { kind: 'stop' }
  /** A mark of one's own, by key or button. @param paged by a key that turns pages */
  | { kind: 'mark'; mark: Mark; paged: boolean }
  /** A learned key of a pedal. */
  | { kind: 'pedal'; mark: Mark }
  | { kind: 'light'; line: number }
  /** What is explained is danced slowly from the lit count on. */
  | { kind: 'slowly' }
  | { kind: 'add'; way: AddWay }
  | { kind: 'fall back' }
  | { kind: 'begin' }
  | { kind: 'skip' }
  | { kind: 'back' }
  | { kind: 'leave' }
  | { kind: 'jump'; index: number }
  | { kind: 'leave out'; seconds: Seconds | null }
  | { kind: 'put back' }
  /** The list of the lesson's steps, open or not. */
  | { kind: 'list'; open: boolean }
  | { kind: 'hands free' }
  | { kind: 'timing'; way: 'tap' | 'clap' }
  | { kind: 'timing over' }
  | { kind: 'beside' }
  | { kind: 'replay' }
  | { kind: 'faster'; by: Ratio }
  | { kind: 'plan'; what: Partial<DrillPlan> }
  /** Counts for a first drill, as the page is laid out now. */
  | { kind: 'proposed'; stretch: Stretch }
  | { kind: 'size'; size: Added }

/** An event of the floor's machine, without what only the page knows: the time, a new id and what is heard. */
export type FloorWish = FloorEvent extends infer E ? (E extends FloorEvent ? Omit<E, Asked> : E) : never
type Asked = 'now' | 'id' | 'heard'

export type FloorStationEffect =
  | { kind: 'tell'; wish: FloorWish }
  /** What stands beside the counts, or what the camera's mirror shows. */
  | { kind: 'show'; what: { beside: BesideCounts } | { replay: Replay } }
  | { kind: 'show film'; film: string }
  | { kind: 'go to'; station: 'cue' | 'teach' }
  /** A drill was begun by the person: the first steps count it. */
  | { kind: 'drilled' }

export interface FloorStepped {
  state: FloorPlace
  effects: FloorStationEffect[]
}

/** Slowly, where something is explained: at most this speed. */
const SLOWLY: Ratio = 0.6

export const floorAtFirst = (plan: DrillPlan, lesson: FloorLesson | null): FloorPlace => ({
  ...{ plan, chosen: false, lesson, size: '4', lit: {}, handsFree: false, list: false, timing: null },
})

/** The one after another in a list that goes round. */
export const nextOf = <T>(list: readonly T[], one: T): T => list[(list.indexOf(one) + 1) % list.length] as T

/** What may stand beside the counts: a film where there is one, a plan where there are steps or dancers. */
export const besideOf = ({ films, planned }: Pick<FloorSeen, 'films' | 'planned'>): readonly BesideCounts[] =>
  BESIDE.filter((b) => (b !== 'film' || films.length > 0) && (b !== 'plan' || planned))

/** True where a plan of the floor shows something: several stand somewhere, or feet are cued. */
export const isPlanned = ({ dancers, cues }: Pick<Routine, 'dancers' | 'cues'>): boolean =>
  dancers.length > 1 || cues.some((c) => movesFeet(c.layer))

/** What stands beside the counts, seen otherwise: the mirror's other picture, or the dance in another film. */
function seenOtherwise({ beside, replay, films, film }: FloorSeen): FloorStationEffect[] {
  if (beside === 'camera') return [{ kind: 'show', what: { replay: nextOf(REPLAYS, replay) } }]
  const other = nextOf(films, film ?? films[0] ?? '')
  return beside === 'film' && films.length > 1 ? [{ kind: 'show film', film: other }] : []
}

/** The step of a lesson that is announced and not danced yet; in a lesson that is over there is none. */
export const isAnnounced = ({ lesson }: Pick<FloorPlace, 'lesson'>, { drill }: FloorState): boolean =>
  lesson !== null && !drill

/** The line of a step's prompter that is lit. @param lines how many there are */
export const litLine = ({ lit }: Pick<FloorPlace, 'lit'>, step: LessonStep | null, lines: number): number =>
  Math.min((step && lit[stepKey(step)]) ?? 0, Math.max(0, lines - 1))

/** What is taken in next; null where nothing is left, or nothing is added up. */
export const nextAdded = (
  { size }: Pick<FloorPlace, 'size'>,
  { floor, dance, placed }: Pick<FloorSeen, 'floor' | 'dance' | 'placed'>,
): Stretch | null => floor.adding && nextPiece(floor.adding, size, dance, placed)

const just = (state: FloorPlace, ...effects: FloorStationEffect[]): FloorStepped => ({ state, effects })
const tell = (wish: FloorWish): FloorStationEffect => ({ kind: 'tell', wish })
const start = (plan: DrillPlan) => tell({ kind: 'start', plan })

const drilled = (state: FloorPlace): FloorStepped =>
  just(state, { kind: 'drilled' }, start({ ...state.plan, kind: 'drill' }))

/** All of the dance at full tempo, once; music is heard in it. */
function runOf({ plan }: FloorPlace, dance: Stretch): DrillPlan {
  const sound = plan.sound === 'counts' ? 'both' : plan.sound
  return { ...plan, kind: 'run', pass: 'all', stretch: dance, speed: 1, sound, countInEach: false }
}

const left = (state: FloorPlace): FloorStepped =>
  just({ ...state, lesson: null }, tell({ kind: 'leave' }), { kind: 'go to', station: 'teach' })

/** Another line of the announced step is lit. */
function lighted(state: FloorPlace, { floor }: FloorSeen, line: number): FloorStepped {
  const step = stepOf(floor)
  return step ? just({ ...state, lit: { ...state.lit, [stepKey(step)]: Math.max(0, line) } }) : just(state)
}

const litNow = (state: FloorPlace, { floor, prompt }: FloorSeen): number =>
  litLine(state, stepOf(floor), prompt?.length ?? 0)

/** Begins, goes on or stops: what is under way decides. */
function gone(state: FloorPlace, seen: FloorSeen): FloorStepped {
  const { floor, prompt } = seen
  const { drill, phase } = floor
  if (isAnnounced(state, floor)) {
    const lit = litNow(state, seen)
    if (prompt && lit < prompt.length - 1) return lighted(state, seen, lit + 1)
    return stepOf(floor) ? just(state, tell({ kind: 'begin' })) : left(state)
  }
  if (phase.kind === 'broken') return just(state, tell({ kind: 'go on' }))
  if (!drill) return drilled(state)
  if (phase.kind !== 'ended') return just(state, tell({ kind: 'stop' }))
  return just(state, state.lesson ? tell({ kind: 'skip' }) : start(drill.plan))
}

/** A line back, or a step. */
function backOne(state: FloorPlace, seen: FloorSeen): FloorStepped {
  const lit = litNow(state, seen)
  return seen.prompt && lit > 0 ? lighted(state, seen, lit - 1) : just(state, tell({ kind: 'back' }))
}

/** A mark, where something is danced; before it the same keys go on and back. */
function pressed(state: FloorPlace, seen: FloorSeen, mark: Mark, paged: boolean): FloorStepped {
  const { floor } = seen
  const announced = isAnnounced(state, floor)
  if (paged && mark === 'clean' && (announced || floor.phase.kind === 'broken')) return gone(state, seen)
  if (paged && mark === 'missed' && announced) return backOne(state, seen)
  return just(state, tell({ kind: 'mark', mark }))
}

/** A pedal has two or three keys for everything: what they mean follows what is under way. */
function pedalled(state: FloorPlace, seen: FloorSeen, mark: Mark): FloorStepped {
  const { floor } = seen
  const announced = isAnnounced(state, floor)
  if (state.timing || (!floor.drill && !announced)) return just(state)
  if (announced || floor.phase.kind === 'broken')
    return mark === 'missed' ? backOne(state, seen) : gone(state, seen)
  return just(state, tell({ kind: 'mark', mark }))
}

function slowly(state: FloorPlace, seen: FloorSeen): FloorStepped {
  const step = stepOf(seen.floor)
  const from = seen.prompt?.[litNow(state, seen)]
  if (!step?.stretch || from === undefined) return just(state)
  return just(
    state,
    start({
      ...state.plan,
      kind: 'drill',
      stretch: { from: Math.max(from, step.stretch.from), to: step.stretch.to },
      speed: Math.min(step.speed, SLOWLY),
      sound: 'counts',
      countInEach: true,
      pass: step.pass,
    }),
  )
}

/** The next state, and what is to be done. */
export function stepFloor(state: FloorPlace, event: FloorStationEvent, seen: FloorSeen): FloorStepped {
  const { floor, beside } = seen
  const free = !floor.drill && !state.lesson
  switch (event.kind) {
    case 'go':
      return gone(state, seen)
    case 'out':
      if (floor.drill) return just(state, tell({ kind: 'stop' }))
      return state.lesson ? left(state) : just(state, { kind: 'go to', station: 'cue' })
    case 'drill':
      return drilled(state)
    case 'run':
      return free ? just(state, start(runOf(state, seen.dance))) : just(state)
    case 'again':
      return floor.drill ? just(state, start(floor.drill.plan)) : just(state)
    case 'mark':
      return pressed(state, seen, event.mark, event.paged)
    case 'pedal':
      return pedalled(state, seen, event.mark)
    case 'light':
      return lighted(state, seen, event.line)
    case 'slowly':
      return seen.prompt ? slowly(state, seen) : just(state)
    case 'add':
      return floor.drill
        ? just(state, tell({ kind: 'add', piece: nextAdded(state, seen), way: event.way }))
        : just(state)
    case 'fall back':
      return floor.drill ? just(state, tell({ kind: 'fall back' })) : just(state)
    case 'skip':
    case 'back':
      return state.lesson ? just(state, tell({ kind: event.kind })) : just(state)
    case 'list':
      return just({ ...state, list: event.open && state.lesson !== null })
    case 'jump':
      return just({ ...state, list: false }, tell({ kind: 'jump', index: event.index }))
    case 'leave out':
      return just(state, tell({ kind: 'leave out', seconds: event.seconds }))
    case 'put back':
      return just(state, tell({ kind: 'put back' }))
    case 'begin':
    case 'stop':
      return just(state, tell({ kind: event.kind }))
    case 'leave':
      return left(state)
    case 'hands free':
      return just({ ...state, handsFree: !state.handsFree })
    case 'timing':
      return free ? just({ ...state, timing: event.way }) : just(state)
    case 'timing over':
      return just({ ...state, timing: null })
    case 'beside':
      return just(state, { kind: 'show', what: { beside: nextOf(besideOf(seen), beside) } })
    case 'replay':
      return just(state, ...seenOtherwise(seen))
    case 'faster': {
      const plan = { ...state.plan, speed: clampSpeed(state.plan.speed + event.by) }
      return just({ ...state, plan }, tell({ kind: 'faster', by: event.by }))
    }
    case 'plan':
      return just({
        ...state,
        plan: { ...state.plan, ...event.what },
        chosen: state.chosen || event.what.stretch !== undefined,
      })
    case 'proposed':
      return just(state.chosen ? state : { ...state, plan: { ...state.plan, stretch: event.stretch } })
    case 'size':
      return just({ ...state, size: event.size })
  }
}
