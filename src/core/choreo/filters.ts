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

/**
 * What somebody of a role dances in an option: what is written for them, and the base wherever nothing is.
 * @param role '' for everybody
 */
export function asDanced<T extends Cue>(cues: readonly T[], role: string, option: Option): T[] {
  const weight = (c: Cue) => (c.role ? 2 : 0) + (option !== 'base' && c.option === option ? 1 : 0)
  const able = cues.filter(
    (c) => (!c.role || c.role === role) && ((c.option ?? 'base') === 'base' || c.option === option),
  )
  const special = able.filter((c) => weight(c) > 0)
  if (!special.length) return able
  return able.filter((c) => !special.some((s) => weight(s) > weight(c) && overlap(s, c)))
}
