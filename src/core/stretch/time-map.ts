import type { Ratio, Seconds } from '../time'

/** Where strokes begin in a song, in seconds, ascending. */
export type Strokes = ArrayLike<Seconds>

/** Before and after a stroke the song runs at its own speed for so long, and the rest between two of them takes what is over. */
const OWN_SPEED: Seconds = 0.03
/** Between two strokes close to each other, this share of the time between them on either side at the most. */
const MOST: Ratio = 0.4

/** Where no other stroke is near, it is at its even place again after so long. */
const ALONE: Seconds = 0.25

/** The last stroke at or before a moment; -1 for none. */
export function strokeBefore(strokes: Strokes, at: Seconds): number {
  let [low, high] = [-1, strokes.length]
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if ((strokes[middle] as number) <= at) low = middle
    else high = middle
  }
  return low
}

/**
 * Which moment of the song is heard where, slowed evenly, another would be: each stroke keeps its place, and around it the
 * song runs at its own speed, so that the stroke sounds as it was played.
 * @param at the moment of an even speed, in seconds of the song
 */
export function soundAt(strokes: Strokes, at: Seconds, speed: Ratio): Seconds {
  const i = strokeBefore(strokes, at)
  const [before, behind] = [strokes[i], strokes[i + 1]]
  if (before === undefined && behind === undefined) return at
  const last = before ?? (behind as number) - ALONE
  const next = behind ?? last + ALONE
  if (at < last || at > next) return at
  const own = Math.min(OWN_SPEED, MOST * (next - last))
  const [after, ahead] = [before === undefined ? 0 : own, behind === undefined ? 0 : own]
  // Seconds of what is heard since the last stroke, and until the next.
  const [since, until] = [(at - last) / speed, (next - at) / speed]
  if (since <= after) return last + since
  if (until <= ahead) return next - until
  const share = (since - after) / (since + until - after - ahead)
  return last + after + share * (next - last - after - ahead)
}
