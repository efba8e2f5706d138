/* Hand tools of the tests of this room: cues from lines, and a page of eights. */
import {
  type Cue,
  emptyRoutine,
  everyEight,
  type Layer,
  layOut,
  parseLine,
  placePhrases,
  type Routine,
} from '.'

/** Ids in order. */
export const ids = (prefix = 'id') => {
  let n = 0
  return () => `${prefix}${n++}`
}

/** Cues of lines, one line an eight, from the first count on. */
export function cuesOf(
  lines: string | readonly string[],
  layer: Layer = 'feet',
  newId = ids(`${layer}-`),
): Cue[] {
  return [lines].flat().flatMap((line, i) =>
    parseLine(line, { length: 8, feel: 'straight', first: 1 }).map(({ role, option, ...l }) => ({
      ...l,
      at: l.at + i * 192,
      layer,
      id: newId(),
      ...(role ? { role } : {}),
      ...(option ? { option } : {}),
    })),
  )
}

/** A page of so many eights. */
export function page(eights: number, cues: readonly Cue[] = []): Routine {
  const counts = 8 * eights
  const blank = layOut(emptyRoutine('x'), { counts, starts: everyEight(0, counts), sections: [] }, ids('p'))
  return { ...blank, cues: [...cues] }
}

/** The phrase of a number, from 0. */
export const phrase = (r: Routine, i: number) => {
  const p = placePhrases(r)[i]
  if (!p) throw new Error(`no phrase ${i}`)
  return p
}
