import { alike, textOf } from '../document/alike'
import { CUE_FIELD_NAMES, CUE_FIELDS } from '../document/cue-fields'
import type { Cue, Repeat } from '../document/cue-schema'
import { mirrorCue } from './mirror'

/** A cue as it is danced: its own, or linked from another stretch. */
export interface DancedCue extends Cue {
  /** The repeat that brings it here, and the cue it is there; null for a cue written here. */
  link: { repeat: string; cue: string } | null
  /** True for a cue written inside a repeat: here the repeat differs. */
  differs: boolean
}

/** Every field, said or not, in one order: what is made from it is read ten times faster than cues of many forms. */
const BLANK = {
  ...(Object.fromEntries(CUE_FIELD_NAMES.map((name) => [name, undefined])) as unknown as Required<Cue>),
  link: null as DancedCue['link'],
  differs: false,
}
/** What a repeat brings along; the rest is the cue's own. */
const CARRIED = CUE_FIELD_NAMES.filter((name) => name === 'id' || CUE_FIELDS[name].danced)

/** A cue as it is danced here. @param link the repeat that brings it; null for one written here */
function asDancedHere(cue: Cue, link: DancedCue['link'], differs: boolean): DancedCue {
  const out: Record<string, unknown> = { ...BLANK }
  for (const name of link ? CARRIED : CUE_FIELD_NAMES) out[name] = cue[name]
  out.link = link
  out.differs = differs
  return out as unknown as DancedCue
}

/** What is made of each of some objects, the same as long as that object does not change. */
function madeOnce<From extends object, T>(make: (from: From) => T): (from: From) => T {
  const known = new WeakMap<From, T>()
  return (from) => {
    let made = known.get(from)
    if (made === undefined) {
      made = make(from)
      known.set(from, made)
    }
    return made
  }
}

/** A written cue as a danced one. */
export const asWritten = madeOnce((cue: Cue) => asDancedHere(cue, null, false))

/** A cue written inside a repeat as a danced one. */
export const asDiffering = madeOnce((cue: Cue) => asDancedHere(cue, null, true))

/** What a repeat makes of cues of where it leads to. */
export const linkedBy = madeOnce((repeat: Repeat) => {
  const away = repeat.from - repeat.to.from
  return madeOnce((cue: DancedCue) =>
    asDancedHere(
      {
        ...(repeat.mirrored ? mirrorCue(cue) : cue),
        ...{ id: `${repeat.id}/${cue.id}`, at: cue.at - away },
      },
      { repeat: repeat.id, cue: cue.id },
      false,
    ),
  )
})

/** A danced cue as it would be written: without where it comes from. */
export function written(cue: DancedCue): Cue {
  const { link: _link, differs: _differs, ...rest } = cue
  for (const key of Object.keys(rest) as (keyof typeof rest)[]) if (rest[key] === undefined) delete rest[key]
  return rest
}

/** True for two danced cues that say the same, and come from the same place. */
export const sameDancedCue = (a: DancedCue, b: DancedCue): boolean =>
  a === b ||
  (a.differs === b.differs &&
    alike(a.link, b.link) &&
    CUE_FIELD_NAMES.every((name) => alike(a[name], b[name])))

/** How a cue is danced, without its id and what nobody dances: the same text for two that are danced alike. */
export const dancedAs = (cue: DancedCue): string =>
  textOf(
    CUE_FIELD_NAMES.flatMap((name) =>
      CUE_FIELDS[name].danced && cue[name] !== undefined ? [[name, cue[name]]] : [],
    ),
  )
