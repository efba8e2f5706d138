import { decodeHTMLStrict } from 'entities'
import { parseText } from 'media-captions'
import { oneLine } from '../routine/document/text-schema'
import type { Seconds } from '../time'
import { type BroughtWords, FormatProblem, type TimedText } from './problem'

/** Does a text begin as WebVTT does? */
export const isVtt = (text: string) => /^\uFEFF?WEBVTT(?:[ \t\r\n]|$)/.test(text)

const ARROW = /^.*\d\s*-+>\s*\d.*$/gm

/**
 * Reads captions: WebVTT (W3C, "WebVTT: The Web Video Text Tracks Format") when the file begins with WEBVTT, else SubRip
 * (no published standard; common practice). As the standard says, a cue that cannot be read is passed over and reading
 * goes on. Marks such as `<i>` and `<v Name>` are taken out of the words, character references of WebVTT are decoded;
 * lines of one cue are joined by a space.
 * @throws FormatProblem when the file has not one cue that can be read
 */
export async function readCaptions(text: string): Promise<BroughtWords> {
  const vtt = isVtt(text)
  const { cues } = await parseText(text, { type: vtt ? 'vtt' : 'srt', strict: false })
  const whole = cues.filter((c) => c.endTime > c.startTime)
  const timed = text.match(ARROW)?.length ?? 0
  if (!whole.length)
    throw new FormatProblem(
      timed
        ? 'Not one of its captions can be read; each needs two times as in 00:01:02.500 --> 00:01:04.000.'
        : 'The file holds no captions.',
    )
  const words = whole.map((c) => ({
    start: ms(c.startTime),
    end: ms(c.endTime),
    text: plain(c.text, vtt),
  }))
  return {
    words: words.filter((t) => t.text).sort((a, b) => a.start - b.start),
    passedOver: Math.max(0, timed - whole.length),
  }
}

/** The parser adds hours, minutes and seconds up in floating point. */
const ms = (t: Seconds) => Math.round(t * 1000) / 1000

/** Only marks the formats know; `<3 you>` is words. */
const MARKS = /<\/?(?:c|i|b|u|s|v|lang|ruby|rt|font)(?:[.\s][^<>]*)?>|<\d+:\d{2}(?::\d{2})?[.,]\d{3}>/gi

function plain(text: string, vtt: boolean): string {
  const bare = text.replace(MARKS, '').replace(/\s*\r?\n\s*/g, ' ')
  return (vtt ? decodeHTMLStrict(bare) : bare).replace(/[\u00a0\u200e\u200f]/g, ' ').trim()
}

/** Prints captions as WebVTT; where no end is named a cue lasts until the next one, at most four seconds. */
export function printVtt(list: readonly TimedText[]): string {
  const cues = list.map((t, i) => {
    const text = oneLine(t.text).replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;')
    return `${clock(t.start, '.')} --> ${clock(endOf(list, i), '.')}\n${text}\n`
  })
  return `WEBVTT\n\n${cues.join('\n')}`
}

/** Prints captions as SubRip; ends as in `printVtt`. */
export function printSrt(list: readonly TimedText[]): string {
  return list
    .map((t, i) => {
      // SubRip knows no way to say that an arrow is none: in words it would begin a caption.
      const text = oneLine(t.text).replace(/-+>/g, '→')
      return `${i + 1}\n${clock(t.start, ',')} --> ${clock(endOf(list, i), ',')}\n${text}\n`
    })
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
