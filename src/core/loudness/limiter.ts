import type { Seconds } from '../time'
import { AROUND, peakAt } from './peaks'

/** No peak of what is heard or handed out lies above this, between samples either: −1 dB of full scale (EBU R 128). */
export const CEILING = 10 ** (-1 / 20)

/** It gives way before a peak within this time, and is back to a third after that. */
const [BEFORE, BACK]: readonly [Seconds, Seconds] = [0.005, 0.08]

/** What a limiter gives out lies so many samples behind what comes in. */
export const limiterDelay = (rate: number) => Math.max(1, Math.round(BEFORE * rate)) + AROUND

/** Keeps sound that comes piece by piece under the ceiling, with gentle hands: what is under it stays as it is. */
export class Limiter {
  /** What is given out lies so many samples behind what comes in. */
  readonly delay: number
  /** For each channel, what was given out of late and still is looked back at, what is held, and what comes in. */
  private held: Float32Array<ArrayBuffer>[]
  private readonly past: number
  private readonly before: number
  private readonly back: number
  private level = 1
  /** By how much each of the next samples would have to give way: a ring. */
  private readonly needed: Float64Array
  /** Of these, how many samples ago the last came that has to. */
  private since = Number.POSITIVE_INFINITY
  /** Levels of the samples just given out, for the mean over them: a ring, empty at the beginning. */
  private readonly levels: Float64Array
  private count = 0
  private sum = 0

  /** @param rate samples a second */
  constructor(
    readonly channels: number,
    rate: number,
  ) {
    this.before = Math.max(1, Math.round(BEFORE * rate))
    this.back = 1 - Math.exp(-1 / (BACK * rate))
    this.delay = limiterDelay(rate)
    this.past = this.delay + AROUND
    this.held = Array.from({ length: channels }, () => new Float32Array(this.past))
    this.needed = new Float64Array(this.before).fill(1)
    this.levels = new Float64Array(this.before)
  }

  /** Changes the next piece, one array a channel, into what is heard then: what came in `delay` samples before. */
  limit(piece: readonly Float32Array[]): void {
    const samples = piece[0]?.length ?? 0
    const { past, held } = this
    if ((held[0]?.length ?? 0) < past + samples)
      this.held = held.map((c) => {
        const more = new Float32Array(past + samples)
        more.set(c)
        return more
      })
    for (let c = 0; c < piece.length; c++) this.held[c]?.set(piece[c] as Float32Array, past)
    for (let i = 0; i < samples; i++) {
      const level = this.levelFor(past + i - AROUND)
      for (let c = 0; c < piece.length; c++)
        (piece[c] as Float32Array)[i] =
          ((this.held[c] as Float32Array)[past + i - this.delay] as number) * level
    }
    for (const c of this.held) c.copyWithin(0, samples, samples + past)
  }

  /** The level of the sample that is given out, where the peak at a place is the newest that is known. */
  private levelFor(newest: number): number {
    const { before, needed } = this
    let most = 0
    for (const c of this.held) most = Math.max(most, peakAt(c, newest, CEILING))
    needed[this.count % before] = most > CEILING ? CEILING / most : 1
    this.since = most > CEILING ? 0 : this.since + 1
    let least = 1
    if (this.since < before) for (let i = 0; i < before; i++) least = Math.min(least, needed[i] as number)
    return this.levelToward(least)
  }

  /** The next level: down at once and back slowly, as a mean over the time before, so that it moves without a corner. */
  private levelToward(least: number): number {
    this.level = Math.min(least, this.level + (1 - this.level) * this.back)
    // So near to nothing that it is nothing: what is quiet again is left as it is.
    if (least === 1 && this.level > 0.9999) this.level = 1
    const at = this.count % this.before
    if (this.count >= this.before) this.sum -= this.levels[at] as number
    this.levels[at] = this.level
    this.sum += this.level
    this.count++
    const mean = this.sum / Math.min(this.count, this.before)
    return mean > 0.99999 ? 1 : mean
  }
}

/** Limits a whole sound that comes in pieces of any length: nothing is late, and all of it is given out. */
export class PieceLimiter {
  private readonly limiter: Limiter
  private late: number

  constructor(channels: number, rate: number) {
    this.limiter = new Limiter(channels, rate)
    this.late = this.limiter.delay
  }

  /** Takes the next piece and changes it. @returns what is ready, from where the last left off: it comes a little late */
  add(piece: readonly Float32Array<ArrayBuffer>[]): Float32Array<ArrayBuffer>[] {
    this.limiter.limit(piece)
    const skipped = Math.min(this.late, piece[0]?.length ?? 0)
    this.late -= skipped
    return piece.map((c) => c.subarray(skipped))
  }

  /** What is left when nothing more comes. */
  rest(): Float32Array<ArrayBuffer>[] {
    return this.add(Array.from({ length: this.limiter.channels }, () => new Float32Array(this.limiter.delay)))
  }
}
