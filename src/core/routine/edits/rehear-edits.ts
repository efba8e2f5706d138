import type { Seconds } from '../../time'
import type { Routine } from '../document/schema'
import { type Edited, Refused } from '../gate/refused'
import { layOut, type NewId, type Proposal } from './phrase-edits'
import { bySound, rebase } from './rebase'

/** A hearing as far as the page stands on it. */
export interface HeardGrid {
  version: number
  beats: readonly Seconds[]
  proposal: Proposal
}

const lengths = (r: Pick<Routine, 'phrases'>) =>
  r.phrases.map((p) => (p.pickUp ? -p.length : p.length)).join()

/** True while the page is as a hearing laid it out: nothing was repaired, no phrase changed. */
function asLaidOut(routine: Routine, heard: HeardGrid): boolean {
  // Its phrases alone are looked at.
  const fresh = layOut(routine, heard.proposal, () => '')
  return routine.repairs.length === 0 && lengths(routine) === lengths(fresh)
}

/** The page of a hearing, where nothing was laid out before. */
export function layOutHeard(routine: Routine, heard: HeardGrid, newId: NewId): Routine {
  return { ...layOut(routine, heard.proposal, newId), heardWith: heard.version }
}

/** Says that the song is counted right as it is: it asks no more. @param version of the hearing it was asked of */
export const confirmCounting = (routine: Routine, version: number): Routine => ({
  ...routine,
  confirmed: version,
})

/**
 * A page moved onto a better hearing of the same song. What nobody touched is laid out anew; phrases set by hand stay at
 * their sound; everything danced stays at its sound.
 * @throws Refused where beats were repaired: the person has said what is right
 */
export function rehear(routine: Routine, old: HeardGrid, now: HeardGrid, newId: NewId): Edited<Routine> {
  if (routine.repairs.length)
    throw new Refused('Beats were set right by hand: they stay, and so does everything on them.')
  if (now.beats.length < 2) throw new Refused('No steady beat was found this time: the page stays as it is.')
  const next = { ...routine, heardWith: now.version }
  if (old.beats.length < 2) return { routine: layOut(next, now.proposal, newId), said: [] }
  const moved = rebase(next, bySound(old.beats, now.beats), now.beats.length, newId)
  const named = routine.sections.some((s) => s.name || s.kind !== 'part')
  if (!asLaidOut(routine, old) || named) return moved
  return { said: moved.said, routine: layOut(moved.routine, now.proposal, newId) }
}
