import { alike } from '../routine'
import type { Move } from './moves'

/** What came of two who changed one list of moves, and the names of moves both changed otherwise: those are as they are there. */
export interface MergedMoves {
  moves: readonly Move[]
  clashes: readonly string[]
}

const byId = (list: readonly Move[]) => new Map(list.map((m) => [m.id, m]))
const nameOf = (move: Move) => move.name.toLowerCase()

/**
 * Does what one made of a list of moves once more on what another made of it. New ones stand at its end; the same new move of both
 * is one. Where nothing of one's own is in it, it is the other's list itself.
 * @param base what both began with
 */
export function mergeMoves(
  base: readonly Move[],
  mine: readonly Move[],
  theirs: readonly Move[],
): MergedMoves {
  const [was, own, there] = [byId(base), byId(mine), byId(theirs)]
  const clashes: string[] = []
  const added = new Map(theirs.filter((m) => !was.has(m.id)).map((m) => [nameOf(m), m]))
  const next = new Map(there)
  for (const id of new Set([...was.keys(), ...own.keys()])) {
    const [before, now, other] = [was.get(id), own.get(id), there.get(id)]
    if (alike(before, now) || alike(now, other)) continue
    const twin = now && !before && added.get(nameOf(now))
    if (twin && alike({ ...twin, id }, now)) continue
    if (twin || !alike(before, other)) clashes.push((now ?? other ?? before)?.name ?? '')
    else if (now) next.set(id, now)
    else next.delete(id)
  }
  const moves = [...next.values()]
  return { moves: alike(moves, theirs) ? theirs : moves, clashes }
}
