import type { Seconds } from '../time'
import { FormatProblem, linesOf, type TimedText } from './problem'

const STAMP = /^\[(\d{1,3}):(\d{1,2})(?:[.:](\d{1,3}))?\]/
const TAG = /^\[[a-z#][^\]]*\]\s*$/i

/**
 * Reads time-synced lyrics (LRC): `[mm:ss.xx]words`, several stamps before one line, `[offset:ms]` (positive shows the
 * words sooner), word stamps `<mm:ss.xx>` left out of the text. An empty line ends the words before it.
 * There is no published standard; the format is common practice, tested against lrc-kit.
 * @throws FormatProblem naming the line
 */
export function readLrc(text: string): TimedText[] {
  const found: TimedText[] = []
  let offset = 0
  linesOf(text).forEach((raw, i) => {
    let rest = raw.trim()
    if (!rest) return
    const moved = /^\[offset:\s*([+-]?\d+)\s*\]$/i.exec(rest)
    if (moved) {
      offset = Number(moved[1]) / 1000
      return
    }
    if (TAG.test(rest)) return
    const starts: Seconds[] = []
    for (let m = STAMP.exec(rest); m; m = STAMP.exec(rest)) {
      if (Number(m[2]) > 59) throw new FormatProblem(`${m[0]} has more than 59 seconds`, i + 1)
      starts.push(Number(m[1]) * 60 + Number(m[2]) + Number(`0.${m[3] ?? '0'}`))
      rest = rest.slice(m[0].length).trimStart()
    }
    if (!starts.length) throw new FormatProblem('expected a time as in [01:23.45] before the words', i + 1)
    const words = rest.replace(/<\d{1,3}:\d{1,2}(?:[.:]\d{1,3})?>/g, '').trim()
    for (const start of starts) found.push({ start, end: null, text: words })
  })
  const sorted = found.map((t) => ({ ...t, start: ms(t.start - offset) })).sort((a, b) => a.start - b.start)
  return sorted.flatMap((t, i) => {
    const next = sorted[i + 1]
    return t.text ? [{ ...t, end: next && !next.text ? next.start : null }] : []
  })
}

/** Prints time-synced lyrics with milliseconds, so that reading them gives the same times again. */
export function printLrc(list: readonly TimedText[]): string {
  const out: string[] = []
  list.forEach((t, i) => {
    out.push(`[${stamp(t.start)}]${t.text}`)
    const next = list[i + 1]
    if (t.end !== null && (!next || next.start > t.end)) out.push(`[${stamp(t.end)}]`)
  })
  return `${out.join('\n')}\n`
}

const ms = (t: Seconds) => Math.max(0, Math.round(t * 1000)) / 1000

function stamp(t: Seconds): string {
  const whole = Math.round(Math.max(0, t) * 1000)
  const two = (n: number) => String(n).padStart(2, '0')
  return `${two(Math.floor(whole / 60_000))}:${two(Math.floor(whole / 1000) % 60)}.${String(whole % 1000).padStart(3, '0')}`
}
