import { type Feel, TICKS_PER_COUNT, type Ticks, usualLength } from '../../time'
import type { Side } from '../document/cue-words'
import { mirrorText, otherSide } from '../document/other-side'
import { Refused } from '../gate/refused'
import type { LineCue, LineProblem } from './line'

/** Where a cue of a line stands, and the size of the count its end was named by. */
export interface LinePlace {
  at: Ticks
  length: Ticks
  unit: Ticks
}

/** Sides in turn, beginning with one: "R/L". */
export const TURNS: Record<string, Side> = { 'R/L': 'right', 'L/R': 'left' }

/**
 * The places of a run, one a count: a stretch is divided into counts of the size it was named by, "1-4" into four, "1-2&" into
 * four halves; counts that were named singly stay as they are.
 */
export function eachOf(places: readonly LinePlace[], feel: Feel): LinePlace[] {
  const [only] = places
  if (places.length !== 1 || !only || only.length <= only.unit) return [...places]
  const out: LinePlace[] = []
  for (let at = only.at; at < only.at + only.length; at += only.unit)
    out.push({ at, length: Math.min(only.unit, usualLength(at, feel)), unit: only.unit })
  return out
}

/** The side of the n-th of a run. */
export const sideInTurn = (first: Side, n: number): Side => (n % 2 === 0 ? first : otherSide(first))

/** "as 1-4", "as 1-4 other side", "as chorus 2, first four": what is danced like an earlier part of the line, or another place. */
export const AS = /^as\s+(\S(?:.*?\S)?)(?:[\s,]+(?:to\s+)?(?:the\s+)?(other side|mirrored))?$/

/** What one layer dances at a place somebody names, counted from there. @throws Refused where there is no such place */
export type Elsewhere = (place: string) => { length: Ticks; cues: readonly LineCue[] }

/** A cue of a line once more, some ticks later. */
export const copyOf = (c: LineCue, by: Ticks, mirrored: boolean): LineCue => ({
  ...c,
  at: c.at + by,
  ...(mirrored ? { side: otherSide(c.side), move: mirrorText(c.move), call: mirrorText(c.call) } : {}),
})

/**
 * What is danced at a place like another one of the page: all of it, or its beginning where it is longer.
 * @param m as `AS` reads it
 * @param end of the phrase, in ticks
 */
export function cuesElsewhere(
  m: RegExpExecArray,
  place: LinePlace,
  end: Ticks,
  elsewhere: Elsewhere | undefined,
  problem: (why: string) => LineProblem,
): LineCue[] {
  if (!elsewhere) throw problem('no other place can be named here')
  let found: ReturnType<Elsewhere>
  try {
    found = elsewhere(m[1] as string)
  } catch (error) {
    if (error instanceof Refused)
      throw problem(`${error.message.replace(/\.$/, '')} (a move that begins with “as” stands in quotes)`)
    throw error
  }
  // Where one count alone is named, it begins there.
  const room = place.length > place.unit || place.length === end ? place.length : end - place.at
  if (place.length > place.unit && found.length < room)
    throw problem(`${countsOf(room)} cannot be danced as ${countsOf(found.length)}`)
  const cues = found.cues.filter((c) => c.at >= 0 && c.at < room)
  if (!cues.length) throw problem('nothing stands there in this layer')
  return cues.map((c) => copyOf(c, place.at, m[2] !== undefined))
}

/** What was probably meant by a piece of a line that cannot be read; null where nothing comes to mind. */
export function probably(piece: string): string | null {
  const text = piece.trim()
  const rules: readonly [RegExp, (m: RegExpExecArray) => string][] = [
    [
      /^(\d{1,2}[&ea]?(?:\s+\d{1,2}[&ea]?)*)\s+x(\d{1,2})\s+(\S.*)$/,
      (m) => {
        const times = Number(m[2])
        const counts = (m[1] as string).split(/\s+/)
        // On from the last that is named, one a count.
        while (counts.length < times) counts.push(String(Number.parseInt(counts.at(-1) as string, 10) + 1))
        return `${counts.slice(0, times).join(' ')} ${m[3]} x${times}`
      },
    ],
    [/^(\d{1,2}[&ea]?)\s*[-–—]\s*(\d{1,2}[&ea]?)\s+(\S.*)$/, (m) => `${m[1]}-${m[2]} ${m[3]}`],
    [/^(\d{1,2})\s+(&|e|a)\s+(\S.*)$/, (m) => `${m[1]}${m[2]} ${m[3]}`],
    [
      /^(\d{1,2}[&ea]?)((?:\s*(?:,|\/|\+|and)\s*\d{1,2}[&ea]?)+)\s+(\S.*)$/,
      (m) =>
        `${[m[1], ...(m[2] as string).split(/\s*(?:,|\/|\+|and)\s*/).filter(Boolean)].join(' ')} ${m[3]}`,
    ],
    [/^(\d{1,2}[&ea]?)[.:)]\s*(\S.*)$/, (m) => `${m[1]} ${m[2]}`],
    [/^(\d{1,2}&?)(\p{L}{2,}.*)$/u, (m) => `${m[1]} ${m[2]}`],
    [
      /^(\p{L}.*?)\s+(?:on\s+)?(\d{1,2}[&ea]?(?:-\d{1,2}[&ea]?)?)(\s+(?:LR|L|R))?$/u,
      (m) => `${m[2]} ${m[1]}${m[3] ?? ''}`,
    ],
    [/^(.*\S)\s+([lr])$/, (m) => `${m[1]} ${(m[2] as string).toUpperCase()}`],
  ]
  for (const [pattern, says] of rules) {
    const m = pattern.exec(text)
    if (m) return says(m)
  }
  return null
}

/** Counts of a stretch, as people say it. */
export const countsOf = (length: Ticks): string => {
  const n = length / TICKS_PER_COUNT
  return `${Number.isInteger(n) ? n : n.toFixed(1)} ${n === 1 ? 'count' : 'counts'}`
}

/** What nobody calls a move, but types by mistake; in quotes it may be one. */
export const SLIP = /^(?:x\d|[-–—&+,/.:)]|and\s+\d)|\s[lr]$/

/**
 * What a line's last cues say of their foot, where it may not be meant: one side over several counts, or the same side again
 * and again. '' where there is nothing to say.
 * @param cues of the line, in order of place
 */
export function footHint(cues: readonly { move: string; side: Side; length: Ticks }[]): string {
  const last = cues.at(-1)
  if (!last || (last.side !== 'left' && last.side !== 'right')) return ''
  const [one, other] = last.side === 'left' ? ['L', 'R'] : ['R', 'L']
  if (last.length >= 2 * TICKS_PER_COUNT)
    return `One “${last.move}” that lasts ${countsOf(last.length)}, ${one}. One a count, sides in turn: ${one}/${other}`
  let same = 0
  while (cues.at(-1 - same)?.move === last.move && cues.at(-1 - same)?.side === last.side) same++
  return same > 1 ? `“${last.move}” ${same} times, each ${one}. Sides in turn: ${one}/${other}` : ''
}
