import { CLEAN_IN_A_ROW, type DrillPlan, type Mark } from '../drill'
import { clampSpeed, type Ratio, type Seconds, type Ticks } from '../time'

/** One time through the stretch. */
export interface Repetition {
  speed: Ratio
  /** How long its body lasts. */
  seconds: Seconds
  /** When it was danced to its end, in milliseconds of the wall clock; null while it was not. */
  endedAt: number | null
  /** False for what goes on in the middle after an interruption: it is no repetition, and is not logged. */
  whole: boolean
  /** It follows the one before without a gap. */
  looped: boolean
  mark: Mark | null
  /** Where something slipped, in order. */
  slips: readonly Ticks[]
  /** How many rows of the log it has; each after the first corrects the one before. */
  rows: number
}

/** A drill or a run as it goes. */
export interface Drill {
  /** Names its rows in the log. */
  id: string
  /** As it was asked for, the speed as it is from the next repetition on. */
  plan: DrillPlan
  /** Speeds that marks move it along; none where only the dancer moves it. */
  rungs: readonly Ratio[]
  repetitions: readonly Repetition[]
  /** Number of the first repetition since the sound began last. */
  offset: number
  /** The sound goes on in the middle: what begins next is no repetition. */
  partly: boolean
  /** Since this repetition marks count towards the next rung. */
  since: number
  /** Highest speed that was clean twice in a row on this ladder. */
  reached: Ratio
  /** After a run: how many rows of the log each stretch of it has that was marked by itself, by where it begins. */
  apart: ReadonlyMap<Ticks, number>
  /** What the last mark moved, so that the same repetition marked again moves it from where it was. */
  before: { k: number; speed: Ratio; since: number; reached: Ratio } | null
}

/**
 * Which repetition a mark given now is meant for: the one just finished while the next is in its first third or is
 * still being counted in, else the one under way. Null while the first one has hardly begun: nothing was danced yet.
 * @param k repetition under way, from 0
 * @param into seconds since its body began; negative during the count-in
 * @param body length of the body
 */
export function markedRepetition(k: number, into: Seconds, body: Seconds): number | null {
  if (into >= body / 3) return k
  return k > 0 ? k - 1 : null
}

/**
 * The speed after some marks: two clean in a row go up to the next rung, a miss goes down to the one before; never above
 * the top of the ladder, and never the other way.
 */
export function staircase(rungs: readonly Ratio[], speed: Ratio, marks: readonly Mark[]): Ratio {
  const sorted = [...rungs].sort((a, b) => a - b)
  if (marks.at(-1) === 'missed') return sorted.findLast((r) => r < speed - 1e-9) ?? speed
  return cleanInARow(marks) ? (sorted.find((r) => r > speed + 1e-9) ?? speed) : speed
}

/** True when the last marks are clean, as many as make it sit. */
export const cleanInARow = (marks: readonly Mark[]): boolean =>
  marks.length >= CLEAN_IN_A_ROW && marks.slice(-CLEAN_IN_A_ROW).every((m) => m === 'clean')

/** How often it is to be danced whole: as planned, and once more for each that was missed on a ladder; null for no end. */
export function wanted({ plan, repetitions, rungs }: Drill): number | null {
  if (plan.repetitions === undefined) return plan.kind === 'run' ? 1 : null
  return (
    plan.repetitions + (rungs.length ? repetitions.filter((r) => r.whole && r.mark === 'missed').length : 0)
  )
}

/** What follows the repetition under way: how fast, and whether it is counted in; null for the end. */
export function following(drill: Drill): { speed: Ratio; countIn: boolean } | null {
  const most = wanted(drill)
  // A run goes on to its end once, from wherever it went on.
  if (drill.plan.repetitions === undefined && drill.plan.kind === 'run') return null
  if (most !== null && drill.repetitions.filter((r) => r.whole).length >= most) return null
  return { speed: drill.plan.speed, countIn: drill.plan.countInEach }
}

const changed = (drill: Drill, k: number, what: Partial<Repetition>): Drill => ({
  ...drill,
  repetitions: drill.repetitions.map((r, i) => (i === k ? { ...r, ...what } : r)),
})

/** A mark of one repetition; given again, the last one counts. On a ladder it moves the speed of the next ones. */
export function marked(drill: Drill, k: number, mark: Mark): Drill {
  const from =
    drill.before?.k === k
      ? {
          ...drill,
          plan: { ...drill.plan, speed: drill.before.speed },
          since: drill.before.since,
          reached: drill.before.reached,
        }
      : drill
  const { speed } = from.plan
  const next = changed({ ...from, before: { k, speed, since: from.since, reached: from.reached } }, k, {
    mark,
  })
  if (!next.rungs.length) return next
  const marks = next.repetitions.flatMap((r, i) => (i >= next.since && r.whole && r.mark ? [r.mark] : []))
  const moved = staircase(next.rungs, speed, marks)
  return {
    ...next,
    plan: { ...next.plan, speed: moved },
    since: moved === speed ? next.since : k + 1,
    reached: cleanInARow(marks) ? Math.max(next.reached, next.repetitions[k]?.speed ?? 0) : next.reached,
  }
}

/** Something slipped at a place; pressed again, it did not. */
export function slipped(drill: Drill, k: number, tick: Ticks): Drill {
  const slips = drill.repetitions[k]?.slips ?? []
  const next = slips.includes(tick) ? slips.filter((t) => t !== tick) : [...slips, tick].sort((a, b) => a - b)
  return changed(drill, k, { slips: next })
}

/** Another speed from the next repetition on; a run keeps its own. */
export function faster(drill: Drill, by: Ratio): Drill {
  if (drill.plan.kind === 'run') return drill
  const speed = clampSpeed(drill.plan.speed + by)
  return { ...drill, plan: { ...drill.plan, speed }, since: drill.repetitions.length, before: null }
}

/** A repetition begins to sound. */
export function begun(drill: Drill, r: Pick<Repetition, 'speed' | 'seconds' | 'looped'>): Drill {
  const { speed, seconds, looped } = r
  const fresh = {
    speed,
    seconds,
    looped,
    whole: !drill.partly,
    endedAt: null,
    mark: null,
    slips: [],
    rows: 0,
  }
  return { ...drill, partly: false, repetitions: [...drill.repetitions, fresh] }
}

export const ended = (drill: Drill, k: number, now: number): Drill => changed(drill, k, { endedAt: now })

/** The repetition that was danced to its end last; null before any was. */
export function lastDanced(drill: Drill): number | null {
  const k = drill.repetitions.findLastIndex((r) => r.endedAt !== null)
  return k < 0 ? null : k
}
