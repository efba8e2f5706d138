import { type Seconds, TICKS_PER_COUNT, type Ticks } from '../time'
import { placePhrases } from './layout'
import { everyEight, layOut, type NewId } from './phrases'
import { canRepair, movedBy, onNewGrid, repairedBeats, samePlace } from './repairs'
import type { Repair, Routine, Section } from './schema'

/**
 * Adds one repair of the beats. Where beats only move, every count, cue and phrase keeps its beat. Where there are more
 * or fewer beats than before, cues and excerpt keep their sound and the page is laid out anew: around the same 1 for
 * twice and half, with the phrases at the beats nearest to where they were for a new stretch of grid.
 */
export function repair(routine: Routine, heard: readonly Seconds[], change: Repair, newId: NewId): Routine {
  if (!canRepair(heard, routine.repairs, change)) return routine
  const from = repairedBeats(heard, routine.repairs)
  const repairs = [...routine.repairs, change]
  const to = repairedBeats(heard, repairs)
  const next = { ...routine, repairs }
  if (from.length < 2)
    return layOut(
      next,
      { counts: to.length, starts: everyEight(0, to.length, routine.usual), sections: [] },
      newId,
    )
  switch (change.kind) {
    case 'shift':
    case 'pin':
      return next
    case 'double':
    case 'halve':
      return resized(routine, next, change, from, to, newId)
    case 'grid':
      return regridded(routine, next, from, to, newId)
  }
}

/** Twice or half as many counts. */
function resized(
  routine: Routine,
  next: Routine,
  change: Extract<Repair, { kind: 'double' | 'halve' }>,
  from: readonly Seconds[],
  to: readonly Seconds[],
  newId: NewId,
): Routine {
  const factor = change.kind === 'double' ? 2 : 0.5
  const shift = change.kind === 'halve' ? change.keep : 0
  const count = (tick: Ticks) => Math.round((tick / TICKS_PER_COUNT - shift) * factor)
  const placed = placePhrases(routine)
  const begun = placed.filter((p) => p.section?.phrase === p.phrase.id)
  const one = (begun[0] ?? placed.find((p) => !p.phrase.pickUp))?.start ?? 0
  const page = layOut(
    onNewGrid({ ...next, phrases: [], sections: [] }, from, to),
    {
      counts: to.length,
      starts: everyEight(count(one), to.length, routine.usual),
      sections: begun.map((p) => ({ count: count(p.start), letter: p.section?.letter ?? '' })),
    },
    newId,
  )
  return withNames(
    page,
    begun.flatMap((p) => (p.section ? [p.section] : [])),
  )
}

/** Beats may be near one another in both grids or not at all; see `regridded`. */
const NEAR = 0.35

/**
 * The page on a grid of which a stretch is new. If every beat has one counterpart, some whole number of beats away,
 * counts, cues and phrases go with their beats; else they go to the same sound.
 */
export function regridded(
  routine: Routine,
  next: Routine,
  from: readonly Seconds[],
  to: readonly Seconds[],
  newId: NewId,
): Routine {
  const by = counterpart(from, to)
  const count =
    by === null
      ? (k: number) => Math.round(samePlace(k * TICKS_PER_COUNT, from, to) / TICKS_PER_COUNT)
      : (k: number) => k + by
  const placed = placePhrases(routine)
  const starts: number[] = []
  for (const p of placed) {
    if (p.phrase.pickUp && p.index === 0) continue
    const k = count(p.start / TICKS_PER_COUNT)
    if (k >= 0 && k < to.length && k > (starts.at(-1) ?? -1)) starts.push(k)
  }
  const begun = placed.filter((p) => p.section?.phrase === p.phrase.id)
  const moved = by === null ? onNewGrid(next, from, to) : movedBy(next, (tick) => tick + by * TICKS_PER_COUNT)
  const page = layOut(
    { ...moved, phrases: [], sections: [] },
    {
      counts: to.length,
      starts,
      asSet: true,
      sections: begun.map((p) => ({
        count: Math.max(starts[0] ?? 0, count(p.start / TICKS_PER_COUNT)),
        letter: p.section?.letter ?? '',
      })),
    },
    newId,
  )
  return withNames(
    page,
    begun.flatMap((p) => (p.section ? [p.section] : [])),
  )
}

/** By how many beats the new grid is numbered later, when its beats are the old ones, moved; else null. */
function counterpart(from: readonly Seconds[], to: readonly Seconds[]): number | null {
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
  let near = 0
  let both = 0
  from.forEach((t, k) => {
    const other = to[k + by]
    if (other === undefined) return
    both++
    if (Math.abs(other - t) < NEAR * period) near++
  })
  if (both > 0 && near >= 0.9 * both) return by
  // As many as before, but further moved: the same beats, followed or made steady.
  return from.length === to.length ? 0 : null
}

function withNames(page: Routine, old: readonly Section[]): Routine {
  const left = [...old]
  return {
    ...page,
    sections: page.sections.map((s) => {
      const i = left.findIndex((o) => o.letter === s.letter)
      const [was] = i < 0 ? [] : left.splice(i, 1)
      return was ? { ...s, name: was.name, kind: was.kind, letter: was.letter } : s
    }),
  }
}

/** Forgets every repair of the beats; the phrases go to the heard beats nearest to where they were. */
export function backToHeard(routine: Routine, heard: readonly Seconds[], newId: NewId): Routine {
  const from = repairedBeats(heard, routine.repairs)
  if (!routine.repairs.length || heard.length < 2 || from.length < 2) return routine
  return regridded(routine, { ...routine, repairs: [] }, from, heard, newId)
}
