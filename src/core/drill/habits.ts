import type { Drilled } from '../routine'
import { median } from '../time'
import type { Estimate } from './lessons'
import type { CountedRow } from './log'
import { CLEAN_IN_A_ROW } from './readiness'

/** Repetitions further apart than this are not of one drill; those of one evening are no further. */
const APART_MS = 10 * 60_000
const EVENING_MS = 3 * 3_600_000
/** Slower than this is a slow rung. */
const SLOW = 0.9
/** Fewer drills than this say little. */
const LEAST = 2

/** Repetitions of the same counts with the same pass at one speed, right after one another. */
interface Bout {
  key: string
  speed: number
  from: number
  to: number
  /** How many there were until it was clean twice in a row; all of them where it never was. */
  needed: number
  done: boolean
  streak: number
}

function bouts(rows: readonly CountedRow[]): Bout[] {
  const out: Bout[] = []
  const open = new Map<string, Bout>()
  for (const { row, stretch } of rows) {
    if (!stretch || row.kind !== 'drill') continue
    const key = `${stretch.from} ${stretch.to} ${row.pass}`
    let bout = open.get(key)
    if (!bout || bout.speed !== row.speed || row.doneAt - bout.to > APART_MS) {
      bout = { key, speed: row.speed, from: row.doneAt, to: row.doneAt, needed: 0, done: false, streak: 0 }
      open.set(key, bout)
      out.push(bout)
    }
    bout.to = row.doneAt
    if (bout.done) continue
    bout.needed++
    bout.streak = row.mark === 'clean' ? bout.streak + 1 : 0
    bout.done = bout.streak >= CLEAN_IN_A_ROW
  }
  return out
}

/** How many speeds the same counts were danced at in one evening. */
function rungsOf(all: readonly Bout[]): number[] {
  const ladders: { key: string; from: number; speeds: Set<number> }[] = []
  for (const b of all) {
    const ladder = ladders.findLast((l) => l.key === b.key && b.from - l.from <= EVENING_MS)
    if (ladder) ladder.speeds.add(b.speed)
    else ladders.push({ key: b.key, from: b.from, speeds: new Set([b.speed]) })
  }
  // One speed alone is no ladder.
  return ladders.flatMap((l) => (l.speeds.size > 1 ? [l.speeds.size] : []))
}

/**
 * How often somebody drills, from their own log: repetitions of a slow rung and of one at tempo until it was clean twice in a row,
 * and rungs of a ladder. The middle of all, so that one long evening changes little; null where too few drills say it.
 * @param rows oldest first
 */
export function drillHabits(rows: readonly CountedRow[]): Record<keyof Drilled, Estimate | null> {
  const all = bouts(rows)
  const estimate = (values: readonly number[], least: number, most: number): Estimate | null =>
    values.length < LEAST
      ? null
      : { value: Math.max(least, Math.min(most, Math.round(median(values)))), from: values.length }
  const needed = (slow: boolean) => all.flatMap((b) => (b.speed < SLOW === slow ? [b.needed] : []))
  return {
    slow: estimate(needed(true), 1, 12),
    fast: estimate(needed(false), 1, 12),
    rungs: estimate(rungsOf(all), 2, 8),
  }
}
