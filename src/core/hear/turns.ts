import type { Seconds } from '../time'
import { FRAME_RATE } from './spectrum'

/** Sums of a matrix's rows up to each frame, so that any mean is two look-ups. */
export interface Sums {
  width: number
  frames: number
  upTo: Float64Array
  /** A row this long is quiet: a tenth of the mean. */
  quiet: number
}

/** Sums of a matrix of frames × width; `value` gives a row's entry. */
export function summed(
  width: number,
  frames: number,
  value: (frame: number, column: number) => number,
): Sums {
  const upTo = new Float64Array((frames + 1) * width)
  for (let f = 0; f < frames; f++)
    for (let c = 0; c < width; c++) upTo[(f + 1) * width + c] = (upTo[f * width + c] as number) + value(f, c)
  let square = 0
  for (let c = 0; c < width; c++) square += (upTo[frames * width + c] as number) ** 2
  return { width, frames, upTo, quiet: 0.1 * (Math.sqrt(square) / Math.max(1, frames)) + 1e-9 }
}

/** How much the sound turns at a time: one less the cosine of the sums of `span` seconds before and after. */
export function turnAt({ width, frames, upTo, quiet }: Sums, t: Seconds, span: Seconds): number {
  const w = Math.max(2, Math.round(span * FRAME_RATE))
  const row = (f: number) => Math.max(0, Math.min(frames, f)) * width
  const f = Math.round(t * FRAME_RATE)
  const [a0, a1, b0, b1] = [row(f - w), row(f), row(f + 3), row(f + 3 + w)]
  let [dot, aa, bb] = [0, 1e-9, 1e-9]
  for (let c = 0; c < width; c++) {
    const a = (upTo[a1 + c] as number) - (upTo[a0 + c] as number)
    const b = (upTo[b1 + c] as number) - (upTo[b0 + c] as number)
    dot += a * b
    aa += a * a
    bb += b * b
  }
  const cosine = dot / Math.sqrt(aa * bb)
  // Out of silence, or into it, nothing turns.
  const least = Math.sqrt(Math.min(aa, bb)) / w
  return ((1 - cosine) * least) / (least + quiet)
}
