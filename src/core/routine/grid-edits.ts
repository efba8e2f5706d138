import { type Seconds, TICKS_PER_COUNT, type Ticks } from '../time'
import { carried } from './carry'
import { phraseAt, placePhrases } from './layout'
import { everyEight, layOut, type NewId } from './phrases'
import { canRepair, movedBy, onNewGrid, repairedBeats, samePlace } from './repairs'
import type { Phrase, Repair, Routine, Section } from './schema'

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
  const named = withNames(
    page,
    begun.flatMap((p) => (p.section ? [p.section] : [])),
  )
  const place = (tick: Ticks) => Math.round((tick / TICKS_PER_COUNT - shift) * factor * TICKS_PER_COUNT)
  return carried(routine, named, place, newId)
}

/** Beats may be near one another in both grids or not at all; see `regridded`. */
const NEAR = 0.35

/**
 * The page on a grid of which a stretch is new. If every beat has one counterpart, some whole number of beats away,
 * counts, cues and phrases go with their beats; else they go to the same sound. A phrase that still begins somewhere is
 * the same phrase: its feel, its section and what was logged of it stay with it.
 */
export function regridded(
  routine: Routine,
  next: Routine,
  from: readonly Seconds[],
  to: readonly Seconds[],
  newId: NewId,
): Routine {
  const by = counterpart(from, to)
  if (by === 0 && from.length === to.length) return next
  const count = (tick: Ticks) =>
    by === null ? Math.round(samePlace(tick, from, to) / TICKS_PER_COUNT) : tick / TICKS_PER_COUNT + by
  const moved = by === null ? onNewGrid(next, from, to) : movedBy(next, (tick) => tick + by * TICKS_PER_COUNT)
  const placed = placePhrases(routine)
  const pickUp = placed[0]?.phrase.pickUp ? placed[0].phrase : null
  const kept: { phrase: Phrase; at: number }[] = []
  for (const p of placed) {
    if (p.phrase === pickUp) continue
    const at = count(p.start)
    if (at >= 0 && at < to.length && at > (kept.at(-1)?.at ?? -1)) kept.push({ phrase: p.phrase, at })
  }
  const front = kept[0]?.at ?? to.length
  const phrases: Phrase[] =
    front > 0 ? [{ feel: 'straight', ...pickUp, id: pickUp?.id ?? newId(), length: front, pickUp: true }] : []
  kept.forEach(({ phrase, at }, i) => {
    const length = (kept[i + 1]?.at ?? to.length) - at
    // No phrase has more than 32 counts: what is over is filled with whole ones.
    const most = length <= 32 ? length : routine.usual
    for (let done = 0; done < length; done += most)
      phrases.push({ ...phrase, id: done ? newId() : phrase.id, length: Math.min(most, length - done) })
  })
  return { ...moved, phrases, sections: stillBegun(routine, phrases, count) }
}

/** Sections on the phrases they began with, or on those that now lie where they began. */
function stillBegun(routine: Routine, phrases: readonly Phrase[], count: (tick: Ticks) => number): Section[] {
  const now = placePhrases({ phrases: [...phrases], sections: [] })
  const starts = new Map(placePhrases(routine).map((p) => [p.phrase.id, p.start]))
  const out: Section[] = []
  for (const s of routine.sections) {
    const there = phrases.some((p) => p.id === s.phrase)
    const id = there
      ? s.phrase
      : phraseAt(now, Math.max(0, count(starts.get(s.phrase) ?? 0)) * TICKS_PER_COUNT)?.phrase.id
    if (id && !out.some((o) => o.phrase === id)) out.push({ ...s, phrase: id })
  }
  return out
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
