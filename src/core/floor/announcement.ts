import { cutText, type LessonStep, type PlacedPhrase, passWords, stretchName } from '../routine'
import type { Seconds } from '../time'
import type { FloorLesson } from './lesson'

/** Seconds a step that is danced is announced before it begins by itself. */
export const GET_READY: Seconds = 8

/** What is announced of a step of a lesson: when it is planned, how long, and what comes then. */
export interface Announcement {
  step: LessonStep
  /** Its place in the lesson, and how many steps there are. */
  number: number
  of: number
  /** The lesson is over; the step is its last. */
  over: boolean
  /** Something is danced in it. */
  danced: boolean
  /** How long it is planned to take, and what is planned before it. */
  seconds: Seconds
  before: Seconds
  /** How long it stands before it goes on by itself. */
  wait: Seconds
  next: LessonStep | null
}

/** The announcement of a step. @returns null for a lesson without steps */
export function announcementOf({ steps, planned }: FloorLesson, index: number): Announcement | null {
  const step = steps[Math.min(index, steps.length - 1)]
  if (!step) return null
  const danced = step.repetitions > 0 && step.stretch !== null
  const seconds = planned[index] ?? 0
  return {
    ...{ step, number: index + 1, of: steps.length, over: index >= steps.length, danced, seconds },
    before: planned.slice(0, index).reduce((a, b) => a + b, 0),
    wait: danced ? GET_READY : seconds,
    next: steps[index + 1] ?? null,
  }
}

/** True where an announced step begins by itself now. @param since seconds it was announced */
export const isDue = ({ wait, over }: Announcement, since: Seconds, handsFree: boolean): boolean =>
  handsFree && !over && since > wait

/** Whole seconds until it begins by itself. */
export const secondsLeft = ({ wait }: Announcement, since: Seconds): number =>
  Math.max(0, Math.ceil(wait - since))

/** A step as it is said: short, for a voice. */
export function spokenStep(step: LessonStep, placed: readonly PlacedPhrase[]): string {
  const parts: string[] = [step.kind]
  if (step.stretch) parts.push(stretchName(placed, step.stretch))
  if (step.pass !== 'all') parts.push(passWords(step.pass))
  if (step.repetitions) parts.push(`${Math.round(step.speed * 100)} percent`)
  return cutText(parts.join(', '), 80)
}
