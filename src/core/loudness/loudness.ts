import type { Seconds } from '../time'
import { type Section, weightingAt } from './weighting'

/** Loudness in LUFS; null where there is nothing to be heard. */
export type Lufs = number | null

/** Energy is kept in pieces of this length: blocks of 0.4 s begin every quarter of one (ITU-R BS.1770-5, annex 1). */
export const PIECE: Seconds = 0.1
const PIECES_A_BLOCK = 4
/** What lies below this is not heard at all, and what lies this far below the rest does not count. */
const [QUIETEST, BELOW] = [-70, -10]

/** Decibels of a weighted mean square. */
const decibels = (power: number) => -0.691 + 10 * Math.log10(power)
const powerOf = (lufs: number) => 10 ** ((lufs + 0.691) / 10)

/**
 * Weighted energy of a sound over all its channels, in pieces of a tenth of a second: its mean square in each times its length.
 * @param channels mono is heard from both sides, and so counted twice, as a player sounds it
 */
export function energyPieces(channels: readonly Float32Array[], rate: number): Float64Array {
  const length = channels[0]?.length ?? 0
  const piece = Math.round(PIECE * rate)
  const out = new Float64Array(Math.ceil(length / piece))
  const times = channels.length === 1 ? 2 : 1
  for (const channel of channels) addEnergy(channel, weightingAt(rate), piece, times / rate, out)
  return out
}

function addEnergy(
  sound: Float32Array,
  [first, second]: readonly [Section, Section],
  piece: number,
  times: number,
  out: Float64Array,
) {
  const [b0, b1, b2] = first.b
  const [c0, c1, c2] = second.b
  let [s1, s2, t1, t2] = [0, 0, 0, 0]
  for (let k = 0; k < out.length; k++) {
    let sum = 0
    const end = Math.min(sound.length, (k + 1) * piece)
    for (let i = k * piece; i < end; i++) {
      // Both sections in transposed direct form.
      const x = sound[i] as number
      const y = b0 * x + s1
      s1 = b1 * x - first.a[0] * y + s2
      s2 = b2 * x - first.a[1] * y
      const z = c0 * y + t1
      t1 = c1 * y - second.a[0] * z + t2
      t2 = c2 * y - second.a[1] * z
      sum += z * z
    }
    out[k] = (out[k] as number) + times * sum
  }
}

/** Integrated loudness of what such pieces add up to, gated twice (ITU-R BS.1770-5, annex 1; EBU R 128). */
export function loudnessOfPieces(pieces: ArrayLike<number>): Lufs {
  const blocks: number[] = []
  for (let k = 0; k + PIECES_A_BLOCK <= pieces.length; k++) {
    let sum = 0
    for (let j = 0; j < PIECES_A_BLOCK; j++) sum += pieces[k + j] as number
    blocks.push(sum / (PIECE * PIECES_A_BLOCK))
  }
  const heard = blocks.filter((p) => p > powerOf(QUIETEST))
  if (!heard.length) return null
  const gate = meanOf(heard) * 10 ** (BELOW / 10)
  return decibels(meanOf(heard.filter((p) => p > gate)))
}

const meanOf = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / list.length

/** Integrated loudness of a sound; of one shorter than a block, as if silence followed. @param rate samples a second */
export function loudnessOf(channels: readonly Float32Array[], rate: number): Lufs {
  const pieces = energyPieces(channels, rate)
  if (pieces.length >= PIECES_A_BLOCK) return loudnessOfPieces(pieces)
  return loudnessOfPieces(Float64Array.from({ length: PIECES_A_BLOCK }, (_, k) => pieces[k] ?? 0))
}
