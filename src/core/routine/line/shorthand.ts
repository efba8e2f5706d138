import { namedOffsets, subCountName, TICKS_PER_COUNT, type Ticks, usualLength } from '../../time'
import { wordEnds } from '../../writing/word-edges'
import type { Option, Side } from '../document/cue-words'
import { LIMITS } from '../document/limits'
import { withShapes } from '../document/other-side'
import { type LineCue, type LinePhrase, LineProblem } from './line'
import {
  AS,
  copyOf,
  countsOf,
  cuesElsewhere,
  type Elsewhere,
  eachOf,
  type LinePlace,
  probably,
  SLIP,
  sideInTurn,
  TURNS,
} from './line-runs'

const SIDE_WORDS: Record<string, Side> = { L: 'left', R: 'right', LR: 'both' }

const LABEL = new RegExp(String.raw`^(\d{1,2})(?:(e|&|a)${wordEnds()}|\+(\d{1,2})\/24)?`, 'u')

/** Reads one count label at the start of a text; null when there is none. */
function labelAt(text: string, p: LinePhrase): { tick: Ticks; size: number } | null {
  const m = LABEL.exec(text)
  if (!m) return null
  const offset = m[3]
    ? Number(m[3])
    : (namedOffsets(p.feel).find((o) => subCountName(o, p.feel) === (m[2] ?? '')) ?? -1)
  if (offset < 0 || offset > 23) return null
  return { tick: (Number(m[1]) - p.first) * TICKS_PER_COUNT + offset, size: m[0].length }
}

/**
 * Reads one line: cues separated by `;`, each with its counts, its move and what belongs to it.
 *
 * `1 step R` · `3& ball-change L` · `5-6 slow roll` (to the end of 6) · `5-6& roll` (to the end of 6&) ·
 * `7& 8 clap x2` (on both) · `1-4 walk R/L` (one a count, right and left in turn) · `5-8 as 1-4`, `5-8 as 1-4 other side`
 * (what stands on 1 to 4 of this line, once more) · `5-8 as chorus 2, first four` (what this layer dances there) ·
 * `5*1/2 tap R` (half a count long) · side `L`, `R`, `LR` · `[word to call]` · `@role` · `#easier`. A move in "quotes" is
 * taken letter by letter.
 * @param elsewhere finds what is danced at a named place; without it no place is known
 * @throws LineProblem naming the character
 */
export function parseLine(line: string, phrase: LinePhrase, elsewhere?: Elsewhere): LineCue[] {
  const out: LineCue[] = []
  const later: (() => void)[] = []
  let at = 0
  for (const piece of linePieces(line)) {
    if (piece.trim()) {
      const read = explained(piece, () => cuesOf(piece, at, phrase, elsewhere), phrase)
      if (Array.isArray(read)) out.push(...read)
      // What is danced like another part of the line waits for the line.
      else later.push(() => out.push(...copiesOf(read, out)))
    }
    at += piece.length + 1
  }
  for (const copy of later) copy()
  return out.sort((a, b) => a.at - b.at)
}

/** What a piece says; where it cannot be read, what was probably meant is said with the reason. */
function explained(piece: string, read: () => LineCue[] | Again, phrase: LinePhrase): LineCue[] | Again {
  try {
    return read()
  } catch (error) {
    const meant = error instanceof LineProblem ? probably(piece) : null
    if (!(error instanceof LineProblem) || meant === null || meant === piece.trim()) throw error
    try {
      cuesOf(meant, 0, phrase)
    } catch {
      throw error
    }
    throw new LineProblem(`${error.why}. Perhaps “${meant}”?`, error.at)
  }
}

/** A part of a line that is danced like another. */
interface Again {
  from: Ticks
  to: Ticks
  at: Ticks
  mirrored: boolean
  problem: (why: string) => LineProblem
}

function copiesOf({ from, to, at, mirrored, problem }: Again, line: readonly LineCue[]): LineCue[] {
  const found = line.filter((c) => c.at >= from && c.at < to)
  if (!found.length) throw problem('nothing stands there in this line')
  return found.map((c) => copyOf(c, at - from, mirrored))
}

