import type { Peaks } from './hearing'

/** Frames of the finest level that one frame of each level stands for: 10, 40 and 200 ms. */
const COARSENESS = [1, 4, 20] as const
/** First hearing version that keeps onsets beside peaks and loudness, and the first that keeps levels. */
const WITH_ONSETS = 3
const WITH_LEVELS = 4
const FRAME_RATE = 100

/** The largest of every `by` values; the last may stand for fewer. */
function coarser(fine: Uint8Array, by: number): Uint8Array {
  const out = new Uint8Array(Math.ceil(fine.length / by))
  for (let i = 0; i < fine.length; i++) {
    const k = Math.floor(i / by)
    if ((fine[i] as number) > (out[k] as number)) out[k] = fine[i] as number
  }
  return out
}

/** Pictures of a song at several resolutions. @param shape, onset one byte a 10 ms frame */
export function peaksFrom(shape: Uint8Array, onset: Uint8Array): Peaks {
  return {
    levels: COARSENESS.map((by) => ({ rate: FRAME_RATE / by, shape: by === 1 ? shape : coarser(shape, by) })),
    frameRate: FRAME_RATE,
    onset,
  }
}

/** What is drawn of a sound: between its peak and its loudness. */
export const shapeOf = (peak: ArrayLike<number>, loudness: ArrayLike<number>) =>
  Uint8Array.from(peak, (p, i) => Math.round((p + (loudness[i] ?? 0)) / 2))

/** Pictures as they are stored: frames of the finest level (32 bits), every level from the finest on, the onsets. */
export function packPeaks({ levels, onset }: Peaks): Uint8Array {
  const curves = [...levels.map((l) => l.shape), onset]
  const out = new Uint8Array(curves.reduce((n, c) => n + c.length, 4))
  new DataView(out.buffer).setUint32(0, levels[0]?.shape.length ?? 0)
  let at = 4
  for (const c of curves) {
    out.set(c, at)
    at += c.length
  }
  return out
}

/** The pictures of stored bytes; songs heard before onsets were kept have none. @param version of the hearing */
export function unpackPeaks(bytes: Uint8Array, version: number): Peaks {
  if (version < WITH_LEVELS) {
    const curves = version >= WITH_ONSETS ? 3 : 2
    const n = Math.floor(bytes.length / curves)
    const shape = shapeOf(bytes.subarray(0, n), bytes.subarray(n, 2 * n))
    return peaksFrom(shape, curves === 3 ? bytes.subarray(2 * n, 3 * n) : new Uint8Array(0))
  }
  const n = bytes.length < 4 ? 0 : new DataView(bytes.buffer, bytes.byteOffset).getUint32(0)
  let at = 4
  const take = (length: number) => {
    at += length
    return bytes.subarray(at - length, at)
  }
  const levels = COARSENESS.map((by) => ({ rate: FRAME_RATE / by, shape: take(Math.ceil(n / by)) }))
  return { frameRate: FRAME_RATE, levels, onset: take(n) }
}

/** Only the coarsest level, for the song as a whole: a 200th of the bytes. @param version of the hearing */
export function overviewOf(bytes: Uint8Array, version: number): Uint8Array {
  return unpackPeaks(bytes, version).levels.at(-1)?.shape ?? new Uint8Array(0)
}

/**
 * How tall each of `bars` bars of a picture is, from the coarsest level that still tells them apart.
 * @param at second at which the i-th bar begins, for i from 0 to bars
 * @returns the largest value of each bar, 0..255
 */
export function barsOf(peaks: Pick<Peaks, 'levels'>, bars: number, at: (i: number) => number): Uint8Array {
  const out = new Uint8Array(Math.max(0, bars))
  if (bars < 1) return out
  const shortest = (at(bars) - at(0)) / bars
  const level = peaks.levels.findLast((l) => 2 / l.rate <= shortest) ?? peaks.levels[0]
  if (!level) return out
  let next = Math.floor(at(0) * level.rate)
  for (let i = 0; i < bars; i++) {
    const a = next
    next = Math.floor(at(i + 1) * level.rate)
    for (let f = Math.max(0, a); f < Math.max(a + 1, next) && f < level.shape.length; f++)
      out[i] = Math.max(out[i] as number, level.shape[f] as number)
  }
  return out
}
