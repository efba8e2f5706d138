import { type DancedCue, danced, firstSpeed, isAction, isOld, type MoveBook, paceOf, stepOf } from '../choreo'
import { excerptOf, type PlacedPhrase, partAt, placePhrases, type Routine } from '../routine'
import { type Ratio, TICKS_PER_COUNT, type Times } from '../time'

/** A phrase as a teacher sees it. */
export interface Material {
  placed: PlacedPhrase
  /** Counts of it that belong to the dance. */
  counts: number
  /** Nothing is cued in it. */
  empty: boolean
  /** What it is made of: itself, or the phrases that it repeats through and through, back to where they are written. */
  roots: string[]
  /** It repeats one to the other side. */
  mirrored: boolean
  hasFeet: boolean
  hasArms: boolean
  /** Speed at which a learner has the time wanted between two actions. */
  first: Ratio
  /** Why it is hard; empty where it is not. */
  hard: string[]
}

/** Fewer counts than this at the beginning of the dance are a lead-in. */
const LEAD = 4
/** Share of actions on sub-counts from which a phrase counts as dense. */
const DENSE = 0.3

/** The phrases of the dance with what teaching must know of them. */
export function materialOf(
  routine: Routine,
  times: Times,
  book: MoveBook,
  gap: number,
  ready: (phrase: string) => number,
  found: readonly { at: number }[],
): Material[] {
  const { start, end } = excerptOf(routine)
  const cues = danced(routine)
  const all = placePhrases(routine)
  const places = new Map(all.map((p) => [p.phrase.id, p]))
  return all
    .filter((p) => p.end > start && p.start < end)
    .map((p) => ({
      ...seenBy(p, routine, cues, times, book, gap, ready, found),
      roots: rootsOf(p.phrase.id, routine, places),
    }))
}

/** The phrases another one is made of, followed through repeats of repeats. */
function rootsOf(
  id: string,
  routine: Routine,
  places: ReadonlyMap<string, PlacedPhrase>,
  depth = 0,
): string[] {
  const placed = places.get(id)
  if (!placed || depth > 50 || !isOld(routine, placed)) return [id]
  const sources = routine.repeats.filter((r) => r.phrase === id).map((r) => r.source)
  return [...new Set(sources.flatMap((s) => rootsOf(s, routine, places, depth + 1)))]
}

function seenBy(
  placed: PlacedPhrase,
  routine: Routine,
  all: readonly DancedCue[],
  times: Times,
  book: MoveBook,
  gap: number,
  ready: (phrase: string) => number,
  found: readonly { at: number }[],
): Omit<Material, 'roots'> {
  const { start, end } = excerptOf(routine)
  const span = { from: placed.start, to: placed.end }
  const cues = all.filter((c) => c.at >= span.from && c.at < span.to)
  const layers = [...new Set(cues.map((c) => c.layer))]
  const gaps = layers.flatMap((l) => paceOf(cues, times, span, l, 1, book).leastGap ?? [])
  const least = gaps.length ? Math.min(...gaps) : Number.POSITIVE_INFINITY
  const actions = cues.filter((c) => isAction(c, book))
  const dense = actions.filter((c) => c.at % TICKS_PER_COUNT !== 0).length > DENSE * actions.length
  const hard: string[] = []
  if (least < gap * 0.6) hard.push(`two actions ${least.toFixed(2)} s apart`)
  if (dense && actions.length > 3) hard.push('many sub-counts')
  if (found.some((f) => f.at >= span.from && f.at < span.to)) hard.push('a finding of the checks')
  const sat = ready(placed.phrase.id)
  if (sat > 0 && sat < 0.9) hard.push(`it sat at ${Math.round(sat * 100)} % so far`)
  return {
    placed,
    counts: (Math.min(placed.end, end) - Math.max(placed.start, start)) / TICKS_PER_COUNT,
    empty: cues.length === 0,
    mirrored: routine.repeats.some((r) => r.phrase === placed.phrase.id && r.mirrored && r.length >= 96),
    hasFeet: cues.some((c) => c.layer === 'feet' || c.layer === 'travel' || c.layer === 'whole'),
    hasArms: cues.some((c) => c.layer === 'arms'),
    first: Number.isFinite(least) ? firstSpeed(least, gap) : 1,
    hard,
  }
}

/** Phrases taught at once: each alone, two of a section together, or a whole part of the instructor's or section. */
export function chunksOf(
  list: readonly Material[],
  routine: Pick<Routine, 'parts'>,
  chunk: 'eight' | 'two' | 'part',
): Material[][] {
  const out: Material[][] = []
  for (const m of list) {
    const open = out.at(-1)
    const before = open?.at(-1)
    const same =
      before !== undefined &&
      (chunk === 'part' && routine.parts.length
        ? partAt(routine.parts, before.placed.start)?.id === partAt(routine.parts, m.placed.start)?.id
        : before.placed.section?.id === m.placed.section?.id)
    // A few counts before the first phrase are no chunk: they lead into it.
    const leads = before !== undefined && open?.length === 1 && before.counts < LEAD
    const room = leads ? 2 : chunk === 'part' ? Number.POSITIVE_INFINITY : chunk === 'two' ? 2 : 1
    if (open && (same || leads) && open.length < room) open.push(m)
    else out.push([m])
  }
  return out
}

/** Jumps, kicks and knee work in some cues: what goes to the joints. */
export function strainOf(
  cues: readonly DancedCue[],
  book: MoveBook,
): Record<'jumps' | 'kicks' | 'knees', number> {
  const strain = { jumps: 0, kicks: 0, knees: 0 }
  for (const c of cues) {
    const step = stepOf(c, book)
    if (step === 'jump' || step === 'hop' || c.caution === 'jump') strain.jumps++
    else if (step === 'kick' || c.caution === 'kick') strain.kicks++
    if (c.caution === 'knee' || c.level === 'floor') strain.knees++
  }
  return strain
}
