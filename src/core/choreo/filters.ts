import type { Cue, Option } from '../routine'

/** The roles named in some cues, in order of first use. */
export function rolesIn(cues: readonly Cue[]): string[] {
  return [...new Set(cues.flatMap((c) => (c.role ? [c.role] : [])))]
}

/** The options used in some cues beside the base. */
export function optionsIn(cues: readonly Cue[]): Option[] {
  return [...new Set(cues.flatMap((c) => (c.option && c.option !== 'base' ? [c.option] : [])))]
}

const overlap = (a: Cue, b: Cue) => a.layer === b.layer && a.at < b.at + b.length && b.at < a.at + a.length

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
  return able.filter((c) => !special.some((s) => weight(s) > weight(c) && overlap(s, c)))
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
  return able.filter((c) => c.option === option || !special.some((s) => sameRole(s, c) && overlap(s, c)))
}
