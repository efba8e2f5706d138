import type { TimedText } from '../formats'
import { type Film, type FilmTake, type PlacedPhrase, stretchName } from '../routine'
import { clockText, type Ratio, type Seconds, TICKS_PER_COUNT, type Times, tickOfTime } from '../time'
import { filmTimeIn, songEndOf } from './takes'

/** A place of a film with its name. */
export interface FilmStamp {
  at: Seconds
  name: string
}

/** Takes that begin within so much of each other in the song, at one speed, are of the same dance. */
const SAME_PLACE: Seconds = 3
const SAME_SPEED = 0.04

const sameSpeed = (a: Ratio, b: Ratio) => Math.abs(Math.log(a / b)) < SAME_SPEED

/**
 * Takes that were broken off and danced again: a later take at the same speed shows all of them. The last whole one counts.
 * @returns those that count, and those that were danced again, in order
 */
export function takesThatCount(takes: readonly FilmTake[]): { count: FilmTake[]; again: FilmTake[] } {
  const isAgain = (t: FilmTake, i: number) =>
    takes
      .slice(i + 1)
      .some(
        (later) =>
          sameSpeed(later.rate, t.rate) &&
          Math.abs(later.at - t.at) < SAME_PLACE &&
          songEndOf(later) > songEndOf(t) - 0.5,
      )
  const again = takes.filter(isAgain)
  return { count: takes.filter((t) => !again.includes(t)), again }
}

/** What of the dance a take shows, from count to count. */
export function takeName(take: FilmTake, placed: readonly PlacedPhrase[], times: Times): string {
  const [first, last] = [placed[0], placed.at(-1)]
  if (!first || !last || times.length < 2) return ''
  const count = (song: Seconds) => Math.round(tickOfTime(times, song) / TICKS_PER_COUNT) * TICKS_PER_COUNT
  const from = Math.max(first.start, Math.min(last.end - TICKS_PER_COUNT, count(take.at)))
  const to = Math.max(from + TICKS_PER_COUNT, Math.min(last.end, count(songEndOf(take))))
  return stretchName(placed, { from, to })
}

/** Chapters of a film by its takes: what is danced where, and how fast. */
export function takeStamps(
  film: Pick<Film, 'takes'>,
  placed: readonly PlacedPhrase[],
  times: Times,
): FilmStamp[] {
  return takesThatCount(film.takes).count.map((t) => ({
    at: t.from,
    name: `${takeName(t, placed, times)}${sameSpeed(t.rate, 1) ? '' : `, ${Math.round(100 * t.rate)} %`}`,
  }))
}

/** What was danced on the floor while a camera ran, as the log has it: in seconds of the song, and when it ended. */
export interface DancedThen {
  /** Milliseconds of the clock. */
  doneAt: number
  from: Seconds | null
  to: Seconds | null
  speed: Ratio
}

/** What is held to be one moment by the clock of the floor and by the film: the log is written a moment after it was danced. */
const TIED: Seconds = 0.8

/**
 * When a film began, by the clock of the floor: takes of it are what was danced then, at its speed. Most of them have to agree.
 * @returns milliseconds; null where nothing ties them
 */
export function beganAt(film: Pick<Film, 'takes'>, danced: readonly DancedThen[]): number | null {
  const guesses: number[] = []
  for (const take of film.takes)
    for (const { doneAt, from, to, speed } of danced) {
      if (from === null || to === null || !sameSpeed(take.rate, speed)) continue
      // What was danced lies in the take, all but its edges.
      if (take.at > from + 1.5 || songEndOf(take) < to - 1.5) continue
      guesses.push(doneAt / 1000 - filmTimeIn(take, to))
    }
  const agreeing = (g: number) => guesses.filter((o) => Math.abs(o - g) < TIED)
  const best = guesses.reduce<number[]>((a, g) => (agreeing(g).length > a.length ? agreeing(g) : a), [])
  // One alone may be the same drill of another day.
  if (best.length < 2) return null
  return (1000 * best.reduce((a, b) => a + b, 0)) / best.length
}

/** A step of a lesson, as the log has it. */
export interface StepThen {
  doneAt: number
  seconds: Seconds
  kind: string
  label: string
}

/** Steps of a lesson as chapters of the film that ran meanwhile. @param began when it began, in milliseconds of the clock */
export function stepStamps(
  film: Pick<Film, 'seconds'>,
  steps: readonly StepThen[],
  began: number,
): FilmStamp[] {
  return steps.flatMap(({ doneAt, seconds, kind, label }) => {
    const at = (doneAt - began) / 1000 - seconds
    const within = at > -2 && at < film.seconds && kind !== 'note'
    return within ? [{ at: Math.max(0, at), name: label ? `${kind}: ${label}` : kind }] : []
  })
}

/** Stamps as lines of a description, each with a time of its own; the first is that of the film's beginning. */
export function stampLines(stamps: readonly FilmStamp[]): string[] {
  const lines = new Map<string, string[]>()
  if ((stamps[0]?.at ?? 0) >= 1) lines.set('0:00', ['Beginning'])
  for (const { at, name } of [...stamps].sort((a, b) => a.at - b.at)) {
    const time = hourClock(at)
    lines.set(time, [...(lines.get(time) ?? []), name])
  }
  return [...lines].map(([time, names]) => `${time} ${[...new Set(names)].join(', ')}`)
}

/** "1:05:07" from the first hour on: "65:07" is read as another time under films. */
function hourClock(at: Seconds): string {
  if (at < 3600) return clockText(at)
  const hours = Math.floor(at / 3600)
  return `${hours}:${clockText(at - 3600 * hours).padStart(5, '0')}`
}

/** Captions in the song's time, where its film has them: over each take; what is said between is left alone. */
export function captionsOnFilm(list: readonly TimedText[], film: Pick<Film, 'takes'>): TimedText[] {
  const ms = (s: Seconds) => Math.round(s * 1000) / 1000
  return film.takes.flatMap((take) =>
    list.flatMap(({ start, end, text }) => {
      const from = Math.max(take.from, filmTimeIn(take, start))
      const to = Math.min(take.to, end === null ? take.to : filmTimeIn(take, end))
      const begins = filmTimeIn(take, start) >= take.from - 0.3
      return begins && to - from > 0.05 ? [{ start: ms(from), end: ms(to), text }] : []
    }),
  )
}
