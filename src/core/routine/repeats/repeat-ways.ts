import { holds, type Ticks } from '../../time'
import type { Cue, Repeat } from '../document/cue-schema'
import { LIMITS } from '../document/limits'

/** Repeats in order of place, none over another: the one over a tick, or null. */
export function repeatAt(sorted: readonly Repeat[], tick: Ticks): Repeat | null {
  let [low, high] = [0, sorted.length]
  while (low < high) {
    const mid = (low + high) >> 1
    if ((sorted[mid] as Repeat).to.from <= tick) low = mid + 1
    else high = mid
  }
  const r = sorted[low - 1]
  return r && holds(r.to, tick) ? r : null
}

/**
 * Where repeats lead in a circle, or deeper than anybody dances: a tick that is danced as itself in the end. Judged tick by
 * tick, so that a stretch may be danced as an earlier part of itself. Null where none does.
 */
export function circleIn(repeats: readonly Repeat[]): Ticks | null {
  const sorted = [...repeats].sort((a, b) => a.to.from - b.to.from)
  // Below zero while its way is being followed; else how many repeats lie behind it.
  const depth = new Map<Ticks, number>()
  for (const r of sorted)
    for (let tick = r.to.from; tick < r.to.to; tick++) {
      const way: Ticks[] = []
      let here = tick
      let found = depth.get(here)
      while (found === undefined) {
        const over = repeatAt(sorted, here)
        if (!over) {
          found = 0
          break
        }
        depth.set(here, -1)
        way.push(here)
        here = here - over.to.from + over.from
        found = depth.get(here)
      }
      if (found < 0) return here
      for (let i = way.length - 1; i >= 0; i--) depth.set(way[i] as Ticks, ++found)
      if (found > LIMITS.repeatDepth) return tick
    }
  return null
}

/**
 * How many cues are danced at most, what repeats bring counted each time, without making them: repeats of repeats double what
 * they bring, and a small document could hold millions. Cues that replace linked ones are counted beside those.
 * Repeats in a circle bring nothing.
 */
export function dancedCount({ cues, repeats }: { cues: readonly Cue[]; repeats: readonly Repeat[] }): number {
  if (!repeats.length || circleIn(repeats) !== null) return cues.length
  const sorted = [...repeats].sort((a, b) => a.to.from - b.to.from)
  const written = new Map<Ticks, number>()
  for (const c of cues) written.set(c.at, (written.get(c.at) ?? 0) + 1)
  // What begins on a tick, for ticks inside of repeats.
  const known = new Map<Ticks, number>()
  const beginning = (tick: Ticks): number => {
    const way: Ticks[] = []
    let here = tick
    let found = known.get(here)
    while (found === undefined) {
      const over = repeatAt(sorted, here)
      if (!over) {
        found = written.get(here) ?? 0
        break
      }
      way.push(here)
      here = here - over.to.from + over.from
      found = known.get(here)
    }
    for (const t of way.reverse()) {
      found += written.get(t) ?? 0
      known.set(t, found)
    }
    return found
  }
  let count = 0
  for (const c of cues) if (!repeatAt(sorted, c.at)) count++
  for (const r of sorted) for (let tick = r.to.from; tick < r.to.to; tick++) count += beginning(tick)
  return count
}
