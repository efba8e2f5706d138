import { isAction, type MoveBook } from '../choreo'
import type { Cue, DancedCue, Grade, LessonSettings } from '../routine'
import { type Stretch, TICKS_PER_COUNT, type Ticks } from '../time'

/**
 * How much new material is taken in at once, in actions on the count; a sub-count, a finer one and a new move weigh more.
 * Common practice, no published source.
 */
const CAPACITY: Record<Grade, number> = { children: 6, beginners: 9, intermediate: 13, advanced: 18 }
const OFF_COUNT = 0.5
const FINER = 1
const NEW_MOVE = 0.5
/** No piece is shorter, in counts. */
const SHORTEST = 2
/** How unwelcome a cut is beside unlike loads: on an odd count, not in the middle, out of a step rather than a hold. */
const ODD = 0.3
const ASIDE = 0.1
const NO_HOLD = 0.05
/** A cut through a move is taken only where there is no other. */
const THROUGH = 10

/** What a learner has to take in with some cues. @param known moves that are not new, by their words in small letters */
export function loadOfCues(cues: readonly Cue[], book: MoveBook, known: ReadonlySet<string>): number {
  const moves = new Set<string>()
  let load = 0
  for (const c of cues) {
    if (!isAction(c, book)) continue
    const part = ((c.at % TICKS_PER_COUNT) + TICKS_PER_COUNT) % TICKS_PER_COUNT
    load += 1 + (part === 0 ? 0 : part === TICKS_PER_COUNT / 2 ? OFF_COUNT : FINER)
    const move = c.move.toLowerCase()
    if (!known.has(move)) moves.add(move)
  }
  return load + NEW_MOVE * moves.size
}

/** How a phrase is cut for teaching. */
export type Cut = (row: Stretch, cues: readonly DancedCue[]) => Stretch[]

/** Pieces of so many counts; what is left at the end under one count goes with the piece before. */
const every =
  (counts: number): Cut =>
  (row) => {
    const size = counts * TICKS_PER_COUNT
    const out: Stretch[] = []
    // From whole counts on: a dance may begin on a sub-count.
    const base = row.to - Math.ceil((row.to - row.from) / TICKS_PER_COUNT) * TICKS_PER_COUNT
    for (let at = base; at < row.to; at += size)
      out.push({ from: Math.max(row.from, at), to: Math.min(row.to, at + size) })
    const [last, before] = [out.at(-1), out.at(-2)]
    if (last && before && last.to - last.from < TICKS_PER_COUNT)
      out.splice(-2, 2, { from: before.from, to: last.to })
    return out
  }

/** As much as is as hard: pieces of like load, never through a move where that can be helped. */
function byLoad(grade: Grade, book: MoveBook): Cut {
  const known = new Set<string>()
  const capacity = CAPACITY[grade]
  const within = (cues: readonly DancedCue[], s: Stretch) => cues.filter((c) => c.at >= s.from && c.at < s.to)
  const cut = (row: Stretch, cues: readonly DancedCue[]): Stretch[] => {
    const load = loadOfCues(cues, book, known)
    const counts = (row.to - row.from) / TICKS_PER_COUNT
    if (load <= capacity || counts < 2 * SHORTEST) return [row]
    let best: { at: Ticks; cost: number } | null = null
    for (let n = SHORTEST; n <= counts - SHORTEST; n++) {
      // Counted from the end, so that an entry on a sub-count leaves the cuts on counts.
      const at = row.to - n * TICKS_PER_COUNT
      if (at - row.from < SHORTEST * TICKS_PER_COUNT) break
      const cost = costOf(at, row, cues, book, (s) => loadOfCues(within(cues, s), book, known) / load)
      if (!best || cost < best.cost - 1e-9) best = { at, cost }
    }
    if (!best) return [row]
    const [a, b] = [
      { from: row.from, to: best.at },
      { from: best.at, to: row.to },
    ]
    return [...cut(a, within(cues, a)), ...cut(b, within(cues, b))]
  }
  return (row, cues) => {
    const pieces = cut(row, cues)
    for (const c of cues) known.add(c.move.toLowerCase())
    return pieces
  }
}

function costOf(
  at: Ticks,
  row: Stretch,
  cues: readonly DancedCue[],
  book: MoveBook,
  share: (s: Stretch) => number,
): number {
  const unlike = Math.abs(share({ from: row.from, to: at }) - share({ from: at, to: row.to }))
  const fromStart = Math.round((at - row.from) / TICKS_PER_COUNT)
  const middle = Math.abs(at - (row.from + row.to) / 2) < TICKS_PER_COUNT / 2
  const held = cues.some((c) => c.at < at && c.at + c.length >= at && !isAction(c, book))
  const through = cues.some((c) => isAction(c, book) && c.at < at && c.at + c.length > at)
  return (
    unlike + (fromStart % 2 ? ODD : 0) + (middle ? 0 : ASIDE) + (held ? 0 : NO_HOLD) + (through ? THROUGH : 0)
  )
}

/** How phrases are cut by the settings of a lesson. Made anew for each: what is new is told from what came before. */
export function cutFor({ chunk, grade }: Pick<LessonSettings, 'chunk' | 'grade'>, book: MoveBook): Cut {
  if (chunk === 'two counts') return every(2)
  if (chunk === 'four counts') return every(4)
  if (chunk === 'hard') return byLoad(grade, book)
  return (row) => [row]
}
