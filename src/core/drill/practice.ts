import { type Pass, passWords } from '../routine'
import type { Seconds, Stretch } from '../time'
import type { CountedRow, Mark } from './log'
import { Readiness } from './readiness'

/** What was practised of one stretch with one pass. */
export interface PracticeLine {
  /** Null for what was danced on counts that are gone. */
  stretch: Stretch | null
  /** What it was called when it was danced last. */
  label: string
  pass: Pass
  repetitions: number
  seconds: Seconds
  lastAt: number
  lastSpeed: number
  lastMark: Mark | 'unmarked'
  /** The speed at which it sits, by its pairs of counts; 0 for none. */
  ready: number
}

/** Rows of one stretch and one pass belong together. */
export const lineKey = ({ stretch, label, pass }: Pick<PracticeLine, 'stretch' | 'label' | 'pass'>) =>
  `${stretch ? `${stretch.from} ${stretch.to}` : label} ${pass}`

/** "Chorus, eight 1" or "Chorus, eight 1, feet alone". */
export const withPass = (name: string, pass: Pass) => (pass === 'all' ? name : `${name}, ${passWords(pass)}`)

/** Adds the log up per stretch and pass, the last practised first. */
export function practice(rows: readonly CountedRow[], readiness = new Readiness(rows)): PracticeLine[] {
  const lines = new Map<string, PracticeLine>()
  for (const { row, stretch } of rows) {
    const key = lineKey({ stretch, label: row.label, pass: row.pass })
    const line = lines.get(key)
    if (!line)
      lines.set(key, {
        stretch,
        label: row.label,
        pass: row.pass,
        repetitions: 1,
        seconds: row.seconds,
        lastAt: row.doneAt,
        lastSpeed: row.speed,
        lastMark: row.mark,
        ready: 0,
      })
    else {
      line.repetitions++
      line.seconds += row.seconds
      line.label = row.label
      line.lastAt = row.doneAt
      line.lastSpeed = row.speed
      line.lastMark = row.mark
    }
  }
  for (const line of lines.values()) if (line.stretch) line.ready = readiness.of(line.stretch, line.pass)
  return [...lines.values()].sort((a, b) => b.lastAt - a.lastAt)
}
