import type { Seconds } from '../time'
import { regridded } from './grid-edits'
import { layOut, type NewId, type Proposal } from './phrases'
import type { Routine } from './schema'

/** A hearing as far as the page stands on it. */
export interface HeardGrid {
  version: number
  beats: readonly Seconds[]
  proposal: Proposal
}

const lengths = (r: Pick<Routine, 'phrases'>) =>
  r.phrases.map((p) => (p.pickUp ? -p.length : p.length)).join()

/** True while the page is as a hearing laid it out: nothing was repaired, no phrase changed. */
export function asLaidOut(routine: Routine, heard: HeardGrid): boolean {
  let n = 0
  const fresh = layOut({ ...routine, phrases: [], sections: [] }, heard.proposal, () => `p${n++}`)
  return routine.repairs.length === 0 && lengths(routine) === lengths(fresh)
}

/**
 * A page moved onto a better hearing of the same song. What nobody touched is laid out anew; phrases set by hand stay at
 * their sound; repaired beats stay altogether, the person having said what is right.
 */
export function rehear(routine: Routine, old: HeardGrid, now: HeardGrid, newId: NewId): Routine {
  if (routine.repairs.length) return routine
  const next = { ...routine, heardWith: now.version }
  if (old.beats.length < 2 || now.beats.length < 2)
    return now.beats.length < 2 ? routine : layOut(next, now.proposal, newId)
  const moved = regridded(routine, next, old.beats, now.beats, newId)
  if (!asLaidOut(routine, old)) return moved
  // Cues and excerpt go along; phrases are the new hearing's own, with the names that were given.
  const page = layOut({ ...moved, phrases: [], sections: [] }, now.proposal, newId)
  const named = routine.sections.some((s) => s.name || s.kind !== 'part')
  return named ? moved : page
}
