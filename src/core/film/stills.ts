import type { Film } from '../routine'
import { type Seconds, type Stretch, TICKS_PER_COUNT, type Ticks, type Times, timeOfTick } from '../time'
import { pictureAt, placeInFilm } from './takes'

/** The picture of a count, and where in the film a player shows it; null where the film does not show it. */
export interface CountStill {
  at: Ticks
  film: Seconds | null
}

/** Pictures are told apart by so much of a second: the same one is not made twice. */
const MOMENT: Seconds = 0.01

/** A picture a count of some counts, of one take where it shows them all, at full tempo where there is one. */
export function countStills(
  film: Pick<Film, 'takes' | 'frameRate'>,
  times: Times,
  { from, to }: Stretch,
): CountStill[] {
  const out: CountStill[] = []
  if (times.length < 2) return out
  const last = to - TICKS_PER_COUNT
  const piece = { from: timeOfTick(times, from), to: timeOfTick(times, Math.max(from, last)) }
  for (let at = from; at < to; at += TICKS_PER_COUNT) {
    const place = placeInFilm(film, timeOfTick(times, at), 1, piece)
    out.push({ at, film: place && Math.round(pictureAt(film, place.at) / MOMENT) * MOMENT })
  }
  return out
}
