import { countLabel, subCountName, TICKS_PER_COUNT, type Ticks, usualLength } from '../../time'
import type { Cue } from '../document/cue-schema'
import type { Side } from '../document/cue-words'
import { withLetters } from '../document/other-side'
import type { LineCue, LinePhrase } from './line'
import { AS, SLIP } from './line-runs'

const SIDE_LETTERS: Record<Side, string> = { none: '', left: 'L', right: 'R', both: 'LR' }

/** Prints cues of one phrase as a line; reading it gives the same cues again. */
export function printLine(cues: readonly LineCue[], phrase: LinePhrase): string {
  return [...cues]
    .sort((a, b) => a.at - b.at)
    .map((c) => {
      const words = [`${label(c.at, phrase)}${span(c, phrase)}`, moveText(c.move)]
      if (c.side !== 'none') words.push(SIDE_LETTERS[c.side])
      if (c.call) words.push(`[${PLAIN.test(c.call) ? c.call : quotedText(c.call)}]`)
      if (c.role) words.push(`@${/^[\p{L}\p{N}_-]+$/u.test(c.role) ? c.role : quotedText(c.role)}`)
      if (c.step) words.push(`#${c.step}`)
      if (c.option) words.push(`#${/^[\p{L}\p{N}_-]+$/u.test(c.option) ? c.option : quotedText(c.option)}`)
      return words.join(' ')
    })
    .join('; ')
}

const label = (tick: Ticks, p: LinePhrase) => countLabel(tick, p.feel, p.first)
/** Words that need no quotes. */
const PLAIN = /^[\p{L}\p{N}](?:[\p{L}\p{N} '’&.,!?-]*[\p{L}\p{N}'’&.,!?-])?$/u
const escaped = (text: string) => text.replace(/["\\]/g, '\\$&')
const quotedText = (text: string) => `"${escaped(text)}"`

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
    /(?:^|\s)(?:LR|L\/R|R\/L|L|R|#\S+|@\S+|\[.*\]|x\d{1,2})$/.test(move) ||
    SLIP.test(move) ||
    // With a side or a call behind it, “as” alone would be read as “danced as”.
    AS.test(`${move} x`) ||
    /^[\d"]/.test(move) ||
    /[^\S ]/.test(move) ||
    /[[\]@#]/.test(move)
  // Letters in it that are sides are told from shapes by a stroke before them.
  return odd ? `"${withLetters(escaped(move), (letter) => `\\${letter}`)}"` : move
}

/** True for what is held or free in one version alone. */
export const waitsInVersion = ({ option, step }: Pick<Cue, 'option' | 'step'>): boolean =>
  (step === 'hold' || step === 'open') && !EVERY.has(option ?? 'base')
const EVERY = new Set(['base', 'hold', 'open'])

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
    ...(waitsInVersion(cue) ? { step: cue.step as 'hold' | 'open' } : {}),
  }
}
