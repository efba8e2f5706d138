import type { DrillPlan, Mark } from '../drill'
import type { LessonStep } from '../routine'
import type { Ratio, Seconds, Stretch, Ticks } from '../time'
import type { Adding, AddWay } from './adding'
import type { Drill } from './drill'
import type { FloorLesson } from './lesson'

/* What the floor's machine knows, hears of and asks for. */

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
  /** When the lesson began, in milliseconds: from the first step that is left or danced on. */
  begunAt: number | null
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
  | { kind: 'add'; piece: Stretch | null; way: AddWay; id: string; now: number }
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
  /** To any step of the lesson. */
  | { kind: 'jump'; index: number; now: number }
  /** So much of what is left is left out; null for as much as the lesson is late. */
  | { kind: 'leave out'; seconds: Seconds | null; now: number }
  /** What was left out is back. */
  | { kind: 'put back' }
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
  begunAt: null,
  adding: null,
  said: '',
}

export const just = (state: FloorState, ...effects: FloorEffect[]): Stepped => ({ state, effects })

/** The step of the lesson that is shown or danced; null outside a lesson and at its end. */
export const stepOf = ({ lesson, going }: FloorState): LessonStep | null =>
  (lesson && going && lesson.steps[going.index]) ?? null