/** Cuts at semicolons that are not in quotes. */
export function linePieces(line: string): string[] {
  const out: string[] = []
  let from = 0
  let quoted = false
  for (let i = 0; i <= line.length; i++) {
    if (line[i] === '\\' && quoted) i++
    else if (line[i] === '"') quoted = !quoted
    else if (i === line.length || (line[i] === ';' && !quoted)) {
      out.push(line.slice(from, i))
      from = i + 1
    }
  }
  if (quoted) throw new LineProblem('these quotes are not closed', line.lastIndexOf('"'))
  return out
}

function cuesOf(piece: string, offset: number, phrase: LinePhrase, elsewhere?: Elsewhere): LineCue[] | Again {
  let i = piece.length - piece.trimStart().length
  const fail = (why: string, at = i) => new LineProblem(why, offset + at)
  const end = phrase.length * TICKS_PER_COUNT
  const last = phrase.first + phrase.length - 1
  const read = (): Ticks => {
    const found = labelAt(piece.slice(i), phrase)
    if (!found) throw fail('expected a count, as in 3 or 3&')
    if (found.tick < 0 || found.tick >= end)
      throw fail(`this phrase has the counts ${phrase.first} to ${last}`)
    i += found.size
    return found.tick
  }
  const whole = AS.exec(piece.trim())
  if (whole) {
    const place = { at: 0, length: end, unit: end }
    return cuesElsewhere(whole, place, end, elsewhere, (why) => fail(why))
  }
  const places: LinePlace[] = []
  for (;;) {
    const begun = i
    const at = read()
    let length = usualLength(at, phrase.feel)
    let unit = length
    const star = /^\*(\d{1,3})(?:\/(\d{1,2}))?/.exec(piece.slice(i))
    if (piece[i] === '-') {
      i++
      const to = read()
      if (to <= at) throw fail('this ends before it begins', begun)
      unit = usualLength(to, phrase.feel)
      length = to + unit - at
    } else if (star) {
      const ticks = (Number(star[1]) / Number(star[2] ?? 1)) * TICKS_PER_COUNT
      if (!Number.isInteger(ticks) || ticks < 1) throw fail('counts divide into 24 parts')
      i += star[0].length
      length = ticks
      unit = ticks
    }
    places.push({ at, length, unit })
    const gap = /^\s+/.exec(piece.slice(i))
    if (!gap) {
      if (i < piece.length) throw fail('expected a blank after the count')
      break
    }
    i += gap[0].length
    if (!labelAt(piece.slice(i), phrase) || !/^[\d&ea+*/-]+(\s|$)/.test(piece.slice(i))) break
  }
  const long = places.find((p) => p.length > LIMITS.cueLength)
  if (long) throw fail(`a cue lasts ${LIMITS.cueLength / TICKS_PER_COUNT} counts at most`, 0)
  const again = AS.exec(piece.slice(i).trim())
  const [place] = places
  if (again && place && places.length === 1 && /\p{L}{2}/u.test(again[1] as string))
    return cuesElsewhere(again, place, end, elsewhere, (why) => fail(why))
  if (again) return againOf(again, places, phrase, (why) => fail(why))
  const { move, inTurn, ...rest } = wordsOf(piece.slice(i), offset + i)
  for (const [what, said] of [
    ['move', move.text],
    ['call', rest.call],
    ['role', rest.role],
  ] as const)
    if (said.length > LIMITS.text) throw fail(`a ${what} has ${LIMITS.text} letters at most`)
  const times = /^(.*\S)\s+x(\d{1,2})$/.exec(move.text)
  let text = move.text
  if (!move.quoted && places.length > 1 && times) {
    if (Number(times[2]) !== places.length) throw fail(`x${times[2]}, but ${places.length} counts are named`)
    text = times[1] as string
  }
  if (!text) throw fail('expected a move after the count', piece.trimEnd().length)
  if (!move.quoted && SLIP.test(text)) throw fail('this is no move')
  if (!inTurn) return places.map(({ at, length }) => ({ at, length, move: text, ...rest }))
  const each = eachOf(places, phrase.feel)
  if (each.length < 2) throw fail('sides in turn go over several counts, as in 1-4 walk R/L')
  return each.map(({ at, length }, n) => ({
    ...{ at, length, move: text, ...rest },
    side: sideInTurn(rest.side, n),
  }))
}

