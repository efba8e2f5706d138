import { type Seconds, type Stretch, TICKS_PER_COUNT, type Ticks } from '../../time'
import { type PlacedPhrase, phraseAt } from '../counts/layout'
import { tickNear } from '../counts/marks'
import type { Routine } from '../document/schema'
import { Refused } from '../gate/refused'
import { type Dance, danceOf } from '../repeats/dance'
import { danced } from '../repeats/repeats'
import { isTime, readPiece, readPlace } from './go-to'
import { stretchName } from './names'

/*
 * Pointing at counts by any of the names an instructor uses: as the page prints them, by a section's letter and number ("B3"),
 * by the name of an own part, by a move ("from the walk to the second kick"), by a time, by a sound that was marked.
 */

/** What words may mean. */
export interface Meant {
  stretch: Stretch
  /** What it is called on the page. */
  name: string
}

/** The page that is pointed at. */
export interface Page {
  routine: Dance & Pick<Routine, 'parts' | 'marks'>
  placed: readonly PlacedPhrase[]
  times: readonly Seconds[]
  /** The phrase that is meant where none is named. */
  here: PlacedPhrase | null
}

/** More ways to take some words than this are not offered. */
const MOST = 8

const ORDINALS: Record<string, number> = { first: 1, second: 2, third: 3, fourth: 4, fifth: 5, last: -1 }
const NUMBERS: Record<string, number> = { two: 2, three: 3, four: 4, five: 5, six: 6, seven: 7, eight: 8 }
/** "…, first four", "… the last 2 counts": a piece of what is named before it. */
const PIECE = new RegExp(
  String.raw`^(.+?)[\s,]+(?:the\s+)?(first|last)\s+(\d{1,2}|${Object.keys(NUMBERS).join('|')})(?:\s+counts?)?$`,
  'i',
)
/** "second kick", "the 2nd kick", "last turn". */
const NTH = new RegExp(
  String.raw`^(?:(\d{1,2})(?:st|nd|rd|th)|(${Object.keys(ORDINALS).join('|')}))\s+(.+)$`,
  'i',
)
const ROW = /^(\p{Lu}{1,2}|\p{Ll})\s?(\d{1,2})?$/u
const FROM = /^from\s+(.+)$/i
const UP_TO = /^(?:up\s+)?(to|until)\s+(.+)$/i
const BOTH = /\s+(?:up\s+)?(to|until)\s+/gi

