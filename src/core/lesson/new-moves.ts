import { type Move, type MoveBook, moveNamed } from '../choreo'
import { type Dance, danced, danceOf } from '../routine'
import { holds, type Stretch, TICKS_PER_COUNT } from '../time'

/** A move a class should know before it meets it in the dance. */
export interface NewMove {
  move: Move
  /** Where the dance has it first, in whole counts, two at least. */
  stretch: Stretch
}

const LEAST = 2 * TICKS_PER_COUNT

/**
 * Moves of a dance that ask for practice or for other moves first, and that a class has not danced yet, in the order the
 * dance has them.
 * @param taught what the class has drilled
 */
export function newMoves(routine: Dance, book: MoveBook, taught: readonly Stretch[]): NewMove[] {
  const dance = danceOf(routine)
  const known = new Set<string>()
  const found = new Map<string, NewMove>()
  for (const c of danced(routine)) {
    const move = moveNamed(c.move, book)
    if (!move || (move.grade === 'first' && !move.needs.length)) continue
    if (taught.some((s) => holds(s, c.at))) known.add(move.id)
    if (!holds(dance, c.at) || found.has(move.id)) continue
    const from = Math.floor(c.at / TICKS_PER_COUNT) * TICKS_PER_COUNT
    const end = Math.ceil((c.at + c.length) / TICKS_PER_COUNT) * TICKS_PER_COUNT
    found.set(move.id, { move, stretch: { from, to: Math.max(from + LEAST, end) } })
  }
  return [...found.values()].filter(({ move }) => !known.has(move.id))
}
