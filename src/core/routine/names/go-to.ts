import {
  clockText,
  lastAtOrBefore,
  type Seconds,
  type Stretch,
  TICKS_PER_COUNT,
  type Ticks,
} from '../../time'
import type { PlacedPhrase } from '../counts/layout'
import { Refused } from '../gate/refused'
import { readStretch } from './names'

/** "2:33", "2.33,5", "153 s": a time of the song. */
const TIME = /^(?:(\d{1,3})[:.](\d{2}(?:[.,]\d+)?)|(\d{1,5}(?:[.,]\d+)?)\s*s)$/

/** Whether some words are a time. */
export const isTime = (text: string): boolean => TIME.test(text.trim())

/** "chorus 2, 5", "verse 3", "chorus 2 3 5": a section, and numbers. */
const SHORT = /^(\p{L}[\p{L}\p{M}' -]*?)\s*,?\s*(\d{1,3})(?:\s*[, ]\s*(\d{1,3}))?(?:\s*[, ]\s*(\d{1,2}))?$/u

/**
 * Where somebody wants to go: a time of the song ("2:33"), the name of a place as the page prints it, or its short form.
 * "chorus 2, 5" is the second chorus, its eight 5, where there is such a chorus and such an eight; else the chorus, its eight
 * 2, on 5. Where there is one chorus alone, "chorus 3" is its eight 3.
 * @param times of the counts
 * @param here the phrase that is meant where none is named
 * @throws Refused naming what there is not
 */
export function readPlace(
  placed: readonly PlacedPhrase[],
  times: readonly Seconds[],
  text: string,
  here: PlacedPhrase | null,
): Ticks {
  const said = text.trim()
  const time = TIME.exec(said)
  if (time) return atTime(placed, times, time)
  const short = SHORT.exec(said)
  return (short && atShort(placed, short)) ?? readStretch(placed, said, here).from
}

function atTime(placed: readonly PlacedPhrase[], times: readonly Seconds[], m: RegExpExecArray): Ticks {
  const number = (x: string | undefined) => Number((x ?? '0').replace(',', '.'))
  const seconds = m[3] === undefined ? 60 * number(m[1]) + number(m[2]) : number(m[3])
  const counted = (placed.at(-1)?.end ?? 0) / TICKS_PER_COUNT
  const last = Math.min(times.length, counted) - 1
  if (last < 0) throw new Refused('Nothing is counted yet.')
  const end = times[last] as Seconds
  if (seconds > end + 4) throw new Refused(`The counts end at ${clockText(end)}.`)
  const count =
    printedAs(placed, times, seconds, /[.,]\d/.test(m[3] ?? m[2] ?? '')) ??
    lastAtOrBefore(times, seconds + 0.06)
  return Math.max(0, Math.min(last, count)) * TICKS_PER_COUNT
}

/**
 * The count for which the page prints a time: of a row's first count before any other; with tenths, of whatever count. Null
 * where none is printed so: then it is the count that sounds, a little before a count being that count.
 */
function printedAs(
  placed: readonly PlacedPhrase[],
  times: readonly Seconds[],
  seconds: Seconds,
  tenths: boolean,
): number | null {
  const printed = clockText(seconds, tenths)
  const isPrinted = (count: number) => clockText(times[count] ?? -1, tenths) === printed
  const row = placed.map((p) => p.start / TICKS_PER_COUNT).find(isPrinted)
  if (row !== undefined) return row
  const from = Math.max(0, lastAtOrBefore(times, seconds - 0.1))
  for (let k = from; k < times.length && (times[k] as Seconds) < seconds + 1.1; k++)
    if (isPrinted(k)) return k
  return null
}

interface Found {
  /** What is meant: a section, one of its phrases, or a count of it. */
  section: string
  phrase: PlacedPhrase | null
  tick: Ticks | null
}

function atShort(placed: readonly PlacedPhrase[], m: RegExpExecArray): Ticks | null {
  const found = foundShort(placed, m)
  return found && (found.tick ?? found.phrase?.start ?? null)
}

/** @returns null where no section is called that */
function foundShort(placed: readonly PlacedPhrase[], m: RegExpExecArray): Found | null {
  const [, name = '', ...rest] = m
  const numbers = rest.flatMap((n) => (n === undefined ? [] : [Number(n)]))
  // Titles that begin like that, each time the section comes; what is asked for in full comes before its beginning.
  const titles = [...new Set(placed.map((p) => p.title))]
  const plain = (t: string) =>
    t
      .toLowerCase()
      .replace(/,\s*\d+\p{L}+$/u, '')
      .replace(/[“”]/gu, '')
  const wanted = name.trim().toLowerCase()
  const exact = titles.filter((t) => plain(t) === wanted)
  const alike = exact.length ? exact : titles.filter((t) => plain(t).startsWith(wanted))
  if (!alike.length) return null
  const eightOf = (title: string | undefined, n: number) =>
    placed.find((p) => p.title === title && !p.phrase.pickUp && p.inSection === n) ?? null
  const on = (p: PlacedPhrase | null, n: number): Ticks | null =>
    p && n >= p.first && n < p.first + p.phrase.length ? p.start + (n - p.first) * TICKS_PER_COUNT : null
  const [a = 0, b, c] = numbers
  const time = alike.length > 1 ? alike[a - 1] : undefined
  const section = time ?? (alike[0] as string)
  // The numbers left once it is known which time the section comes.
  const [eightNumber, count] = time === undefined ? [a, b] : [b, c]
  const whole: Found = { section, phrase: null, tick: null }
  if (eightNumber === undefined) {
    const first = eightOf(section, 1)
    if (first) return { ...whole, tick: first.start }
  } else {
    const eight = eightOf(section, eightNumber)
    if (eight && count === undefined) return { ...whole, phrase: eight }
    // "chorus 2, 5" is its count 5 where it has no eight 5.
    const [phrase, number] = count === undefined ? [eightOf(section, 1), eightNumber] : [eight, count]
    const tick = on(phrase, number)
    if (tick !== null && (count !== undefined || time !== undefined)) return { section, phrase, tick }
  }
  throw new Refused(`There is no “${m[0]}”.`)
}

const NUMBERS: Record<string, number> = { two: 2, three: 3, four: 4, five: 5, six: 6, seven: 7, eight: 8 }
const TIMES: Record<string, string> = { first: '1', second: '2', third: '3', fourth: '4', last: 'last' }
/** ", first four", " the last 2 counts": a piece of what is named before it. */
const PIECE = new RegExp(
  String.raw`^(.*?)[\s,]+(?:the\s+)?(first|last)\s+(\d{1,2}|${Object.keys(NUMBERS).join('|')})(?:\s+counts?)?$`,
  'i',
)
/** "the 2nd chorus", "second chorus". */
const NTH = new RegExp(
  String.raw`^(?:the\s+)?(?:(\d{1,2})(?:st|nd|rd|th)|(${Object.keys(TIMES).join('|')}))\s+(\p{L}[\p{L}\p{M}'-]*)(.*)$`,
  'iu',
)

/**
 * A piece of the dance by any of its names: as the page prints it, in short ("chorus 2", "chorus 2, 5"), or as people say it:
 * "the 2nd chorus, first four", "chorus, eight 3, last 2".
 * @throws Refused naming what there is not
 */
export function readPiece(placed: readonly PlacedPhrase[], text: string, here: PlacedPhrase | null): Stretch {
  const part = PIECE.exec(text.trim())
  const said = (part ? (part[1] as string) : text).trim()
  const nth = NTH.exec(said)
  const time = nth && (nth[1] ?? TIMES[(nth[2] as string).toLowerCase()])
  const words = nth && time !== 'last' ? `${nth[3]} ${time}${nth[4]}` : said.replace(/^the\s+/i, '')
  const found = named(placed, words, here)
  if (!part) return found
  const counts = NUMBERS[(part[3] as string).toLowerCase()] ?? Number(part[3])
  const length = counts * TICKS_PER_COUNT
  if (!length || length > found.to - found.from) throw new Refused(`“${said}” has no ${counts} counts.`)
  return (part[2] as string).toLowerCase() === 'first'
    ? { from: found.from, to: found.from + length }
    : { from: found.to - length, to: found.to }
}

function named(placed: readonly PlacedPhrase[], words: string, here: PlacedPhrase | null): Stretch {
  const short = SHORT.exec(words)
  const found = short && foundShort(placed, short)
  if (!found) return readStretch(placed, words, here)
  if (found.tick !== null && found.phrase) return { from: found.tick, to: found.tick + TICKS_PER_COUNT }
  if (found.phrase) return { from: found.phrase.start, to: found.phrase.end }
  const rows = placed.filter((p) => p.title === found.section)
  return { from: (rows[0] as PlacedPhrase).start, to: (rows.at(-1) as PlacedPhrase).end }
}