const plain = (text: string) =>
  text
    .toLowerCase()
    .replace(/[“”"]/gu, '')
    .replace(/^the\s+/u, '')
    .trim()

/** One of some, by number from 1, from the end where it is negative; all of them where none is asked for. */
function nth<T>(all: readonly T[], n: number | null): readonly T[] {
  if (n === null) return all
  const one = all.at(n > 0 ? n - 1 : n)
  return one === undefined ? [] : [one]
}

function ordinalOf(text: string): { n: number | null; rest: string } {
  const m = NTH.exec(text)
  if (!m) return { n: null, rest: text }
  return { n: m[1] ? Number(m[1]) : (ORDINALS[(m[2] as string).toLowerCase()] ?? null), rest: m[3] as string }
}

const endOf = ({ placed }: Page): Ticks => placed.at(-1)?.end ?? 0

/** Rows by their section's letter and number as printed, "B3"; a letter alone is its sections. */
function rowsNamed({ placed }: Page, text: string): Stretch[] {
  const m = ROW.exec(text)
  if (!m) return []
  const letter = (m[1] as string).toUpperCase()
  const rows = placed.filter((p) => p.section?.letter === letter)
  if (m[2]) return rows.filter((p) => !p.phrase.pickUp && p.inSection === Number(m[2])).map(rowOf)
  const sections = [...new Set(rows.map((p) => p.section))]
  return sections.map((s) => {
    const own = rows.filter((p) => p.section === s)
    return { from: (own[0] as PlacedPhrase).start, to: (own.at(-1) as PlacedPhrase).end }
  })
}

const rowOf = (p: PlacedPhrase): Stretch => ({ from: p.start, to: p.end })

/** Own parts called so, the ones called exactly so before those that begin so. */
function partsNamed(page: Page, text: string): Stretch[] {
  const parts = [...page.routine.parts].sort((a, b) => a.at - b.at)
  const wanted = plain(text)
  if (!wanted) return []
  const exact = parts.filter((p) => plain(p.name) === wanted)
  const found = exact.length ? exact : parts.filter((p) => plain(p.name).startsWith(wanted))
  return found.map((p) => ({ from: p.at, to: parts.find((q) => q.at > p.at)?.at ?? endOf(page) }))
}

/** True where all words stand in a text in their order, as whole words or beginnings of them. */
function says(text: string, words: readonly string[]): boolean {
  let i = 0
  for (const word of plain(text).split(/[^\p{L}\p{N}&/]+/u))
    if (word && words[i] && word.startsWith(words[i] as string)) i++
  return words.length > 0 && i === words.length
}

/** Moves called so, in the order they are danced; the same move in several layers at once is one. */
function movesNamed({ routine }: Page, text: string): Stretch[] {
  const { n, rest } = ordinalOf(plain(text))
  const words = plain(rest)
    .split(/[^\p{L}\p{N}&/]+/u)
    .filter(Boolean)
  if (!/\p{L}{2}/u.test(rest)) return []
  const starts = new Map<Ticks, Stretch>()
  for (const cue of danced(routine))
    if (says(cue.move, words)) {
      const to = Math.max(cue.at + cue.length, starts.get(cue.at)?.to ?? 0)
      starts.set(cue.at, { from: cue.at, to })
    }
  return [
    ...nth(
      [...starts.values()].sort((a, b) => a.from - b.from),
      n,
    ),
  ]
}

/** Counts nearest to sounds that were marked so. */
function soundsNamed({ routine, placed, times }: Page, text: string): Stretch[] {
  const { n, rest } = ordinalOf(plain(text))
  const wanted = plain(rest)
  const marks = routine.marks.filter((m) => m.kind === 'sound' && plain(m.text) === wanted)
  return nth(marks, n).map((m) => {
    const from = tickNear(times, placed, m.at)
    return { from, to: from + TICKS_PER_COUNT }
  })
}

/** A time of the song: the row that begins then, else the count. */
function timeNamed({ placed, times, here }: Page, text: string): Stretch[] {
  if (!isTime(text)) return []
  const from = readPlace(placed, times, text, here)
  const row = placed.find((p) => p.start === from)
  return [row ? rowOf(row) : { from, to: from + TICKS_PER_COUNT }]
}

const WHOLE = /^(all|everything|(whole )?(dance|song)|whole)$/
const [TOP, END] = [/^(top|start|beginning)$/, /^end$/]

/** All of the dance, or of the song; the count it begins with, and the one it ends with. */
function wholeNamed(page: Page, text: string): Stretch[] {
  const wanted = plain(text).replace(/^all of (the )?/, '')
  const dance = danceOf(page.routine)
  if (WHOLE.test(wanted)) return [wanted.endsWith('song') ? { from: 0, to: endOf(page) } : dance]
  if (TOP.test(wanted)) return [{ from: dance.from, to: dance.from + TICKS_PER_COUNT }]
  if (END.test(wanted)) return [{ from: dance.to - TICKS_PER_COUNT, to: dance.to }]
  return []
}

/** What the page itself prints, and short ways to say it; the reason where it is none of that. */
function printed({ placed, here }: Page, text: string): Stretch[] | Refused {
  try {
    return [readPiece(placed, text, here)]
  } catch (error) {
    if (error instanceof Refused) return error
    throw error
  }
}

/** Everything some words may name by themselves, the likeliest first. */
function named(page: Page, text: string): { found: Stretch[]; why: Refused | null } {
  const own = printed(page, text)
  const found = [
    ...partsNamed(page, text),
    // As the rows are marked, before "c 1" is taken for the chorus.
    ...rowsNamed(page, text),
    ...(own instanceof Refused ? [] : own),
    ...timeNamed(page, text),
    ...soundsNamed(page, text),
    ...movesNamed(page, text),
    ...wholeNamed(page, text),
  ]
  return { found, why: own instanceof Refused ? own : null }
}

/** "from the walk", "to the second kick", "from the walk until the turn". */
function between(page: Page, text: string): Stretch[] {
  const open = FROM.exec(text)
  const body = open ? (open[1] as string) : text
  for (const m of body.matchAll(BOTH)) {
    const [a, b] = [body.slice(0, m.index), body.slice((m.index ?? 0) + m[0].length)]
    const firsts = named(page, a.trim()).found
    const lasts = named(page, b.trim()).found
    const pairs = firsts.flatMap(({ from }) => {
      const last = lasts.find((l) => l.from >= from)
      const to = last && (m[1]?.toLowerCase() === 'until' ? last.from : last.to)
      return to !== undefined && to > from ? [{ from, to }] : []
    })
    if (pairs.length) return pairs
  }
  const dance = danceOf(page.routine)
  if (open)
    return named(page, body).found.flatMap(({ from }) => {
      const row = phraseAt(page.placed, from)
      // To the end of its eight, or of the dance; from the top all of it is meant.
      const ends = [row?.end ?? from, dance.to]
      return (TOP.test(plain(body)) ? ends.reverse() : ends).map((to) => ({ from, to }))
    })
  const upTo = UP_TO.exec(text)
  if (!upTo) return []
  return named(page, upTo[2] as string).found.flatMap((last) => {
    const to = (upTo[1] as string).toLowerCase() === 'until' ? last.from : last.to
    return to > dance.from ? [{ from: dance.from, to }] : []
  })
}

/** The first or last counts of what is named before them. */
function pieceOf(page: Page, text: string): Stretch[] {
  const m = PIECE.exec(text)
  if (!m) return []
  const length = (NUMBERS[(m[3] as string).toLowerCase()] ?? Number(m[3])) * TICKS_PER_COUNT
  return named(page, m[1] as string)
    .found.filter((s) => length > 0 && length <= s.to - s.from)
    .map(({ from, to }) =>
      (m[2] as string).toLowerCase() === 'first' ? { from, to: from + length } : { from: to - length, to },
    )
}

/**
 * What some words may mean on a page, the likeliest first; each stretch once.
 * @throws Refused with the reason where they mean nothing
 */
export function readPointing(page: Page, text: string): Meant[] {
  const said = text.trim()
  const { found, why } = named(page, said)
  const all = [...found, ...pieceOf(page, said), ...between(page, said)]
  const end = endOf(page)
  const once = new Map(
    all.filter((s) => s.to > s.from && s.from < end).map((s) => [`${s.from} ${s.to}`, s] as const),
  )
  if (!once.size) throw why ?? new Refused(`“${said}” names no place of the page.`)
  return [...once.values()]
    .slice(0, MOST)
    .map((stretch) => ({ stretch, name: stretchName(page.placed, stretch) }))
}
