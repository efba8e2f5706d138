import { alike, type Drilled, type Grade, type LessonSettings, USUALLY_DRILLED } from '../routine'
import type { Thinning } from './chunk-steps'
import type { Material } from './material'

/**
 * Minutes an eight of new material takes in a usual class, talk and dancing together. Common practice, no published source: four to
 * five for beginners, two for those with practice; children more.
 */
export const CLASS_MINUTES: Record<Grade, number> = {
  children: 6,
  beginners: 4.5,
  intermediate: 2,
  advanced: 2,
}
/** A usual class is no shorter and no longer. Common practice, no published source. */
const SHORTEST = 15
const LONGEST = 60
/** Share of a short class that goes to warming up and cooling down; of a longer one so many minutes. */
const ENDS_SHARE = 0.23
const ENDS = 8

/** How long a usual class with so many eights of new material is, in minutes, in steps of five. */
export function usualMinutes(eights: number, grade: Grade): number {
  const taught = eights * CLASS_MINUTES[grade]
  const minutes = Math.min(taught / (1 - ENDS_SHARE), taught + ENDS)
  return Math.max(SHORTEST, Math.min(LONGEST, 5 * Math.ceil(minutes / 5 - 1e-9)))
}

/**
 * How much may go to a chunk, from the least (seen, explained, once slow, once at tempo) to all that one drills. Talk is only
 * shortened where nobody said how long it takes.
 */
export function thinnings({ drilled, talk }: Pick<LessonSettings, 'drilled' | 'talk'>): Thinning[] {
  const most: Drilled = drilled ?? USUALLY_DRILLED
  const level = (slow: number, fast: number, rungs: number, apart: number, share: number): Thinning => ({
    slow: Math.min(slow, most.slow),
    fast: Math.min(fast, most.fast),
    rungs: Math.min(rungs, most.rungs),
    apart: Math.min(apart, most.slow),
    talk: talk === null ? share : 1,
  })
  const all = [
    level(1, 1, 2, 0, 0.5),
    level(2, 1, 2, 0, 0.5),
    level(2, 1, 2, 1, 0.6),
    level(2, 2, 3, 1, 0.7),
    level(2, 2, 3, 2, 0.8),
    level(3, 2, 3, 2, 1),
    { ...most, apart: most.slow, talk: 1 },
  ]
  return all.filter((t, i) => i === 0 || !alike(t, all[i - 1]))
}

/** Chunks from the hardest to the easiest, by number; of equals the first. */
export const hardestFirst = (chunks: readonly (readonly Material[])[]): number[] => {
  const hard = chunks.map((c) => c.reduce((n, m) => n + m.hard.length, 0))
  return chunks.map((_, i) => i).sort((a, b) => (hard[b] as number) - (hard[a] as number) || a - b)
}

/** The most of some that hold, from none up to all; what holds of more holds of fewer. */
export function mostThat(all: number, holds: (n: number) => boolean): number {
  let [fits, over] = [0, all + 1]
  while (over - fits > 1) {
    const n = (fits + over) >> 1
    if (holds(n)) fits = n
    else over = n
  }
  return fits
}

/** "slow once, at tempo twice, 3 speeds, 60 % of the talk". */
export function thinWords({ slow, fast, rungs, apart, talk }: Thinning): string {
  const times = (n: number) => (n === 1 ? 'once' : n === 2 ? 'twice' : `${n} times`)
  return [
    `slow ${times(slow)}, at tempo ${times(fast)}, ${rungs} speeds`,
    ...(apart ? [] : ['not taken apart']),
    ...(talk < 1 ? [`${Math.round(talk * 100)} % of the talk`] : []),
  ].join(', ')
}
