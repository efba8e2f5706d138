import type { Seconds } from '../time'
import {
  type DrilledLayer,
  type LoggedRepetition,
  type Mark,
  type PracticeLine,
  standing,
  stretchKey,
} from './marks'

/** How often the last marks at one speed were what. */
export interface SpeedCell {
  speed: number
  repetitions: number
  /** The last two marks at this speed, the latest last. */
  last: Mark[]
}

/** One stretch with one layer by the speeds it was danced at, slowest first. */
export interface SpeedRow {
  firstPhrase: string
  lastPhrase: string
  label: string
  layer: DrilledLayer
  cells: SpeedCell[]
}

/** Stretches down, speeds across: what sat where, from the most recent attempts. */
export function speedSheet(log: readonly LoggedRepetition[]): { speeds: number[]; rows: SpeedRow[] } {
  const rows = new Map<string, SpeedRow>()
  const speeds = new Set<number>()
  for (const r of standing(log)) {
    const key = stretchKey(r)
    const row = rows.get(key) ?? {
      firstPhrase: r.firstPhrase,
      lastPhrase: r.lastPhrase,
      label: r.label,
      layer: r.layer,
      cells: [],
    }
    rows.set(key, row)
    speeds.add(r.speed)
    let cell = row.cells.find((c) => c.speed === r.speed)
    if (!cell) {
      cell = { speed: r.speed, repetitions: 0, last: [] }
      row.cells.push(cell)
    }
    cell.repetitions++
    if (r.mark !== 'unmarked') cell.last = [...cell.last, r.mark].slice(-2)
  }
  return { speeds: [...speeds].sort((a, b) => a - b), rows: [...rows.values()] }
}

/** Dancing on one day. */
export interface PracticeDay {
  /** Year-month-day where the dancer is. */
  day: string
  seconds: Seconds
  repetitions: number
}

/** Seconds danced by day, the earliest first. @param dayOf the local day of a time */
export function practiceDays(
  log: readonly LoggedRepetition[],
  dayOf: (time: number) => string,
): PracticeDay[] {
  const days = new Map<string, PracticeDay>()
  for (const r of standing(log)) {
    const day = dayOf(r.doneAt)
    const d = days.get(day) ?? { day, seconds: 0, repetitions: 0 }
    days.set(day, { day, seconds: d.seconds + r.seconds, repetitions: d.repetitions + 1 })
  }
  return [...days.values()].sort((a, b) => (a.day < b.day ? -1 : 1))
}

const DAY_MS = 24 * 3600 * 1000

/**
 * What to take up next: what sits least comes first, and what was left alone for long; at tempo and fresh is left out.
 * A week without it weighs as much as 15 % of speed. Common practice, no published source.
 */
export function nextUp(lines: readonly PracticeLine[], now: number): PracticeLine[] {
  const need = (l: PracticeLine) => 1 - l.ready + 0.15 * ((now - l.lastAt) / (7 * DAY_MS))
  return [...lines].filter((l) => need(l) > 0.1).sort((a, b) => need(b) - need(a))
}
