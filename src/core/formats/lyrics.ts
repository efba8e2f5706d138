import type { Seconds } from '../time'
import { type BroughtWords, FormatProblem, linesOf, type TimedText } from './problem'

const FRACTION = String.raw`[.:]\d{1,3}`
const STAMP = new RegExp(String.raw`^\[(\d{1,3}):([0-5]?\d)(${FRACTION})?\]`)
const TAG = /^\[[a-z#][^\]]*\]\s*$/i

/**
 * Reads time-synced lyrics (LRC): `[mm:ss.xx]words`, several stamps before one line, `[offset:ms]` (positive shows the
 * words sooner), word stamps `<mm:ss.xx>` left out of the text. An empty line ends the words before it. Only what has the
 * form of the file's stamps is one: where they have hundredths, `[12:30] train` and `<12:30>` are words. Lines without a
 * stamp are passed over.
 * There is no published standard; the format is common practice, tested against lrc-kit.
 * @throws FormatProblem when no line has a stamp
 */
export function readLrc(text: string): BroughtWords {
  const lines = linesOf(text).map((l) => l.trim())
  const fine = lines.some((l) => STAMP.exec(l)?.[3])
  const found: TimedText[] = []
  let offset = 0
  let passedOver = 0
  for (const line of lines) {
    const moved = /^\[offset:\s*([+-]?\d+)\s*\]$/i.exec(line)
    if (moved) offset = Number(moved[1]) / 1000
    if (!line || TAG.test(line)) continue
    const { starts, rest } = stampsOf(line, fine)
    if (!starts.length) passedOver++
    const words = rest.replace(fine ? WORD_STAMP : ROUGH_WORD_STAMP, '').trim()
    for (const start of starts) found.push({ start, end: null, text: words })
  }
  if (!found.length) throw new FormatProblem('No line begins with a time as in [01:23.45].')
  const sorted = found.map((t) => ({ ...t, start: ms(t.start - offset) })).sort((a, b) => a.start - b.start)
  const words = sorted.flatMap((t, i) => {
    const next = sorted[i + 1]
    return t.text ? [{ ...t, end: next && !next.text ? next.start : null }] : []
  })
  return { words, passedOver }
}

const WORD_STAMP = new RegExp(String.raw`<\d{1,3}:[0-5]?\d${FRACTION}>`, 'g')
const ROUGH_WORD_STAMP = /<\d{1,3}:[0-5]?\d>/g

/** @param fine the file's stamps have fractions: one without stands alone on its line, or it is words */
function stampsOf(line: string, fine: boolean): { starts: Seconds[]; rest: string } {
  const starts: Seconds[] = []
  let rest = line
  for (let m = STAMP.exec(rest); m; m = STAMP.exec(rest)) {
    const after = rest.slice(m[0].length)
    if (fine && !m[3] && (starts.length || after)) break
    starts.push(Number(m[1]) * 60 + Number(m[2]) + Number(`0.${m[3]?.slice(1) ?? '0'}`))
    rest = after.trimStart()
  }
  return { starts, rest }
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
