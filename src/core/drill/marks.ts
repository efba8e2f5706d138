import type { Seconds } from '../time'

/** How a repetition went, in the dancer's own eyes. */
export type Mark = 'clean' | 'shaky' | 'missed'

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

/** What of the body a repetition was danced with. */
export type DrilledLayer = 'feet' | 'arms' | 'all'

/** One row of the log, as far as adding up needs it. */
export interface LoggedRepetition {
  id: string
  doneAt: number
  kind: 'drill' | 'run'
  firstPhrase: string
  lastPhrase: string
  label: string
  layer: DrilledLayer
  speed: number
  seconds: Seconds
  mark: Mark | 'unmarked'
  corrects: string | null
}

/** The log as it stands: a row that was corrected gives way to its correction, at its own place in time. */
export function standing<R extends LoggedRepetition>(log: readonly R[]): R[] {
  const better = new Map(log.filter((r) => r.corrects).map((r) => [r.corrects as string, r]))
  const out: R[] = []
  for (const row of log) {
    if (row.corrects) continue
    let last = row
    for (let next = better.get(last.id); next; next = better.get(last.id)) last = next
    out.push({ ...last, id: row.id, doneAt: row.doneAt })
  }
  return out
}

/** What was practised of one stretch of phrases with one layer: feet that sit alone do not make the whole sit. */
export interface PracticeLine {
  firstPhrase: string
  lastPhrase: string
  label: string
  layer: DrilledLayer
  repetitions: number
  seconds: Seconds
  lastAt: number
  lastSpeed: number
  lastMark: Mark | 'unmarked'
  /** The highest speed with two clean repetitions in a row, the most recent attempts at each speed counting; 0 for none. */
  ready: number
}

/** The highest speed whose last two marked repetitions were both clean. */
export function readySpeed(rows: readonly LoggedRepetition[]): number {
  const speeds = new Map<number, Mark[]>()
  for (const r of rows)
    if (r.mark !== 'unmarked') speeds.set(r.speed, [...(speeds.get(r.speed) ?? []), r.mark])
  let best = 0
  for (const [speed, marks] of speeds) {
    const [a, b] = marks.slice(-2)
    if (a === 'clean' && b === 'clean') best = Math.max(best, speed)
  }
  return best
}

/** Rows of one stretch and one layer belong together. */
export const stretchKey = (r: Pick<LoggedRepetition, 'firstPhrase' | 'lastPhrase' | 'layer'>) =>
  `${r.firstPhrase} ${r.lastPhrase} ${r.layer}`

/** "Chorus, eight 1" or "Chorus, eight 1, feet alone". */
export const stretchName = (r: Pick<LoggedRepetition, 'label' | 'layer'>) =>
  r.layer === 'all' ? r.label : `${r.label}, ${r.layer} alone`

/** Adds the log up per stretch and layer, the last practised first. */
export function practice(log: readonly LoggedRepetition[]): PracticeLine[] {
  const groups = new Map<string, LoggedRepetition[]>()
  for (const r of standing(log)) {
    const key = stretchKey(r)
    groups.set(key, [...(groups.get(key) ?? []), r])
  }
  const lines = [...groups.values()].map((rows): PracticeLine => {
    const last = rows.at(-1) as LoggedRepetition
    return {
      firstPhrase: last.firstPhrase,
      lastPhrase: last.lastPhrase,
      label: last.label,
      layer: last.layer,
      repetitions: rows.length,
      seconds: rows.reduce((s, r) => s + r.seconds, 0),
      lastAt: last.doneAt,
      lastSpeed: last.speed,
      lastMark: last.mark,
      ready: readySpeed(rows),
    }
  })
  return lines.sort((a, b) => b.lastAt - a.lastAt)
}
