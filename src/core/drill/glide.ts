import { type Ratio, type Seconds, TICKS_PER_COUNT, type Times, tickOfTime, timeOfTick } from '../time'

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
