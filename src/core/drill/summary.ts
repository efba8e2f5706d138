import { danceOf, danceRows, placePhrases, type Routine, stretchName } from '../routine'
import type { Times } from '../time'
import { counted, type LoggedRepetition } from './log'
import { byNeed, needOf, nextSpeed } from './overview'
import { type PracticeLine, practice, withPass } from './practice'
import { Readiness } from './readiness'

/** What was danced of one routine, short enough to be kept and shown with many others. */
export interface PracticeSummary {
  rows: number
  last: { label: string; speed: number; mark: string } | null
  /** The speed at which the whole dance sits, 0 for none; and how many of its phrases sit at tempo. */
  sits: { whole: number; atTempo: number; phrases: number }
  /** What to take up first, with its speed: the first few, most needed first. */
  due: { label: string; speed: number }[]
  /** From when on each stretch is due, the most needed first; all of them. Milliseconds. */
  dueFrom: number[]
}

/** Of what is due so much is kept in words. */
const NAMED = 2

const WEEK_MS = 7 * 24 * 3600 * 1000

/** When a stretch comes to be due: what it needs grows evenly with time. */
const dueFromOf = (line: PracticeLine): number => {
  const now = needOf(line, 0)
  const perMs = (needOf(line, WEEK_MS) - now) / WEEK_MS
  return Math.ceil((LEAST_NEED - now) / perMs)
}

/** What needs no more than this may wait. */
const LEAST_NEED = 0.1

/** @param times when each count falls, in seconds of the song */
export function practiceSummary(
  routine: Routine,
  times: Times,
  log: readonly LoggedRepetition[],
): PracticeSummary {
  const placed = placePhrases(routine)
  const rows = counted(log, times)
  const readiness = new Readiness(rows)
  const lines = practice(rows, readiness)
  const nameOf = (l: PracticeLine) => withPass(l.stretch ? stretchName(placed, l.stretch) : l.label, l.pass)
  const dance = danceOf(routine)
  const phrases = danceRows(routine).map(({ row }) => row)
  const needed = [...lines].sort(byNeed)
  const [line] = lines
  return {
    rows: rows.length,
    last: line ? { label: nameOf(line), speed: line.lastSpeed, mark: line.lastMark } : null,
    sits: {
      whole: readiness.of(dance),
      atTempo: phrases.filter((s) => readiness.of(s) >= 1).length,
      phrases: phrases.length,
    },
    due: needed.slice(0, NAMED).map((l) => ({ label: nameOf(l), speed: nextSpeed(l) })),
    dueFrom: needed.map(dueFromOf),
  }
}

/** What of a summary is due at a time: the first by name, and how many more. */
export function dueAt(
  { due, dueFrom }: Pick<PracticeSummary, 'due' | 'dueFrom'>,
  now: number,
): { due: PracticeSummary['due']; more: number } {
  const n = dueFrom.filter((t) => t <= now).length
  return { due: due.slice(0, n), more: Math.max(0, n - NAMED) }
}
