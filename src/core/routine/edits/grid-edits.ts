import { type Seconds, TICKS_PER_COUNT, timeOfTick } from '../../time'
import { repairedBeats, withRepair } from '../counts/repairs'
import type { Routine } from '../document/schema'
import type { Repair } from '../document/song-schema'
import { type Edited, Refused } from '../gate/refused'
import { everyEight, layOut, type NewId } from './phrase-edits'
import { bySound, type Place, rebase } from './rebase'

/**
 * Adds one repair of the beats. Where beats only move, every count, cue and phrase keeps its beat. Where there are more
 * or fewer beats than before, everything keeps its sound, and phrases begin at the beats nearest to where they did.
 * @throws Refused where the grid would not stand it
 */
export function repair(
  routine: Routine,
  heard: readonly Seconds[],
  change: Repair,
  newId: NewId,
): Edited<Routine> {
  const from = repairedBeats(heard, routine.repairs)
  const repairs = withRepair(heard, routine.repairs, change)
  const to = repairedBeats(heard, repairs)
  const next = { ...routine, repairs }
  if (from.length < 2) {
    const starts = everyEight(0, to.length, routine.usual)
    return { routine: layOut(next, { counts: to.length, starts, sections: [] }, newId), said: [] }
  }
  switch (change.kind) {
    case 'shift':
    case 'pin':
      return { routine: next, said: [] }
    case 'double':
    case 'halve':
      return rebase(next, bySound(from, to), to.length, newId)
    case 'grid':
      return toGrid(next, from, to, newId)
  }
}

/**
 * The same beats, drawn elsewhere: followed in the sound or made steady, from one beat up to another. However far they
 * go, a count is the same count afterwards, and what is danced on it stays on it.
 * @param beats as many as there were in that stretch
 * @throws Refused where there are not, or the grid would not stand it
 */
export function redrawBeats(
  routine: Routine,
  heard: readonly Seconds[],
  from: number,
  beats: readonly Seconds[],
): Edited<Routine> {
  const to = from + beats.length
  if (to > repairedBeats(heard, routine.repairs).length) throw new Refused('There are fewer beats than that.')
  const change = { kind: 'grid' as const, from, to, beats: [...beats] }
  return { routine: { ...routine, repairs: withRepair(heard, routine.repairs, change) }, said: [] }
}

/** Beats may be near one another in both grids or not at all; see `counterpart`. */
const NEAR = 0.35

/**
 * A routine on a grid of which a stretch is new. If every beat has one counterpart, some whole number of beats away,
 * counts go with their beats; else everything goes to the same sound.
 */
function toGrid(
  next: Routine,
  from: readonly Seconds[],
  to: readonly Seconds[],
  newId: NewId,
): Edited<Routine> {
  const by = counterpart(from, to, reach(next, from.length))
  if (by === 0 && from.length === to.length) return { routine: next, said: [] }
  const place: Place = by === null ? bySound(from, to) : (tick) => tick + by * TICKS_PER_COUNT
  return rebase(next, place, to.length, newId)
}

/** From which count to which a routine has beats or anything danced. */
function reach({ cues }: Routine, counts: number): [number, number] {
  const ends = cues.flatMap((c) => [c.at, c.at + c.length]).map((tick) => tick / TICKS_PER_COUNT)
  const least = ends.reduce((a, b) => Math.min(a, b), 0)
  return [Math.floor(least), Math.ceil(ends.reduce((a, b) => Math.max(a, b), counts - 1))]
}

/**
 * By how many beats the new grid is numbered later, when its beats are the old ones, moved; else null. Where one of the
 * two has no beats, they go on as evenly as at its end.
 */
function counterpart(
  from: readonly Seconds[],
  to: readonly Seconds[],
  [first, last]: readonly [number, number],
): number | null {
  const period = ((from.at(-1) as number) - (from[0] as number)) / (from.length - 1)
  const mid = from.length >> 1
  let nearest = 0
  for (let k = 1; k < to.length; k++)
    if (
      Math.abs((to[k] as number) - (from[mid] as number)) <
      Math.abs((to[nearest] as number) - (from[mid] as number))
    )
      nearest = k
  const by = nearest - mid
  const off = (count: number) =>
    Math.abs(timeOfTick(to, (count + by) * TICKS_PER_COUNT) - timeOfTick(from, count * TICKS_PER_COUNT))
  // A single one that is not is enough: what lies behind it would be off its sound.
  let near = true
  for (let count = first; near && count <= last; count++) near = off(count) < NEAR * period
  if (near) return by
  // As many as before, but further moved: the same beats, followed or made steady.
  const same = from.length === to.length && from.every((t, k) => Math.abs((to[k] as number) - t) < period)
  return same ? 0 : null
}

/** Forgets every repair of the beats; the phrases go to the heard beats nearest to where they were. */
export function backToHeard(routine: Routine, heard: readonly Seconds[], newId: NewId): Edited<Routine> {
  const from = repairedBeats(heard, routine.repairs)
  if (!routine.repairs.length) return { routine, said: [] }
  if (heard.length < 2) throw new Refused('Nothing was heard in this song to go back to.')
  return toGrid({ ...routine, repairs: [] }, from, heard, newId)
}

/** The heard beats again from one beat up to another, as far as they lie there; repairs elsewhere stay. */
export function heardInStretch(
  routine: Routine,
  heard: readonly Seconds[],
  from: number,
  to: number,
  newId: NewId,
): Edited<Routine> {
  const now = repairedBeats(heard, routine.repairs)
  const [a, b] = [now[from], now[to] ?? Number.POSITIVE_INFINITY]
  if (a === undefined || !routine.repairs.length) return { routine, said: [] }
  const half = 0.5 * ((now[from + 1] ?? a + 0.5) - a)
  const beats = heard.filter((t) => t >= a - half && t < b - half)
  return repair(routine, heard, { kind: 'grid', from, to: Math.min(to, now.length), beats }, newId)
}
