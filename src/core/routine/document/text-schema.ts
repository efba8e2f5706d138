import * as v from 'valibot'
import { LIMITS } from './limits'

/*
 * Texts and times as a routine, a move list and the log hold them, whoever they come from: what leaves is made of lines, and a
 * name that brings lines of its own would become entries of a calendar or captions.
 */

// biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is looked for
const CONTROLS = /[\u0000-\u001F\u007F-\u009F\u2028\u2029]+/g
// biome-ignore lint/suspicious/noControlCharactersInRegex: the same, but for lines and tabs
const UNSEEN = /[\u0000-\u0008\u000B\u000C\u000E-\u001F\u007F]+/g

/** Halves of characters outside the basic plane that stand alone become a sign for what cannot be read (Unicode Standard, chapter 3.9). */
function wellFormed(text: string): string {
  if (!/[\uD800-\uDFFF]/.test(text)) return text
  let out = ''
  // By characters: a half that stands alone is one of its own.
  for (const c of text) out += c.length === 1 && c >= '\uD800' && c <= '\uDFFF' ? '\uFFFD' : c
  return out
}

/** A text in one line: what breaks lines or is no character becomes a space. */
export const oneLine = (text: string): string => wellFormed(text.replace(CONTROLS, ' '))

/** A text of lines without what cannot be seen or stored. */
const plainLines = (text: string): string => wellFormed(text.replace(UNSEEN, ' '))

/** A name or anything else that is one line. */
export const line = (most: number) => v.pipe(v.string(), v.maxLength(most), v.transform(oneLine))

/** The same, which says something. @param why what is told where it does not */
export const name = (most: number, why: string) =>
  v.pipe(
    v.string(),
    v.trim(),
    v.minLength(1, why),
    v.maxLength(most),
    v.transform(oneLine),
    // What was no character at its ends is a space now.
    v.trim(),
    v.minLength(1, why),
  )

/** What is written in lines: a tip, a note. */
export const lines = (most: number) => v.pipe(v.string(), v.maxLength(most), v.transform(plainLines))

export const text = line(LIMITS.text)
export const note = lines(LIMITS.note)

/** Names a thing within a document: letters and digits of any script, no spaces, no signs but these. */
export const id = v.pipe(v.string(), v.regex(/^[\p{L}\p{N}_.-]{1,40}$/u, 'An id has a wrong form.'))

/** True for a day of the calendar (ISO 8601), and for one with an hour: the thirtieth of February is none. */
function isDay(text: string): boolean {
  const [year = 0, month = 0, day = 0, hour = 0, minute = 0] = text.split(/[-T:]/).map(Number)
  const date = new Date(Date.UTC(year, month - 1, day))
  return (
    date.getUTCFullYear() === year &&
    date.getUTCMonth() === month - 1 &&
    date.getUTCDate() === day &&
    hour < 24 &&
    minute < 60
  )
}

/** A day. */
export const day = v.pipe(
  v.string(),
  v.regex(/^\d{4}-\d\d-\d\d$/, 'That is no day.'),
  v.check(isDay, 'That is no day.'),
)

/** A day and an hour where somebody is: no zone, no clock of another place. */
export const dayAndHour = v.pipe(
  v.string(),
  v.regex(/^\d{4}-\d\d-\d\dT\d\d:\d\d$/, 'A lesson has a day and an hour.'),
  v.check(isDay, 'A lesson has a day and an hour.'),
)

/** A moment, as machines write it (RFC 3339). */
export const instant = v.pipe(
  v.string(),
  v.isoTimestamp('That is no time.'),
  v.check((s) => isDay(s.slice(0, 10)) && Number.isFinite(Date.parse(s)), 'That is no time.'),
)
