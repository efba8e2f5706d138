import { SoundLine } from '../src/core/match'
import type { Seconds } from '../src/core/time'
import { soundIn } from '../src/decode/film-sound'
import { withSource } from './source'

/** A film may be this large, and so long. */
const [LARGEST, LONGEST]: [number, Seconds] = [4 * 1024 ** 3, 3 * 3600]

export interface Mono {
  rate: number
  samples: Float32Array
}

/** The sound of a file as one, whichever it is: a song's, or a film's. @throws Error in one sentence */
export function soundOf(file: string): Promise<Mono> {
  return withSource(file, LARGEST, async (source) => {
    const list: Float32Array[] = []
    let [rate, length] = [0, 0]
    let line: SoundLine | null = null
    for await (const piece of soundIn(source)) {
      if (piece.at > LONGEST) throw new Error(`longer than ${LONGEST / 3600} hours`)
      rate ||= piece.rate
      line ??= new SoundLine((samples) => {
        list.push(samples)
        length += samples.length
      }, rate)
      line.lay(piece)
      if (length > LONGEST * rate) throw new Error(`longer than ${LONGEST / 3600} hours`)
    }
    if (!length) throw new Error('no sound in this file')
    const samples = new Float32Array(length)
    let at = 0
    for (const piece of list) {
      samples.set(piece, at)
      at += piece.length
    }
    return { rate, samples }
  })
}
