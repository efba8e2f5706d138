import { CUE_FIELD_NAMES, CUE_FIELDS } from '../document/cue-fields'
import type { Cue } from '../document/cue-schema'

/** What of a cue is otherwise on the other side. */
const TURNED = CUE_FIELD_NAMES.flatMap((name) => {
  const { mirror } = CUE_FIELDS[name]
  return mirror === 'same' ? [] : [[name, mirror as (value: unknown) => unknown] as const]
})

/**
 * A cue to the other side: its side, turn and facing, left and right in its words, and what the move list says of its
 * move. Twice is the identity.
 */
export function mirrorCue<T extends Cue>(cue: T): T {
  const out: Record<string, unknown> = { ...cue }
  for (const [name, mirror] of TURNED) {
    const value = mirror(cue[name])
    if (value === cue[name]) continue
    if (value === undefined) delete out[name]
    else out[name] = value
  }
  return out as T
}
