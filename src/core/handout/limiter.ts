import type { Seconds } from '../time'

/** No peak of what is handed out lies above this, between samples either: −1 dB of full scale (EBU R 128, maximum true peak level). */
export const CEILING = 10 ** (-1 / 20)

/** It gives way before a peak within this time, and is back to a third after that. */
const [BEFORE, BACK]: readonly [Seconds, Seconds] = [0.005, 0.08]

/** Peaks are looked for at four places a sample, each by so many samples on either side (after ITU-R BS.1770, annex 2). */
const [PLACES, AROUND] = [4, 8]

/** Weights of the samples around each place between two samples: a sinc under a Hann window. */
const WEIGHTS = Array.from({ length: PLACES - 1 }, (_, p) => {
  const shift = (p + 1) / PLACES
  const all = Array.from({ length: 2 * AROUND }, (_, i) => {
    const x = i - AROUND + 1 - shift
    return (Math.sin(Math.PI * x) / (Math.PI * x)) * (0.5 + 0.5 * Math.cos((Math.PI * x) / (AROUND + 1)))
  })
  // A steady value between samples is that value.
  const sum = all.reduce((a, b) => a + b)
  return all.map((w) => w / sum)
})

/** The highest peak at a sample and before the next. */
function peakAt(sound: Float32Array, i: number): number {
  let most = Math.abs(sound[i] as number)
  // Where all around is quiet nothing between can be loud.
  if (most < CEILING / 4 && Math.abs(sound[i + 1] ?? 0) < CEILING / 4) return most
  for (const weights of WEIGHTS) {
    let between = 0
    for (let k = 0; k < weights.length; k++)
      between += (weights[k] as number) * (sound[i - AROUND + 1 + k] ?? 0)
    most = Math.max(most, Math.abs(between))
  }
  return most
}

/** Keeps sound that comes piece by piece under the ceiling, with gentle hands: what is under it stays as it is. */
export class Limiter {
  private held: Float32Array<ArrayBuffer>[]
  /** Samples at the beginning of what is held that were given out, and stay for what looks back at them. */
  private past = 0
  private readonly before: number
  private readonly back: number
  private level = 1
  /** Levels of the samples just given out, for the mean over them. */
  private readonly levels: number[] = []
  private sum = 0

  constructor(channels: number, rate: number) {
    this.held = Array.from({ length: channels }, () => new Float32Array(0))
    this.before = Math.max(1, Math.round(BEFORE * rate))
    this.back = 1 - Math.exp(-1 / (BACK * rate))
  }

  /** Takes the next piece. @returns what is ready, from where the last left off: it comes a little late */
  add(sound: readonly Float32Array[]): Float32Array<ArrayBuffer>[] {
    this.held = this.held.map((held, c) => joined(held, sound[c] as Float32Array))
    const ready = (this.held[0]?.length ?? 0) - this.past - this.before - AROUND
    return this.give(Math.max(0, ready))
  }

  /** What is left when nothing more comes. */
  rest(): Float32Array<ArrayBuffer>[] {
    return this.give((this.held[0]?.length ?? 0) - this.past)
  }

  private give(samples: number): Float32Array<ArrayBuffer>[] {
    const { held, past, before } = this
    const needed = new Float64Array(samples + before)
    for (let i = 0; i < needed.length; i++) {
      let most = 0
      if (past + i < (held[0]?.length ?? 0)) for (const c of held) most = Math.max(most, peakAt(c, past + i))
      needed[i] = most > CEILING ? CEILING / most : 1
    }
    const out = held.map((c) => c.slice(past, past + samples))
    /** The next sample that is too loud. */
    let next = nextLoud(needed, 0)
    for (let i = 0; i < samples; i++) {
      if (next < i) next = nextLoud(needed, i)
      const level = this.levelFor(next < i + before ? leastOf(needed, next, i + before) : 1)
      if (level < 1) for (const c of out) c[i] = (c[i] as number) * level
    }
    const kept = Math.min(past + samples, AROUND)
    this.held = held.map((c) => c.slice(past + samples - kept))
    this.past = kept
    return out
  }

  /** The next level: down at once and back slowly, as a mean over the time before, so that it moves without a corner. */
  private levelFor(least: number): number {
    this.level = Math.min(least, this.level + (1 - this.level) * this.back)
    // So near to nothing that it is nothing: what is quiet again is left as it is.
    if (least === 1 && this.level > 0.9999) this.level = 1
    this.levels.push(this.level)
    this.sum += this.level
    if (this.levels.length > this.before) this.sum -= this.levels.shift() as number
    const mean = this.sum / this.levels.length
    return mean > 0.99999 ? 1 : mean
  }
}

function nextLoud(list: Float64Array, from: number): number {
  for (let i = from; i < list.length; i++) if ((list[i] as number) < 1) return i
  return Number.POSITIVE_INFINITY
}

function leastOf(list: Float64Array, from: number, to: number): number {
  let least = 1
  for (let i = from; i < to; i++) least = Math.min(least, list[i] as number)
  return least
}

function joined(a: Float32Array, b: Float32Array): Float32Array<ArrayBuffer> {
  const out = new Float32Array(a.length + b.length)
  out.set(a)
  out.set(b, a.length)
  return out
}
