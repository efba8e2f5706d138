/* npm run bench:log: a log of 50,000 repetitions, worked out as the Log station does when it opens. */
import { readFileSync } from 'node:fs'
import os from 'node:os'
import {
  counted,
  type LoggedRepetition,
  nextUp,
  practice,
  practiceDays,
  Readiness,
  speedSheet,
} from '../../src/core/drill'

const ROWS = Number(process.argv[2] ?? 50_000)
const COUNTS = 1200
const times = Array.from({ length: COUNTS }, (_, i) => 0.5 + i / 2)
let seed = 7
const below = (n: number) => {
  seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
  return Math.floor((seed / 2_147_483_648) * n)
}

/** Years of practice: eights, pairs of them and whole runs, every fifth of them corrected later. */
const log: LoggedRepetition[] = []
for (let i = 0; log.length < ROWS; i++) {
  const whole = below(50) === 0
  const from = whole ? 0 : 8 * below(COUNTS / 8 - 2)
  const to = whole ? COUNTS - 1 : from + 8 * (1 + below(2))
  const mark = (['clean', 'clean', 'clean', 'shaky', 'missed'] as const)[below(5)] ?? 'clean'
  const row: LoggedRepetition = {
    id: `r${i}`,
    doneAt: 1_700_000_000_000 + i * 600_000,
    kind: whole ? 'run' : 'drill',
    from: times[from] as number,
    to: times[to] as number,
    label: `eight ${from / 8 + 1}`,
    pass: 'all',
    speed: ([0.6, 0.75, 0.9, 1] as const)[below(4)] ?? 1,
    seconds: 8,
    mark,
    looped: below(2) === 0,
    slips: mark === 'clean' ? [] : [times[from + 3] as number],
    corrects: null,
  }
  log.push(row)
  if (below(5) === 0 && log.length < ROWS) log.push({ ...row, id: `c${i}`, mark: 'shaky', corrects: row.id })
}

function opened(): number {
  const rows = counted(log, times)
  const lines = practice(rows, new Readiness(rows))
  nextUp(lines, Date.now())
  speedSheet(rows)
  practiceDays(
    rows.map((r) => r.row),
    (t) => String(Math.floor(t / 86_400_000)),
  )
  return lines.length
}

const text = JSON.stringify(log)
/** Median of seven runs, ms. */
function median(work: () => unknown): number {
  work()
  const took = Array.from({ length: 7 }, () => {
    const from = performance.now()
    work()
    return performance.now() - from
  }).sort((a, b) => a - b)
  return took[3] as number
}
const mine = median(opened)
const reference = median(() => JSON.parse(text))
const cpu = /model name\s*: (.*)/.exec(readFileSync('/proc/cpuinfo', 'utf8'))?.[1] ?? os.arch()
console.log(
  `${new Date().toISOString().slice(0, 10)}, ${cpu}, ${os.cpus().length} cores, Node ${process.version}`,
)
console.log(
  `${log.length} rows on ${COUNTS} counts, ${opened()} lines: ${mine.toFixed(0)} ms; reading the same rows as JSON (${(text.length / 1e6).toFixed(1)} MB) ${reference.toFixed(0)} ms; ratio ${(mine / reference).toFixed(2)}`,
)
