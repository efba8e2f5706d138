import type { Seconds } from '../../time'
import type { PlacedPhrase } from '../counts/layout'
import type { Layer } from '../document/layers'
import type { Routine } from '../document/schema'
import { type Meant, readPointing } from '../names/pointing'
import { danced } from '../repeats/repeats'
import { lineCue } from './line-print'
import type { Elsewhere } from './line-runs'

/** What a layer of a routine dances at any place that can be named, for lines that say "as chorus 2, first four". */
export const elsewhereIn =
  (
    routine: Routine,
    placed: readonly PlacedPhrase[],
    times: readonly Seconds[],
    here: PlacedPhrase | null,
    layer: Layer,
  ): Elsewhere =>
  (name) => {
    const [meant] = readPointing({ routine, placed, times, here }, name)
    const { from, to } = (meant as Meant).stretch
    const cues = danced(routine).filter((c) => c.layer === layer && c.at >= from && c.at < to)
    return { length: to - from, cues: cues.map((c) => lineCue(c, from)) }
  }
