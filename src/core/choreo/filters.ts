import type { Cue, Option } from '../routine'
import { TICKS_PER_COUNT } from '../time'

/** The roles named in some cues, in order of first use. */
export function rolesIn(cues: readonly Cue[]): string[] {
  return [...new Set(cues.flatMap((c) => (c.role ? [c.role] : [])))]
}

/** The options used in some cues beside the base. */
export function optionsIn(cues: readonly Cue[]): Option[] {
  return [...new Set(cues.flatMap((c) => (c.option && c.option !== 'base' ? [c.option] : [])))]
}

const overlap = (a: Cue, b: Cue) => a.at < b.at + b.length && b.at < a.at + a.length

/** The counts a cue lies on, from the first to the last. */
const countsOf = (c: Cue): [number, number] => [
  Math.floor(c.at / TICKS_PER_COUNT),
  Math.floor((c.at + Math.max(1, c.length) - 1) / TICKS_PER_COUNT),
]

/**
 * Tells whether one of some cues lies over another of its layer. They are known by layer and count: a dance has hundreds that
 * are somebody's own, and each of its cues is asked about.
 */
function cuesOver<T extends Cue>(cues: readonly T[]): (c: Cue, wanted: (over: T) => boolean) => boolean {
  const layers = new Map<Cue['layer'], Map<number, T[]>>()
  for (const c of cues) {
    const counts = layers.get(c.layer) ?? new Map<number, T[]>()
    layers.set(c.layer, counts)
    const [first, last] = countsOf(c)
    for (let k = first; k <= last; k++) counts.set(k, [...(counts.get(k) ?? []), c])
  }
  return (c, wanted) => {
    const counts = layers.get(c.layer)
    const [first, last] = countsOf(c)
    for (let k = first; counts && k <= last; k++)
      if (counts.get(k)?.some((over) => overlap(over, c) && wanted(over))) return true
    return false
  }
}

/** Danced in every version: the base, and what is said of a stretch whatever is danced around it. */
const ALWAYS = new Set<Option>(['base', 'hold', 'open'])
/** True for what is danced in every version. */
export const inEvery = (option: Option | undefined): boolean => ALWAYS.has(option ?? 'base')
const inOption = (c: Cue, option: Option) => inEvery(c.option) || c.option === option

/**
 * What somebody of a role dances in an option: what is written for them, and the base wherever nothing is.
 * @param role '' for what everybody does
 */
export function asDanced<T extends Cue>(cues: readonly T[], role: string, option: Option): T[] {
  const weight = (c: Cue) => (c.role ? 2 : 0) + (option !== 'base' && c.option === option ? 1 : 0)
  const able = cues.filter((c) => (!c.role || c.role === role) && inOption(c, option))
  const special = able.filter((c) => weight(c) > 0)
  if (!special.length) return able
  const isUnder = cuesOver(special)
  return able.filter((c) => !isUnder(c, (over) => weight(over) > weight(c)))
}

/**
 * What there is to see in an option. For a role it is what that role dances; for everybody it is the cues of all roles side
 * by side, the base giving way to the option role by role.
 * @param role '' for everybody
 */
export function asSeen<T extends Cue>(cues: readonly T[], role: string, option: Option): T[] {
  if (role) return asDanced(cues, role, option)
  const able = cues.filter((c) => inOption(c, option))
  const special = option === 'base' ? [] : able.filter((c) => c.option === option)
  if (!special.length) return able
  const sameRole = (a: Cue, b: Cue) => (a.role ?? '') === (b.role ?? '')
  const isUnder = cuesOver(special)
  return able.filter((c) => c.option === option || !isUnder(c, (over) => sameRole(over, c)))
}
