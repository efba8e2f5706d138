import { type Seconds, snapTick, type Ticks, type Times, tickOfTime, timeOfTick } from '../../time'
import type { SongMark } from '../document/song-schema'
import { type PlacedPhrase, phraseAt } from './layout'

/** The named count or sub-count nearest to a time. */
export function tickNear(times: Times, placed: readonly PlacedPhrase[], t: Seconds): Ticks {
  const tick = tickOfTime(times, t)
  const phrase = phraseAt(placed, tick)
  const from = phrase?.start ?? 0
  return from + snapTick(tick - from, phrase?.phrase.feel ?? 'straight')
}

/** The time of the named count or sub-count nearest to a time, in whole milliseconds. */
export function snappedTime(times: Times, placed: readonly PlacedPhrase[], t: Seconds): Seconds {
  return Math.round(timeOfTick(times, tickNear(times, placed, t)) * 1000) / 1000
}

/** Marks that begin in a span of time. */
export function marksIn(marks: readonly SongMark[], from: Seconds, to: Seconds): SongMark[] {
  return marks.filter((m) => m.at >= from && m.at < to)
}
