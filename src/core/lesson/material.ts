import { firstSpeed, isAction, type MoveBook, paceOf, stepOf } from '../choreo'
import {
  type DancedCue,
  danced,
  danceRows,
  isOld,
  type LessonSettings,
  ofPass,
  PASSES,
  type Pass,
  type PlacedPhrase,
  partAt,
  type Routine,
  rootsOf,
} from '../routine'
import { common, holds, type Ratio, type Stretch, TICKS_PER_COUNT, type Ticks, type Times } from '../time'

/** A phrase, or a piece of one, as a teacher sees it. */
export interface Material {
  placed: PlacedPhrase
  /** Names it in the ids of steps: where its phrase begins, or for a later piece where it begins. */
  key: Ticks
  /** True for less than a phrase. */
  partial: boolean
  /** What of it belongs to the dance. */
  stretch: Stretch
  /** What of its phrase belongs to the dance: the stretch itself, or more than the piece. */
  row: Stretch
  /** How many counts the stretch has. */
  counts: number
  /** Nothing is cued in it, or it is held or open. */
  empty: boolean
  /** Where its material is written: itself, and the stretches that it repeats, followed back. */
  roots: Stretch[]
  /** It repeats one to the other side. */
  mirrored: boolean
  /** The passes that have something in it. */
  passes: Pass[]
  /** Speed at which a learner has the time wanted between two actions. */
  first: Ratio
  /** Why it is hard; empty where it is not. */
  hard: string[]
}

/** Fewer counts than this at the beginning of the dance are a lead-in. */
const LEAD = 4
/** Share of actions on sub-counts from which a phrase counts as dense. */
const DENSE = 0.3

/** The phrases of the dance, or the pieces they are cut into, with what teaching must know of them. */
export function materialOf(
  routine: Routine,
  times: Times,
  book: MoveBook,
  gap: number,
  ready: (stretch: Stretch) => number,
  found: readonly { at: number }[],
  cut: (row: Stretch, cues: readonly DancedCue[]) => Stretch[] = (row) => [row],
): Material[] {
  const cues = danced(routine)
  return danceRows(routine).flatMap(({ placed: p, core, row }) => {
    const own = cues.filter((c) => holds(row, c.at))
    // What is danced before is not taken apart again.
    const pieces = isOld(routine, core) ? [core] : cut(core, own)
    return piecesOf(pieces, core, row).map(([stretch, counted], i) => ({
      ...seenBy(p, stretch, routine, own, times, book, gap, ready, found),
      row,
      key: i === 0 ? p.start : stretch.from,
      partial: stretch.to - stretch.from < row.to - row.from,
      // What leans over a border is written with the phrase it is counted in.
      roots: rootsOf(routine, counted),
    }))
  })
}

/** The pieces a phrase is cut into, each as it is danced and as it is counted: the first with the pick-up, the last to where the next one begins. */
function piecesOf(counted: readonly Stretch[], core: Stretch, row: Stretch): [Stretch, Stretch][] {
  return counted.flatMap((c): [Stretch, Stretch][] => {
    const from = c.from === core.from ? row.from : c.from
    const to = c.to === core.to ? row.to : Math.min(c.to, row.to)
    return to > from ? [[{ from, to }, c]] : []
  })
}

function seenBy(
  placed: PlacedPhrase,
  stretch: Stretch,
  routine: Routine,
  all: readonly DancedCue[],
  times: Times,
  book: MoveBook,
  gap: number,
  ready: (stretch: Stretch) => number,
  found: readonly { at: number }[],
): Omit<Material, 'roots' | 'key' | 'partial' | 'row'> {
  const cues = all.filter((c) => holds(stretch, c.at))
  const layers = [...new Set(cues.map((c) => c.layer))]
  const gaps = layers.flatMap((l) => paceOf(cues, times, stretch, l, 1, book).leastGap ?? [])
  const least = gaps.length ? Math.min(...gaps) : Number.POSITIVE_INFINITY
  const actions = cues.filter((c) => isAction(c, book))
  const dense = actions.filter((c) => c.at % TICKS_PER_COUNT !== 0).length > DENSE * actions.length
  const hard: string[] = []
  if (least < gap * 0.6) hard.push(`two actions ${least.toFixed(2)} s apart`)
  if (dense && actions.length > 3) hard.push('many sub-counts')
  if (found.some((f) => holds(stretch, f.at))) hard.push('a finding of the checks')
  const sat = ready(stretch)
  if (sat > 0 && sat < 0.9) hard.push(`it sat at ${Math.round(sat * 100)} % so far`)
  return {
    placed,
    stretch,
    counts: (stretch.to - stretch.from) / TICKS_PER_COUNT,
    empty: actions.length === 0,
    mirrored: routine.repeats.some((r) => {
      const piece = r.mirrored && common(r.to, stretch)
      return piece && piece.to - piece.from >= LEAD * TICKS_PER_COUNT
    }),
    passes: PASSES.filter((pass) => ofPass(cues, pass).length > 0),
    first: Number.isFinite(least) ? firstSpeed(least, gap) : 1,
    hard,
  }
}

/** What is taught at once: each phrase or piece alone, two phrases of a section together, or a whole part of the instructor's or section. */
export function chunksOf(
  list: readonly Material[],
  routine: Pick<Routine, 'parts'>,
  chunk: LessonSettings['chunk'],
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
    const leads =
      before !== undefined &&
      open?.length === 1 &&
      before.counts < LEAD &&
      !before.partial &&
      before.placed !== m.placed
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
