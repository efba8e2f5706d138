import {
  countLabel,
  type Feel,
  namedOffsets,
  subCountName,
  TICKS_PER_COUNT,
  type Ticks,
  usualLength,
} from '../time'
import { type Cue, OPTIONS, type Option, type Side } from './cue-schema'
import { LIMITS } from './limits'

/** One cue of a line: its place counted from the first tick of its phrase. */
export interface LineCue {
  at: Ticks
  length: Ticks
  move: string
  side: Side
  call: string
  role: string
  option: Option | null
}

/** A phrase as far as a line must know it. */
export interface LinePhrase {
  length: number
  feel: Feel
  /** Number of its first count: 1, or more for a pick-up. */
  first: number
}

/** A line that cannot be read: where, counted from 0, and why. */
export class LineProblem extends Error {
  constructor(
    readonly why: string,
    readonly at: number,
  ) {
    super(`Character ${at + 1}: ${why}`)
  }
}

const SIDE_WORDS: Record<string, Side> = { L: 'left', R: 'right', LR: 'both' }
const SIDE_LETTERS: Record<Side, string> = { none: '', left: 'L', right: 'R', both: 'LR' }

/** Reads one count label at the start of a text; null when there is none. */
function labelAt(text: string, p: LinePhrase): { tick: Ticks; size: number } | null {
  const m = /^(\d{1,2})(?:(e|&|a)(?![\p{L}\p{N}])|\+(\d{1,2})\/24)?/u.exec(text)
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
 * `7& 8 clap x2` (on both) · `5*1/2 tap R` (half a count long) · side `L`, `R`, `LR` · `[word to call]` · `@role` ·
 * `#easier`. A move in "quotes" is taken letter by letter.
 * @throws LineProblem naming the character
 */
export function parseLine(line: string, phrase: LinePhrase): LineCue[] {
  const out: LineCue[] = []
  let at = 0
  for (const piece of pieces(line)) {
    if (piece.trim()) out.push(...cuesOf(piece, at, phrase))
    at += piece.length + 1
  }
  return out.sort((a, b) => a.at - b.at)
}

/** Cuts at semicolons that are not in quotes. */
function pieces(line: string): string[] {
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

function cuesOf(piece: string, offset: number, phrase: LinePhrase): LineCue[] {
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
  const places: { at: Ticks; length: Ticks }[] = []
  for (;;) {
    const begun = i
    const at = read()
    let length = usualLength(at, phrase.feel)
    const star = /^\*(\d{1,3})(?:\/(\d{1,2}))?/.exec(piece.slice(i))
    if (piece[i] === '-') {
      i++
      const to = read()
      if (to <= at) throw fail('this ends before it begins', begun)
      length = to + usualLength(to, phrase.feel) - at
    } else if (star) {
      const ticks = (Number(star[1]) / Number(star[2] ?? 1)) * TICKS_PER_COUNT
      if (!Number.isInteger(ticks) || ticks < 1) throw fail('counts divide into 24 parts')
      i += star[0].length
      length = ticks
    }
    places.push({ at, length })
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
  const { move, ...rest } = wordsOf(piece.slice(i), offset + i)
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
  return places.map((p) => ({ ...p, move: text, ...rest }))
}

const unquoted = (text: string) =>
  text.startsWith('"') ? text.slice(1, -1).replace(/\\(.)/g, '$1') : text.trim()

interface Words {
  move: { text: string; quoted: boolean }
  side: Side
  call: string
  role: string
  option: Option | null
}

function wordsOf(text: string, offset: number): Words {
  let rest = text.trim()
  let quoted: string | null = null
  if (rest.startsWith('"')) {
    const m = /^"((?:[^"\\]|\\.)*)"/.exec(rest)
    if (!m) throw new LineProblem('these quotes are not closed', offset)
    quoted = (m[1] as string).replace(/\\(.)/g, '$1')
    rest = rest.slice(m[0].length)
    if (rest && !/^\s/.test(rest))
      throw new LineProblem('expected a blank after the quotes', offset + m[0].length)
  }
  const out: Words = {
    move: { text: '', quoted: quoted !== null },
    side: 'none',
    call: '',
    role: '',
    option: null,
  }
  // What belongs to the move stands behind it, from the end: #option, @role, [call], side.
  for (;;) {
    const m =
      /(?:^|\s)(#([a-z]+)|@("(?:[^"\\]|\\.)*"|[^\s"@#[\]]+)|\[("(?:[^"\\]|\\.)*"|[^\]"]*)\]|(LR|L|R))\s*$/u.exec(
        rest,
      )
    if (!m) break
    const where = offset + text.lastIndexOf(m[1] as string)
    if (m[2] !== undefined) {
      if (!OPTIONS.includes(m[2] as Option))
        throw new LineProblem(`#${m[2]} is none of ${OPTIONS.map((o) => `#${o}`).join(', ')}`, where)
      out.option = m[2] as Option
    } else if (m[3] !== undefined) out.role = unquoted(m[3])
    else if (m[4] !== undefined) out.call = unquoted(m[4])
    else {
      out.side = SIDE_WORDS[m[5] as string] as Side
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

/** Prints cues of one phrase as a line; reading it gives the same cues again. */
export function printLine(cues: readonly LineCue[], phrase: LinePhrase): string {
  return [...cues]
    .sort((a, b) => a.at - b.at)
    .map((c) => {
      const words = [`${label(c.at, phrase)}${span(c, phrase)}`, moveText(c.move)]
      if (c.side !== 'none') words.push(SIDE_LETTERS[c.side])
      if (c.call) words.push(`[${PLAIN.test(c.call) ? c.call : quotedText(c.call)}]`)
      if (c.role) words.push(`@${/^[\p{L}\p{N}_-]+$/u.test(c.role) ? c.role : quotedText(c.role)}`)
      if (c.option) words.push(`#${c.option}`)
      return words.join(' ')
    })
    .join('; ')
}

const label = (tick: Ticks, p: LinePhrase) => countLabel(tick, p.feel, p.first)
/** Words that need no quotes. */
const PLAIN = /^[\p{L}\p{N}](?:[\p{L}\p{N} '’&.,!?-]*[\p{L}\p{N}'’&.,!?-])?$/u
const quotedText = (text: string) => `"${text.replace(/["\\]/g, '\\$&')}"`

/** How long it lasts, where that is not the usual: up to a named place, else in parts of a count. */
function span({ at, length }: LineCue, p: LinePhrase): string {
  if (length === usualLength(at, p.feel)) return ''
  const end = at + length
  const unit = [TICKS_PER_COUNT, ...(p.feel === 'triplet' ? [8] : [12, 6])].find((u) => {
    const to = end - u
    const named = subCountName(((to % TICKS_PER_COUNT) + TICKS_PER_COUNT) % TICKS_PER_COUNT, p.feel)
    return to > at && named !== null && usualLength(to, p.feel) === u && end <= p.length * TICKS_PER_COUNT
  })
  if (unit) return `-${label(end - unit, p)}`
  let [n, d] = [length, TICKS_PER_COUNT]
  for (const f of [2, 2, 2, 3]) if (n % f === 0 && d % f === 0) [n, d] = [n / f, d / f]
  return d === 1 ? `*${n}` : `*${n}/${d}`
}

/** A move as it is, or in quotes where it would be read as something else. */
function moveText(move: string): string {
  const odd =
    /[;"\\]/.test(move) ||
    /\s{2}|^\s|\s$/.test(move) ||
    /(?:^|\s)(?:LR|L|R|#\S+|@\S+|\[.*\]|x\d{1,2})$/.test(move) ||
    /^[\d"]/.test(move) ||
    /[^\S ]/.test(move) ||
    /[[\]@#]/.test(move)
  return odd ? quotedText(move) : move
}

/** A cue of the routine as a cue of its line. */
export function lineCue(cue: Cue, phraseStart: Ticks): LineCue {
  return {
    at: cue.at - phraseStart,
    length: cue.length,
    move: cue.move,
    side: cue.side,
    call: cue.call,
    role: cue.role ?? '',
    option: cue.option ?? null,
  }
}
