import { type Ratio, type Seconds, TICKS_PER_COUNT, type Times, tickOfTime, timeOfTick } from '../time'
import type { DrillTimeline } from './timeline'

/** A position that is reached this many seconds from now. */
export interface GlidePoint {
  in: Seconds
  tick: number
}

/**
 * Where a song that plays on will be: now, at every count, and at the end of what is asked for. Between two points the
 * position moves evenly.
 * @param song where it is now, in seconds of the song
 * @param speed ratio of full tempo
 * @param ahead how far to look, in seconds of the clock
 */
export function glide(times: Times, song: Seconds, speed: Ratio, ahead: Seconds): GlidePoint[] {
  const end = song + ahead * speed
  const from = tickOfTime(times, song)
  const to = tickOfTime(times, end)
  const points: GlidePoint[] = [{ in: 0, tick: from }]
  for (let c = Math.floor(from / TICKS_PER_COUNT) + 1; c * TICKS_PER_COUNT < to; c++)
    points.push({
      in: (timeOfTick(times, c * TICKS_PER_COUNT) - song) / speed,
      tick: c * TICKS_PER_COUNT,
    })
  points.push({ in: ahead, tick: to })
  return points
}

/**
 * How long until a repetition reaches the next place of a grid, the next count called before it, or its end.
 * @param into seconds since its body began; negative in the count-in
 * @param grid in ticks
 * @returns seconds of the clock, at least 0
 */
export function nextChange(
  times: Times,
  { songStart, speed, body, countIn }: Pick<DrillTimeline, 'songStart' | 'speed' | 'body' | 'countIn'>,
  into: Seconds,
  grid: number,
): Seconds {
  if (into < 0)
    return countIn.reduce((soon, e) => (e.time > into ? Math.min(soon, e.time - into) : soon), -into)
  const song = songStart + into * speed
  // What rounding leaves just short of a place of the grid is on it.
  const next = (Math.floor(tickOfTime(times, song) / grid + 1e-6) + 1) * grid
  return Math.max(0, Math.min((timeOfTick(times, next) - song) / speed, body - into))
}