function againOf(
  m: RegExpExecArray,
  places: readonly LinePlace[],
  phrase: LinePhrase,
  problem: (why: string) => LineProblem,
): Again {
  const label = (text: string) => {
    const found = labelAt(text, phrase)
    return found && found.size === text.length ? found.tick : null
  }
  const [begin = '', until = begin] = (m[1] as string).split('-')
  const [from, last] = [label(begin), label(until)]
  const [place] = places
  if (from === null || last === null || !place || places.length > 1)
    throw problem('say it as in 5-8 as 1-4, or 5-8 as 1-4 other side')
  const to = last + usualLength(last, phrase.feel)
  const one = place.length === place.unit && to - from > place.length
  if (!one && to - from !== place.length)
    throw problem(`${countsOf(place.length)} cannot be danced as ${countsOf(to - from)}`)
  if (place.at + to - from > phrase.length * TICKS_PER_COUNT)
    throw problem('that goes past the end of the phrase')
  return { from, to, at: place.at, mirrored: m[2] !== undefined, problem }
}

const unquoted = (text: string) =>
  text.startsWith('"') ? text.slice(1, -1).replace(/\\(.)/g, '$1') : text.trim()

interface Words {
  move: { text: string; quoted: boolean }
  side: Side
  /** The side is the first of several in turn. */
  inTurn: boolean
  call: string
  role: string
  option: Option | null
  step?: 'hold' | 'open'
}

/** A version is named, or that it is held or free: in every version, or in the one that is named beside it. */
function tagged(out: Words, option: Option, problem: (why: string) => LineProblem) {
  const waits = option === 'hold' || option === 'open' ? option : null
  const was = out.option === 'hold' || out.option === 'open' ? out.option : null
  if (out.option === null) out.option = option
  else if (out.step || Boolean(waits) === Boolean(was)) throw problem('a cue is of one version')
  else {
    out.step = (waits ?? was) as 'hold' | 'open'
    out.option = waits ? out.option : option
  }
}

function wordsOf(text: string, offset: number): Words {
  let rest = text.trim()
  let quoted: string | null = null
  if (rest.startsWith('"')) {
    const m = /^"((?:[^"\\]|\\.)*)"/.exec(rest)
    if (!m) throw new LineProblem('these quotes are not closed', offset)
    // What is taken as it is stays so to the other side, but for letters written with a stroke before them.
    quoted = withShapes(m[1] as string).replace(/\\(.)/g, '$1')
    rest = rest.slice(m[0].length)
    if (rest && !/^\s/.test(rest))
      throw new LineProblem('expected a blank after the quotes', offset + m[0].length)
  }
  const out: Words = {
    move: { text: '', quoted: quoted !== null },
    side: 'none',
    inTurn: false,
    call: '',
    role: '',
    option: null,
  }
  // What belongs to the move stands behind it, from the end: #option, @role, [call], side.
  for (;;) {
    const m =
      /(?:^|\s)(#("(?:[^"\\]|\\.)*"|[^\s"@#[\]]+)|@("(?:[^"\\]|\\.)*"|[^\s"@#[\]]+)|\[("(?:[^"\\]|\\.)*"|[^\]"]*)\]|(LR|L\/R|R\/L|L|R))\s*$/u.exec(
        rest,
      )
    if (!m) break
    const where = offset + text.lastIndexOf(m[1] as string)
    if (m[2] !== undefined) {
      const option = unquoted(m[2])
      if (!option || option.length > LIMITS.option || /["\\]|\s{2}|^\s|\s$/.test(option))
        throw new LineProblem(
          `a version's name has ${LIMITS.option} letters at most, and no quotes in it`,
          where,
        )
      tagged(out, option, (why) => new LineProblem(why, where))
    } else if (m[3] !== undefined) out.role = unquoted(m[3])
    else if (m[4] !== undefined) out.call = unquoted(m[4])
    else {
      out.inTurn = TURNS[m[5] as string] !== undefined
      out.side = (TURNS[m[5] as string] ?? SIDE_WORDS[m[5] as string]) as Side
      rest = rest.slice(0, m.index)
      break
    }
    rest = rest.slice(0, m.index)
  }
  rest = rest.trim()
  if (quoted !== null && rest)
    throw new LineProblem(`“${rest}” stands between the quotes and the side`, offset + text.indexOf(rest))
  out.move.text = quoted ?? rest.replace(/\s+/g, ' ')
  return out
}
