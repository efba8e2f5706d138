import type { PlacedPhrase } from '../counts/layout'
import type { Layer } from '../document/layers'
import type { Routine } from '../document/schema'
import { readPiece } from '../names/go-to'
import { danced } from '../repeats/repeats'
import { lineCue } from './line-print'
import type { Elsewhere } from './line-runs'

/** What a layer of a routine dances at any place that can be named, for lines that say "as chorus 2, first four". */
export const elsewhereIn =
  (
    routine: Pick<Routine, 'cues' | 'repeats'>,
    placed: readonly PlacedPhrase[],
    here: PlacedPhrase | null,
    layer: Layer,
  ): Elsewhere =>
  (name) => {
    const { from, to } = readPiece(placed, name, here)
    const cues = danced(routine).filter((c) => c.layer === layer && c.at >= from && c.at < to)
    return { length: to - from, cues: cues.map((c) => lineCue(c, from)) }
  }
