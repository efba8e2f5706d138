import type { Ticks } from '../../time'
import { placePhrases } from '../counts/layout'
import type { Routine } from '../document/schema'
import type { Breath } from '../document/song-schema'
import { type Edited, Refused } from '../gate/refused'

const same = (a: Breath, b: Breath) => a.lean === b.lean && a.resolve === b.resolve

/**
 * Says what belongs over some borders: how much before each to what follows, and how much after it to what came before.
 * @param ats where the phrases begin
 * @throws Refused where no phrase begins, or none comes before
 */
export function setBorders(routine: Routine, ats: readonly Ticks[], { lean, resolve }: Breath): Routine {
  const starts = new Set(placePhrases(routine).flatMap((p) => (p.index ? [p.start] : [])))
  if (ats.some((at) => !starts.has(at))) throw new Refused('No phrase ends and another begins there.')
  const said = new Set(ats)
  const others = routine.borders.filter((b) => !said.has(b.at))
  const own = same({ lean, resolve }, routine.usualBorder)
    ? []
    : [...said].map((at) => ({ at, lean, resolve }))
  return { ...routine, borders: [...others, ...own].sort((a, b) => a.at - b.at) }
}

/** Says what belongs over every border; what was said of single ones is said anew by this. */
export function setUsualBorder(routine: Routine, { lean, resolve }: Breath): Edited<Routine> {
  const others = routine.borders.filter((b) => !same(b, { lean, resolve })).length
  return {
    routine: { ...routine, usualBorder: { lean, resolve }, borders: [] },
    said: others
      ? [
          `${others === 1 ? 'One place was' : `${others} places were`} said otherwise, and ${others === 1 ? 'is' : 'are'} so now too.`,
        ]
      : [],
  }
}
