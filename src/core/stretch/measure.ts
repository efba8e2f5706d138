import { energyPieces, type Lufs, loudnessOfPieces, PIECE } from '../loudness'
import { findStrokes, monoOf } from './strokes'
import type { Strokes } from './time-map'

/** What playing a song needs to know of it, found once. */
export interface SongMeasure {
  strokes: Strokes
  /** Its weighted energy, in pieces of a tenth of a second. */
  pieces: ArrayLike<number>
  loudness: Lufs
}

/** Of a song nobody measured. */
export const UNMEASURED: SongMeasure = { strokes: [], pieces: [], loudness: null }

/** Rises when strokes are found or kept in another way: what was kept before is found anew. */
const VERSION = 1
/** Strokes are kept in steps of a millionth of a second, energy in half decibels, this many below full scale being nothing. */
const [STEPS, HALVES, LEAST] = [1e6, 2, 100]
const HEADER = 5

/** Measures a song. @param channels of equal length @param rate samples a second @returns packed, as it is kept */
export function measureSong(channels: readonly Float32Array[], rate: number): Uint8Array<ArrayBuffer> {
  return packMeasure(findStrokes(monoOf(channels), rate), energyPieces(channels, rate))
}

/** Packs what was measured: a version, strokes, and energy. */
export function packMeasure(strokes: Strokes, pieces: ArrayLike<number>): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(HEADER + 4 * strokes.length + pieces.length)
  const view = new DataView(out.buffer)
  out[0] = VERSION
  view.setUint32(1, strokes.length)
  for (let i = 0; i < strokes.length; i++)
    view.setUint32(HEADER + 4 * i, Math.round((strokes[i] as number) * STEPS))
  for (let k = 0; k < pieces.length; k++) {
    const decibels = 10 * Math.log10((pieces[k] as number) / PIECE)
    const kept = Math.round(HALVES * (decibels + LEAST))
    out[HEADER + 4 * strokes.length + k] = Math.min(255, Math.max(0, kept))
  }
  return out
}

/** What was packed; null where it is of another version, or cannot be read. */
export function unpackMeasure(bytes: Uint8Array): SongMeasure | null {
  if (bytes[0] !== VERSION || bytes.length < HEADER) return null
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  const count = view.getUint32(1)
  const end = HEADER + 4 * count
  if (end > bytes.length) return null
  const strokes = Float64Array.from({ length: count }, (_, i) => view.getUint32(HEADER + 4 * i) / STEPS)
  for (let i = 1; i < count; i++) if ((strokes[i] as number) < (strokes[i - 1] as number)) return null
  const pieces = Float64Array.from(bytes.subarray(end), (x) =>
    x === 0 ? 0 : PIECE * 10 ** ((x / HALVES - LEAST) / 10),
  )
  return { strokes, pieces, loudness: loudnessOfPieces(pieces) }
}
