import { clockText, lastAtOrBefore, type Seconds, TICKS_PER_COUNT, type Ticks } from '../time'
import type { PlacedPhrase } from './layout'
import { readStretch } from './names'
import { Refused } from './refused'

/** "2:33", "2.33,5", "153 s": a time of the song. */
const TIME = /^(?:(\d{1,3})[:.](\d{2}(?:[.,]\d+)?)|(\d{1,5}(?:[.,]\d+)?)\s*s)$/

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
  // The count that sounds then: a little before a count is that count.
  const count = lastAtOrBefore(times, seconds + 0.06)
  const end = times[last] as Seconds
  if (seconds > end + 4) throw new Refused(`The counts end at ${clockText(end)}.`)
  return Math.max(0, Math.min(last, count)) * TICKS_PER_COUNT
}

/** @returns null where no section is called that */
function atShort(placed: readonly PlacedPhrase[], m: RegExpExecArray): Ticks | null {
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
  let found: Ticks | null
  if (time === undefined) {
    const eight = eightOf(alike[0], a)
    found = b === undefined ? (eight?.start ?? null) : on(eight, b)
  } else {
    const [first, eight] = [eightOf(time, 1), b === undefined ? null : eightOf(time, b)]
    if (b === undefined) found = first?.start ?? null
    else found = c === undefined ? (eight?.start ?? on(first, b)) : on(eight, c)
  }
  if (found === null) throw new Refused(`There is no “${m[0]}”.`)
  return found
}
