import { moveBook, STARTING_MOVES } from '../choreo'
import { addDancers, commit, danced, type Edit, placeDancers, type Routine } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import { cuesOfDancers, type Standing, standingOf } from './standing'

export const book = moveBook(STARTING_MOVES)

/** What is left after some edits, each through the gate. @throws what the gate refuses */
export function done(r: Routine, ...edits: readonly Edit[]): Routine {
  return edits.reduce((now, edit) => {
    const next = commit(now, edit)
    if (!next.done) throw new Error(next.why)
    return next.routine
  }, r)
}
export const newId = ids('f')
export const spots = (list: Record<string, readonly [number, number]>) =>
  Object.entries(list).map(([dancer, [x, y]]) => ({ dancer, x, y }))

/** Eight eights with walks on every count, and so many dancers d0, d1 … */
export const stage = (
  n: number,
  lines: readonly string[] = Array(8).fill(
    '1 walk R; 2 walk L; 3 walk R; 4 walk L; 5 walk R; 6 walk L; 7 walk R; 8 walk L',
  ),
) => done(page(8, cuesOf(lines)), (r) => addDancers(r, n, ids('d')))
export const place =
  (tick: number, list: Record<string, readonly [number, number]>): Edit =>
  (r) =>
    placeDancers(r, tick, spots(list), newId)
export const standing = (r: Routine): Standing =>
  standingOf(r.formations, cuesOfDancers(r.dancers, danced(r)), book)
