import type { Seconds } from '../time'

/** A clap that was heard. */
export interface Clap {
  /** When its attack came, on the clock of the blocks that were pushed. */
  at: Seconds
  /** Its largest step from sample to sample, of a full scale of 1. */
  level: number
}

/** Claps quieter than this are noise; a level as of {@link Clap}. From memory of rooms, no published source. */
export const LEAST_CLAP = 0.02
/** How many times the energy of the last fifth of a second a clap must have. */
const RISE = 12
/** So many hops of a stream are listened to before anything in it can be a clap. */
const WARM = 200
/** Nobody claps faster; what comes sooner is the same clap's echo. */
const REST: Seconds = 0.12
/** The attack lies within this many hops before the rise was noticed, its peak within as many after. */
const [BEFORE, AFTER] = [3, 6]
/** The attack is where a clap first reaches this share of its peak. */
const ATTACK = 0.3

/**
 * Finds claps in sound that arrives block by block: where the energy of the differenced signal, a millisecond at a time,
 * rises far above what went before. (Energy-based onset detection as described by Bello et al., "A tutorial on onset
 * detection in music signals", IEEE Trans. Speech and Audio Processing 13 (5), 2005, with thresholds of our own.)
 * @param rate samples a second
 * @param least level below which nothing is a clap
 * @returns takes a mono block and the time of its first sample, and gives the claps that are complete by its end
 */
export function clapListener(rate: number, least = LEAST_CLAP): (block: Float32Array, at: Seconds) => Clap[] {
  const hop = Math.max(1, Math.round(rate / 1000))
  const keep = (BEFORE + AFTER + 1) * hop
  /** The last differences, their newest at the end. */
  let recent = new Float32Array(0)
  let before = 0
  let floor = 0
  let hops = 0
  let filled = 0
  let energy = 0
  let last = Number.NEGATIVE_INFINITY
  /** Hops still to come until a clap's peak is known; 0 where none is under way. */
  let due = 0
  return (block, at) => {
    const steps = new Float32Array(block.length)
    for (let i = 0; i < block.length; i++) {
      steps[i] = (block[i] as number) - before
      before = block[i] as number
    }
    const all = new Float32Array(recent.length + steps.length)
    all.set(recent)
    all.set(steps, recent.length)
    const old = recent.length
    const claps: Clap[] = []
    for (let i = old; i < all.length; i++) {
      energy += (all[i] as number) ** 2
      if (++filled < hop) continue
      const mean = energy / hop
      filled = 0
      energy = 0
      const now = at + (i + 1 - old) / rate
      if (due > 0) {
        due--
        if (due === 0) claps.push(attackIn(all.subarray(Math.max(0, i + 1 - keep), i + 1), now, rate))
      } else if (hops > WARM && mean > RISE * floor && mean > (least / 4) ** 2 && now - last > REST) {
        last = now
        due = AFTER
      }
      hops++
      floor += (mean - floor) / Math.min(hops, WARM)
    }
    recent = all.slice(Math.max(0, all.length - keep))
    return claps.filter((c) => c.level >= least)
  }
}

/** Where the sound in a piece that ends at `end` begins. */
function attackIn(piece: Float32Array, end: Seconds, rate: number): Clap {
  const level = piece.reduce((most, x) => Math.max(most, Math.abs(x)), 0)
  const first = piece.findIndex((x) => Math.abs(x) >= ATTACK * level)
  return { at: end - (piece.length - first) / rate, level }
}
