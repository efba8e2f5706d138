import type { Seconds, Stretch, Ticks } from '../../time'
import { wholeOf } from '../counts/layout'
import { FIELDS } from '../document/fields'
import { LIMITS } from '../document/limits'
import { type FindingAbout, findingKey } from '../document/references'
import type { Routine } from '../document/schema'

/** Names the routine. */
export const rename = (routine: Routine, title: string, credit: string): Routine => ({
  ...routine,
  title: title.trim(),
  credit: credit.trim(),
})

/** Sets where the dance begins or ends; the other end gives way when they would cross. */
export function setExcerpt(routine: Routine, edge: 'start' | 'end', tick: Ticks): Routine {
  const whole = wholeOf(routine)
  if (!whole) return routine
  const now = routine.excerpt ?? whole
  const excerpt: Stretch =
    edge === 'start'
      ? { from: tick, to: now.to > tick ? now.to : whole.to }
      : { from: now.from < tick ? now.from : whole.from, to: tick }
  return excerpt.to > excerpt.from ? { ...routine, excerpt } : routine
}

/** The dance is the whole song. */
export const wholeSong = (routine: Routine): Routine =>
  routine.excerpt === null ? routine : { ...routine, excerpt: null }

/** Lyric lines written down, one a line, to be tapped in. */
export const writeLyrics = (routine: Routine, lyrics: string): Routine => ({ ...routine, lyrics })

/** What is called, and whether a count ahead. */
export const setCalling = (
  routine: Routine,
  what: Partial<Pick<Routine, 'called' | 'calledAhead' | 'leadWords'>>,
): Routine => ({ ...routine, ...what })

/** What the dance asks of those who dance it and of the room. */
export const setNeeds = (routine: Routine, what: Partial<Pick<Routine, 'gear' | 'room'>>): Routine => ({
  ...routine,
  ...what,
})

/** Seconds a learner needs between two actions; null for the program's own rule. */
export function setLeastGap(routine: Routine, leastGap: Seconds | null): Routine {
  const next =
    leastGap === null
      ? { leastGap: FIELDS.leastGap.usual, leastGapSaid: false }
      : { leastGap, leastGapSaid: true }
  const same = next.leastGap === routine.leastGap && next.leastGapSaid === routine.leastGapSaid
  return same ? routine : { ...routine, ...next }
}

/** Lets a finding stand, with the reason; the oldest of very many are asked about again. */
export const letStand = (routine: Routine, about: FindingAbout, reason: string): Routine => ({
  ...routine,
  dismissed: [
    ...routine.dismissed.filter((d) => findingKey(d.about) !== findingKey(about)),
    { about, reason },
  ].slice(-LIMITS.dismissed),
})

/** Looks at all findings again. */
export const lookAgain = (routine: Routine): Routine =>
  routine.dismissed.length ? { ...routine, dismissed: [] } : routine
