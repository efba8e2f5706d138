import { median, type Seconds } from '../time'

/** One step of a lesson as it was on the floor, or a note on the lesson; rows are only ever added. */
export interface LoggedStep {
  id: string
  doneAt: number
  /** All rows of one evening share this. */
  lesson: string
  /** Name of the plan that was run. */
  plan: string
  kind: string
  label: string
  /** Eights of material the step is about. */
  eights: number
  repetitions: number
  /** What the plan gave it, and what it took. */
  planned: Seconds
  seconds: Seconds
  /** Of that, what was danced; the rest is talk and waiting. */
  danced: Seconds
  note: string
  /** The class it was held for. */
  group?: string
}

/** One lesson that was held. */
export interface HeldLesson {
  lesson: string
  plan: string
  at: number
  planned: Seconds
  seconds: Seconds
  steps: LoggedStep[]
  notes: string[]
}

/** Lessons from the log, the latest first. A note belongs to its lesson whenever it was written; a row told twice counts once. */
export function heldLessons(log: readonly LoggedStep[]): HeldLesson[] {
  const all = new Map<string, HeldLesson>()
  for (const row of new Map(log.map((r) => [r.id, r])).values()) {
    const held = all.get(row.lesson) ?? {
      lesson: row.lesson,
      plan: row.plan,
      at: row.doneAt - row.seconds * 1000,
      planned: 0,
      seconds: 0,
      steps: [],
      notes: [],
    }
    all.set(row.lesson, held)
    if (row.kind === 'note') held.notes.push(row.note)
    else {
      held.steps.push(row)
      held.planned += row.planned
      held.seconds += row.seconds
    }
  }
  return [...all.values()].sort((a, b) => b.at - a.at)
}

/** An estimate from what lessons really took, and from how many steps it comes. */
export interface Estimate {
  value: number
  from: number
}

/** Fewer steps than this say little. */
const LEAST = 2
/** A step passed over sooner than this was not taught. */
const GLANCE: Seconds = 10

/**
 * What lessons really took: minutes of talk per eight of new material, and seconds between two repetitions. The middle
 * value of all steps, so that one long pause changes little; null where too few steps were held.
 */
export function learned(log: readonly LoggedStep[]): { talk: Estimate | null; pause: Estimate | null } {
  const estimate = (values: readonly number[]): Estimate | null =>
    values.length < LEAST ? null : { value: median(values), from: values.length }
  const taught = log.filter((r) => r.kind === 'break down' && r.eights > 0 && r.seconds >= GLANCE)
  const drilled = log.filter((r) => r.kind === 'drill' && r.repetitions > 0 && r.danced > 0)
  return {
    talk: estimate(taught.map((r) => (r.seconds - r.danced) / 60 / r.eights)),
    pause: estimate(drilled.map((r) => (r.seconds - r.danced) / r.repetitions)),
  }
}
