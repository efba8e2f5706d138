import * as v from 'valibot'
import { CAUTIONS, LEVELS, OptionName, SIDES, STEPS, Turn, WAYS } from './cue-words'
import { LAYERS } from './layers'
import { LIMITS } from './limits'
import { mirrorFacing, mirrorText, mirrorTurn, mirrorWay, otherSide } from './other-side'
import { place } from './place-schema'
import type { Regrid } from './regrid'
import { id, name, note, text } from './text-schema'

/*
 * What a cue says, each field described once. From here come its schema (cue-schema.ts), the cue on another grid, the cue to the
 * other side (repeats/mirror.ts), the cue as it is danced and what tells two apart (repeats/danced-cue.ts), and what of it stands on a
 * practice page (handout/practice-page.ts).
 */

/** Where a cue stands, which its fields are taken along by. */
interface Placed {
  at: number
  length: number
  move: string
}

interface Description<S extends v.GenericSchema, Needed extends boolean> {
  schema: S
  /** A cue without it is none; what is not needed is not said where it is left out. */
  needed: Needed
  /** How it goes along when counts get other numbers. */
  along: 'stays' | ((cue: Placed, to: Regrid) => v.InferOutput<S>)
  /** It is danced: carried through repeats, and two cues that differ in it are not danced alike. */
  danced: boolean
  /** What it is to the other side. */
  mirror:
    | 'same'
    | ((
        value: v.InferOutput<S> | (Needed extends true ? never : undefined),
      ) => v.InferOutput<S> | (Needed extends true ? never : undefined))
  /** On a practice page: always, where tips were asked for, or never. */
  page: 'shown' | 'with tips' | 'home'
}

const field = <S extends v.GenericSchema, const N extends boolean>(
  what: Pick<Description<S, N>, 'schema' | 'needed'>,
  becomes: Omit<Description<S, N>, 'schema' | 'needed'>,
): Description<S, N> => ({ ...what, ...becomes })

/** Words with left and right in them. */
const mirrorSaid = (said: string | undefined) => said && mirrorText(said)

export const CUE_FIELDS = {
  id: field({ schema: id, needed: true }, { along: 'stays', danced: false, mirror: 'same', page: 'home' }),
  at: field(
    { schema: place, needed: true },
    { along: (cue, to) => to.inside(cue.at, `“${cue.move}”`), danced: true, mirror: 'same', page: 'shown' },
  ),
  length: field(
    { schema: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(LIMITS.cueLength)), needed: true },
    {
      along: ({ at, length }, to) => Math.max(1, to.tick(at + length) - to.tick(at)),
      ...{ danced: true, mirror: 'same', page: 'shown' },
    },
  ),
  layer: field(
    { schema: v.picklist(LAYERS), needed: true },
    { along: 'stays', danced: true, mirror: 'same', page: 'shown' },
  ),
  move: field(
    { schema: name(LIMITS.text, 'A cue needs a move.'), needed: true },
    { along: 'stays', danced: true, mirror: mirrorText, page: 'shown' },
  ),
  side: field(
    { schema: v.picklist(SIDES), needed: true },
    { along: 'stays', danced: true, mirror: otherSide, page: 'shown' },
  ),
  /** The short word the caller says; empty means the move itself. */
  call: field(
    { schema: text, needed: true },
    { along: 'stays', danced: true, mirror: mirrorText, page: 'shown' },
  ),
  /** What starts it: the count, unless words or a sound do. */
  trigger: field(
    { schema: v.object({ kind: v.picklist(['lyric', 'sound']), mark: v.nullable(id) }), needed: false },
    { along: 'stays', danced: true, mirror: 'same', page: 'home' },
  ),
  /** What it does to the weight, where the move's words do not say. */
  step: field(
    { schema: v.picklist(STEPS), needed: false },
    { along: 'stays', danced: true, mirror: 'same', page: 'shown' },
  ),
  /** Where it goes, seen from the dancer, and how far in all (metres), where words and move list do not say. */
  way: field(
    { schema: v.picklist(WAYS), needed: false },
    { along: 'stays', danced: true, mirror: (way) => way && mirrorWay(way), page: 'home' },
  ),
  metres: field(
    { schema: v.pipe(v.number(), v.minValue(0), v.maxValue(LIMITS.metres)), needed: false },
    { along: 'stays', danced: true, mirror: 'same', page: 'home' },
  ),
  turn: field(
    { schema: Turn, needed: false },
    { along: 'stays', danced: true, mirror: (turn) => turn && mirrorTurn(turn), page: 'shown' },
  ),
  /** Where the dancer arrives facing, in eighths clockwise from the front. */
  facing: field(
    { schema: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(7)), needed: false },
    {
      along: 'stays',
      danced: true,
      mirror: (facing) => (facing === undefined ? facing : mirrorFacing(facing)),
      page: 'shown',
    },
  ),
  level: field(
    { schema: v.picklist(LEVELS), needed: false },
    { along: 'stays', danced: true, mirror: 'same', page: 'shown' },
  ),
  quality: field(
    { schema: note, needed: false },
    { along: 'stays', danced: true, mirror: mirrorSaid, page: 'shown' },
  ),
  look: field(
    { schema: note, needed: false },
    { along: 'stays', danced: true, mirror: mirrorSaid, page: 'shown' },
  ),
  /** Who does it; everybody where nobody is named. */
  role: field(
    { schema: text, needed: false },
    { along: 'stays', danced: true, mirror: 'same', page: 'shown' },
  ),
  /** The version it is danced in; everybody's where none is named. A page is of one version. */
  option: field(
    { schema: OptionName, needed: false },
    { along: 'stays', danced: true, mirror: 'same', page: 'home' },
  ),
  tip: field(
    { schema: note, needed: false },
    { along: 'stays', danced: true, mirror: mirrorSaid, page: 'with tips' },
  ),
  /** What usually goes wrong with it. */
  mistake: field(
    { schema: note, needed: false },
    { along: 'stays', danced: true, mirror: mirrorSaid, page: 'with tips' },
  ),
  caution: field(
    { schema: v.picklist(CAUTIONS), needed: false },
    { along: 'stays', danced: true, mirror: 'same', page: 'with tips' },
  ),
  /** Names the cue whose places this is one of: each time a word is sung, say (edits/each-edits.ts). */
  each: field({ schema: id, needed: false }, { along: 'stays', danced: false, mirror: 'same', page: 'home' }),
  /** True where what the move list says of its move is danced to the other side. */
  mirrored: field(
    { schema: v.boolean(), needed: false },
    { along: 'stays', danced: true, mirror: (mirrored) => (mirrored ? undefined : true), page: 'shown' },
  ),
} as const

export type CueFieldName = keyof typeof CUE_FIELDS
export const CUE_FIELD_NAMES = Object.keys(CUE_FIELDS) as CueFieldName[]

const MOVING = CUE_FIELD_NAMES.flatMap((name) => {
  const { along } = CUE_FIELDS[name]
  return along === 'stays' ? [] : [[name, along] as const]
})

/** A cue on another grid; the same one where nothing of it moved. */
export function cueAlong<C extends Placed>(cue: C, to: Regrid): C {
  const moved: Record<string, unknown> = {}
  for (const [name, along] of MOVING) moved[name] = along(cue, to)
  const same = Object.entries(moved).every(([name, value]) => cue[name as keyof C] === value)
  return same ? cue : { ...cue, ...moved }
}
