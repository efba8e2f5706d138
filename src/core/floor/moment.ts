import type { DrillTimeline } from '../drill'
import { type Ratio, type Seconds, TICKS_PER_COUNT, type Ticks } from '../time'

/** The floor is looked at in quarters of a count. */
export const QUARTER: Ticks = TICKS_PER_COUNT / 4

/** What the floor shows of a moment. */
export interface Moment {
  /** The sub-count that sounds, on a grid of quarter counts; null in a count-in and before the first sound. */
  tick: Ticks | null
  /** Since the sound began, from 0. */
  repetition: number
  /** The count of the count-in that was called last; '' where none was. */
  countIn: string
  speed: Ratio
}

export const BEFORE_SOUND: Moment = { tick: null, repetition: 0, countIn: '', speed: 0 }

/** What sounds at this moment: which repetition, laid out how, and how far into it. Before 0 is its count-in. */
export interface Sounding {
  leg: { timeline: DrillTimeline; countedIn: boolean; k: number }
  into: Seconds
}

/** A call is shown so long before its time, in s: what is looked at comes a little late anyway. */
const AHEAD: Seconds = 0.005

/** @param at the place of the song that is heard */
export function momentOf({ leg, into }: Sounding, at: Ticks): Moment {
  const { timeline, countedIn, k } = leg
  const { speed } = timeline
  if (into < 0) {
    const called = countedIn ? timeline.countIn.findLast((e) => e.time <= into + AHEAD) : undefined
    return { tick: null, repetition: k, countIn: called?.call ?? '', speed }
  }
  return {
    // What is heard is told by another clock, a little before or after.
    tick: Math.max(timeline.from, Math.min(Math.floor(at / QUARTER) * QUARTER, timeline.to - 1)),
    repetition: k,
    countIn: '',
    speed,
  }
}

/** So far a clock may step back within a repetition: nothing that was shown is shown again. */
const BACK: Ticks = TICKS_PER_COUNT

/** The later of two moments of one repetition that are near each other; else the next. */
export function laterMoment(before: Moment, next: Moment): Moment {
  if (sameMoment(before, next)) return before
  const back = before.tick !== null && next.tick !== null ? before.tick - next.tick : 0
  return before.repetition === next.repetition && back > 0 && back <= BACK ? before : next
}

export const sameMoment = (a: Moment, b: Moment): boolean =>
  a.tick === b.tick && a.repetition === b.repetition && a.countIn === b.countIn && a.speed === b.speed
