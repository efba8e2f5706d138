import type { Pass } from '../routine'
import { type Seconds, type Stretch, type Ticks, type Times, tickOfTime } from '../time'

/** How a repetition went, in the dancer's own eyes. */
export const MARKS = ['clean', 'shaky', 'missed'] as const
export type Mark = (typeof MARKS)[number]

/** One row of the log. Rows keep seconds of the song: those survive every repair of the counts. */
export interface LoggedRepetition {
  id: string
  doneAt: number
  kind: 'drill' | 'run'
  /** What was danced and judged, without its run-up; null for old rows whose phrases were gone. */
  from: Seconds | null
  to: Seconds | null
  /** What it was called that day. */
  label: string
  pass: Pass
  speed: number
  /** How long it took. */
  seconds: Seconds
  mark: Mark | 'unmarked'
  /** Danced right after the one before, its last count leading into its first. */
  looped: boolean
  /** Where something slipped, in seconds of the song. */
  slips: readonly Seconds[]
  corrects: string | null
  /** The class it was danced with; none where nothing is said. */
  group?: string
}

/** How a row's name ends that was danced away from the mirror. */
export const TO_BACK = ', to the back'

/** The log as it stands: a row that was corrected gives way to its correction, at its own place in time. */
export function standing<R extends LoggedRepetition>(log: readonly R[]): R[] {
  const better = new Map<string, R>()
  for (const r of log) if (r.corrects) better.set(r.corrects, r)
  if (!better.size) return [...log]
  const out: R[] = []
  for (const row of log) {
    if (row.corrects) continue
    let last = row
    const seen = new Set<string>()
    for (let next = better.get(last.id); next && !seen.has(next.id); next = better.get(last.id)) {
      seen.add(next.id)
      last = next
    }
    out.push(last === row ? row : { ...last, id: row.id, doneAt: row.doneAt })
  }
  return out
}

/** A row of the log on the counts of the page as they are now. */
export interface CountedRow<R extends LoggedRepetition = LoggedRepetition> {
  row: R
  /** Null where the row does not know its counts any more. */
  stretch: Stretch | null
  slips: readonly Ticks[]
}

/** Places in the log are as fine as the dance: a count is divided in halves, thirds and quarters. */
const FINEST: readonly Ticks[] = [0, 6, 8, 12, 16, 18, 24]

/** The place nearest to a time that a dancer could name. */
function namedTick(times: Times, t: Seconds): Ticks {
  const tick = tickOfTime(times, t)
  const count = Math.floor(tick / 24)
  const rest = tick - count * 24
  const near = FINEST.reduce((a, b) => (Math.abs(b - rest) < Math.abs(a - rest) ? b : a))
  // Counts and halves are danced far more often than what lies between them.
  const half = Math.round(rest / 12) * 12
  return count * 24 + (Math.abs(half - rest) <= 2 ? half : near)
}

/** Rows of the log with the counts they are about now. @param times the grid of the page */
export function counted<R extends LoggedRepetition>(log: readonly R[], times: Times): CountedRow<R>[] {
  const known = new Map<Seconds, Ticks>()
  const tick = (t: Seconds): Ticks => {
    let at = known.get(t)
    if (at === undefined) {
      at = namedTick(times, t)
      known.set(t, at)
    }
    return at
  }
  return standing(log).map((row) => {
    if (row.from === null || row.to === null || times.length < 2) return { row, stretch: null, slips: [] }
    const [from, to] = [tick(row.from), tick(row.to)]
    return { row, stretch: to > from ? { from, to } : null, slips: row.slips.map(tick) }
  })
}
