import { countTimes, isGrid, type Seconds, type Ticks, tickOfTime, timeOfTick } from '../time'
import type { Repair, Routine } from './schema'

/**
 * The grid people see: the heard beats with a person's repairs applied in order.
 * @returns beat times in seconds, at least two; or an empty list when nothing usable was heard
 */
export function repairedBeats(heard: readonly Seconds[], repairs: readonly Repair[]): Seconds[] {
  let beats = [...heard]
  for (const r of repairs) {
    if (beats.length < 2) return []
    if (r.kind === 'double') beats = countTimes(beats, 2)
    else if (r.kind === 'halve') beats = countTimes(beats, 0.5, r.keep)
    else beats = beats.map((t) => t + r.seconds)
  }
  return isGrid(beats) ? beats : []
}

/** Moves a position from one grid to another so that it stays on its sound. */
export function samePlace(tick: Ticks, from: readonly Seconds[], to: readonly Seconds[]): Ticks {
  return Math.round(tickOfTime(to, timeOfTick(from, tick)))
}

/** A routine whose cues and excerpt keep their sound while the grid under them changes. */
export function onNewGrid(routine: Routine, from: readonly Seconds[], to: readonly Seconds[]): Routine {
  const move = (tick: Ticks) => samePlace(tick, from, to)
  const excerpt = routine.excerpt && { start: move(routine.excerpt.start), end: move(routine.excerpt.end) }
  return {
    ...routine,
    cues: routine.cues.map((c) => {
      const at = move(c.at)
      return { ...c, at, length: Math.max(1, move(c.at + c.length) - at) }
    }),
    excerpt: excerpt && excerpt.end > excerpt.start ? excerpt : null,
  }
}
