import type { Pass } from '../routine'
import type { Seconds, Stretch } from '../time'
import type { CountedRow, LoggedRepetition, Mark } from './log'
import { lineKey, type PracticeLine } from './practice'
import { CLEAN_IN_A_ROW } from './readiness'

/** How often the last marks at one speed were what. */
export interface SpeedCell {
  speed: number
  repetitions: number
  /** The last two marks at this speed, the latest last. */
  last: Mark[]
}

/** One stretch with one pass by the speeds it was danced at, slowest first. */
export interface SpeedRow {
  stretch: Stretch | null
  label: string
  pass: Pass
  cells: Map<number, SpeedCell>
}

/** Stretches down, speeds across: what sat where, from the most recent attempts. */
export function speedSheet(rows: readonly CountedRow[]): { speeds: number[]; rows: SpeedRow[] } {
  const lines = new Map<string, SpeedRow>()
  const speeds = new Set<number>()
  for (const { row: r, stretch } of rows) {
    const key = lineKey({ stretch, label: r.label, pass: r.pass })
    let line = lines.get(key)
    if (!line) {
      line = { stretch, label: r.label, pass: r.pass, cells: new Map() }
      lines.set(key, line)
    }
    line.label = r.label
    speeds.add(r.speed)
    let cell = line.cells.get(r.speed)
    if (!cell) {
      cell = { speed: r.speed, repetitions: 0, last: [] }
      line.cells.set(r.speed, cell)
    }
    cell.repetitions++
    if (r.mark === 'unmarked') continue
    cell.last.push(r.mark)
    if (cell.last.length > CLEAN_IN_A_ROW) cell.last.shift()
  }
  return { speeds: [...speeds].sort((a, b) => a - b), rows: [...lines.values()] }
}

/** Dancing on one day. */
export interface PracticeDay {
  /** Year-month-day where the dancer is. */
  day: string
  seconds: Seconds
  repetitions: number
}

/** Seconds danced by day, the earliest first. @param standing the log as it stands @param dayOf the local day of a time */
export function practiceDays(
  standing: readonly LoggedRepetition[],
  dayOf: (time: number) => string,
): PracticeDay[] {
  const days = new Map<string, PracticeDay>()
  for (const r of standing) {
    const day = dayOf(r.doneAt)
    const d = days.get(day) ?? { day, seconds: 0, repetitions: 0 }
    d.seconds += r.seconds
    d.repetitions++
    days.set(day, d)
  }
  return [...days.values()].sort((a, b) => (a.day < b.day ? -1 : 1))
}

const DAY_MS = 24 * 3600 * 1000

/** How much a stretch needs to be taken up. A week without it weighs as much as 15 % of speed. Common practice, no published source. */
export const needOf = (l: Pick<PracticeLine, 'ready' | 'lastAt'>, now: number): number =>
  1 - l.ready + 0.15 * ((now - l.lastAt) / (7 * DAY_MS))

/** What needs it most comes first; that is the same at any time, since what is needed grows alike. */
export const byNeed = (a: PracticeLine, b: PracticeLine): number => needOf(b, 0) - needOf(a, 0)

/** What to take up next: what sits least comes first, and what was left alone for long; at tempo and fresh is left out. */
export function nextUp(lines: readonly PracticeLine[], now: number): PracticeLine[] {
  return lines.filter((l) => needOf(l, now) > 0.1).sort(byNeed)
}

/** Where to go on: what sits goes up, what was missed goes down, anything else is danced at the same speed again. */
export function nextSpeed(line: Pick<PracticeLine, 'ready' | 'lastSpeed' | 'lastMark'>): number {
  if (line.ready >= line.lastSpeed) return Math.min(1, Math.round((line.lastSpeed + 0.1) * 20) / 20)
  return line.lastMark === 'missed'
    ? Math.max(0.4, Math.round((line.lastSpeed - 0.1) * 20) / 20)
    : line.lastSpeed
}
