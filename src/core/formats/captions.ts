import type { Seconds } from '../time'
import { FormatProblem, linesOf, type TimedText } from './problem'

const TIME = String.raw`(?:(\d{2,}):)?([0-5]\d):([0-5]\d)[.,](\d{3})`
const TIMING = new RegExp(`^${TIME}\\s*-->\\s*${TIME}(?:\\s+.*)?$`)

/**
 * Reads captions: WebVTT (W3C, "WebVTT: The Web Video Text Tracks Format", cue blocks; NOTE, STYLE and REGION blocks are
 * passed over) when the file begins with WEBVTT, else SubRip (no published standard; common practice). Marks such as
 * `<i>` and `<v Name>` are taken out of the words; lines of one cue are joined by a space.
 * @throws FormatProblem naming the line
 */
export function readCaptions(text: string): TimedText[] {
  const lines = linesOf(text)
  const vtt = /^WEBVTT(?:[ \t].*)?$/.test(lines[0] ?? '')
  const out: TimedText[] = []
  let i = vtt ? 1 : 0
  // The header block of WebVTT ends at the first empty line.
  if (vtt) while (i < lines.length && lines[i]?.trim() && !lines[i]?.includes('-->')) i++
  while (i < lines.length) {
    while (i < lines.length && !lines[i]?.trim()) i++
    if (i >= lines.length) break
    const begin = i
    const block: string[] = []
    while (i < lines.length && lines[i]?.trim()) block.push(lines[i++] as string)
    if (vtt && /^(NOTE|STYLE|REGION)(\s|$)/.test(block[0] as string)) continue
    const at = block[0]?.includes('-->') ? 0 : 1
    out.push(cueOf(block.slice(at), begin + at + 1, vtt))
  }
  return out.filter((t) => t.text).sort((a, b) => a.start - b.start)
}

function cueOf([timing = '', ...words]: string[], line: number, vtt: boolean): TimedText {
  const m = TIMING.exec(timing.trim())
  if (!m) throw new FormatProblem('expected two times as in 00:01:02.500 --> 00:01:04.000', line)
  const [start, end] = [seconds(m.slice(1, 5)), seconds(m.slice(5, 9))]
  if (end <= start) throw new FormatProblem('these words end before they begin', line)
  return { start, end, text: plain(words.map((w) => w.trim()).join(' '), vtt) }
}

function seconds([h = '0', m, s, milli]: (string | undefined)[]): Seconds {
  return (Number(h) * 3_600_000 + Number(m) * 60_000 + Number(s) * 1000 + Number(milli)) / 1000
}

const ENTITIES: Record<string, string> = {
  '&amp;': '&',
  '&lt;': '<',
  '&gt;': '>',
  '&nbsp;': ' ',
  '&lrm;': '',
  '&rlm;': '',
}

function plain(words: string, vtt: boolean): string {
  const bare = words.replace(/<[^>]*>/g, '')
  return (vtt ? bare.replace(/&(?:amp|lt|gt|nbsp|lrm|rlm);/g, (e) => ENTITIES[e] ?? e) : bare).trim()
}

/** Prints captions as WebVTT; where no end is named a cue lasts until the next one, at most four seconds. */
export function printVtt(list: readonly TimedText[]): string {
  const cues = list.map((t, i) => {
    const text = t.text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;')
    return `${clock(t.start, '.')} --> ${clock(endOf(list, i), '.')}\n${text}\n`
  })
  return `WEBVTT\n\n${cues.join('\n')}`
}

/** Prints captions as SubRip; ends as in `printVtt`. */
export function printSrt(list: readonly TimedText[]): string {
  return list
    .map((t, i) => `${i + 1}\n${clock(t.start, ',')} --> ${clock(endOf(list, i), ',')}\n${t.text}\n`)
    .join('\n')
}

const LONGEST: Seconds = 4

function endOf(list: readonly TimedText[], i: number): Seconds {
  const t = list[i] as TimedText
  const next = list[i + 1]?.start ?? Number.POSITIVE_INFINITY
  return t.end ?? Math.max(t.start + 0.001, Math.min(next, t.start + LONGEST))
}

function clock(t: Seconds, point: '.' | ','): string {
  const whole = Math.round(Math.max(0, t) * 1000)
  const two = (n: number) => String(n).padStart(2, '0')
  const milli = String(whole % 1000).padStart(3, '0')
  return `${two(Math.floor(whole / 3_600_000))}:${two(Math.floor(whole / 60_000) % 60)}:${two(Math.floor(whole / 1000) % 60)}${point}${milli}`
}
