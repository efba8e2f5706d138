import { type Complex, fastTransform, plainTransform, type Transform } from './transform'

/** Samples of a frame, and from frame to frame; meant for 44.1 kHz, where a frame lasts 93 ms. */
export const FRAME = 4096
export const HOP = FRAME / 4

/** A part of the spectrum begins to sound where it has so much more energy than a hop before. */
const JUMP = 2

/** A Hann window. Laid over one another four times, its squares add up to one and a half everywhere. */
const WINDOW = Float64Array.from({ length: FRAME }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / FRAME))
const LEVEL = 1 / 1.5

/** Sound in one or two channels, as long as each other. */
export type Channels = readonly Float32Array[]

/** A spectrum of two real channels in one. */
type Spectrum = Complex

/**
 * A phase vocoder whose peaks are locked (Laroche & Dolson 1999, "Improved phase vocoder time-scale modification of audio"),
 * for any way through a sound. How far a peak's phase has turned is taken from two frames of the sound one hop apart, the
 * distance at which frames are heard: so it needs no unwrapping, and where the sound runs at its own speed it comes out as
 * it is. Where a stroke begins, what begins to sound takes its phases from the sound itself (after Röbel 2003, "A new
 * approach to transient processing in the phase vocoder"). Both channels are turned alike, so that the picture stays.
 */
export class Vocoder {
  private now: Spectrum
  /** A hop before it in the sound. */
  private before: Spectrum
  /** What was heard last. */
  private heard: Spectrum
  private readonly energy = new Float64Array(FRAME / 2 + 1)
  /** The same a hop before. */
  private readonly earlier = new Float64Array(FRAME / 2 + 1)
  private readonly peaks = new Int32Array(FRAME / 2)
  /** What is heard from the last frame's middle on, before what follows is added: two channels. */
  private readonly sum = [new Float64Array(FRAME), new Float64Array(FRAME)] as const
  /** Where the frame before lay; null for none. */
  private last: number | null = null

  constructor(
    private readonly sound: Channels,
    private readonly transform: Transform = transformOfAll(),
  ) {
    const { frame } = transform
    const silence = () =>
      frame instanceof Float32Array ? new Float32Array(frame.length) : new Float64Array(frame.length)
    this.now = silence()
    this.before = silence()
    this.heard = silence()
  }

  /**
   * One frame more is heard, a hop after the one before.
   * @param at the sample of the sound in its middle; what lies outside of the sound is silence
   * @param stroke a stroke is in it, near its middle
   */
  add(at: number, stroke: boolean): void {
    const spare = this.before
    if (this.last !== null && at - this.last === HOP) {
      this.before = this.now
      this.now = spare
    } else if (this.last !== null) this.look(at - HOP, this.before)
    this.look(at, this.now)
    if (this.last === null) this.heard.set(this.now)
    else this.turn(stroke)
    this.last = at
    this.overlap()
  }

  /** The spectrum of a frame of the sound. */
  private look(at: number, into: Spectrum): void {
    const { frame } = this.transform
    const [left, right] = this.sound as [Float32Array, Float32Array?]
    const begin = at - FRAME / 2
    const from = Math.min(FRAME, Math.max(0, -begin))
    const to = Math.max(from, Math.min(FRAME, left.length - begin))
    if (from > 0 || to < FRAME || !right) frame.fill(0)
    if (right)
      for (let i = from, a = begin + from, b = 2 * from; i < to; i++, a++, b += 2) {
        const level = WINDOW[i] as number
        frame[b] = (left[a] as number) * level
        frame[b + 1] = (right[a] as number) * level
      }
    else for (let i = from; i < to; i++) frame[2 * i] = (left[begin + i] as number) * (WINDOW[i] as number)
    this.transform.forward(into)
  }

  /** What is heard of this frame: each peak goes on from where it was, with all around it. */
  private turn(stroke: boolean): void {
    const { now, energy, peaks } = this
    energiesOf(now, energy)
    if (stroke) energiesOf(this.before, this.earlier)
    const found = peaksIn(energy, peaks)
    let begin = 0
    for (let p = 0; p < found; p++) {
      const q = peaks[p] as number
      const end = p + 1 < found ? (((peaks[p + 1] as number) + q) >> 1) + 1 : FRAME / 2 + 1
      this.turnPeak(q, begin, end, stroke && this.jumps(begin, end))
      begin = end
    }
    if (!found) this.heard.set(now)
  }

  /**
   * Turns a peak and what belongs to it, from one frequency to another: by the phase that is heard of it now, less what the
   * sound had a hop before; of both channels together, so that the louder one counts for more.
   * @param asItIs it is heard with the phases of the sound
   */
  private turnPeak(q: number, begin: number, end: number, asItIs: boolean): void {
    const { now, before, heard } = this
    let re = 1
    let im = 0
    if (!asItIs) {
      const a = 2 * q
      const b = 2 * (FRAME - q)
      const yr = heard[a] as number
      const yi = heard[a + 1] as number
      const xr = before[a] as number
      const xi = before[a + 1] as number
      const vr = heard[b] as number
      const vi = heard[b + 1] as number
      const wr = before[b] as number
      const wi = before[b + 1] as number
      const dot = yr * xr + yi * xi + vr * wr + vi * wi
      const cross = yi * xr - yr * xi + vr * wi - vi * wr
      const size = Math.sqrt(dot * dot + cross * cross)
      re = size > 0 ? dot / size : 1
      im = size > 0 ? cross / size : 0
    }
    for (let k = begin; k < end; k++) {
      const a = 2 * k
      const x = now[a] as number
      const y = now[a + 1] as number
      // The lowest and the highest frequency are their own mirror, and have no phase to turn.
      if (k === 0 || a === FRAME) {
        heard[a] = x * re
        heard[a + 1] = y * re
        continue
      }
      heard[a] = x * re - y * im
      heard[a + 1] = x * im + y * re
      // The mirror turns the other way.
      const b = 2 * FRAME - a
      const u = now[b] as number
      const v = now[b + 1] as number
      heard[b] = u * re + v * im
      heard[b + 1] = v * re - u * im
    }
  }

  /** True where a part of the spectrum begins to sound. */
  private jumps(begin: number, end: number): boolean {
    let here = 0
    let then = 0
    for (let k = begin; k < end; k++) {
      here += this.energy[k] as number
      then += this.earlier[k] as number
    }
    return here > JUMP * then
  }

  /** Adds the frame to what is heard. */
  private overlap(): void {
    const { frame, level: whole } = this.transform
    const [left, right] = this.sum
    this.transform.inverse(this.heard)
    for (let i = 0; i < FRAME; i++) {
      const level = (WINDOW[i] as number) * LEVEL * whole
      left[i] = (left[i] as number) + (frame[2 * i] as number) * level
      right[i] = (right[i] as number) + (frame[2 * i + 1] as number) * level
    }
  }

  /** Goes a hop further. @param out gets that hop; every frame that has a part in it was added */
  pass(out: Channels | null, from = 0): void {
    for (const [c, to] of (out ?? []).entries()) {
      const sum = this.sum[c] as Float64Array
      for (let i = 0; i < HOP; i++) to[from + i] = sum[i] as number
    }
    for (const sum of this.sum) {
      sum.copyWithin(0, HOP)
      sum.fill(0, FRAME - HOP)
    }
  }
}

let transform: Transform | null = null

/** Everything is stretched by a faster transform from now on, where this machine can run it. @returns whether it can */
export function stretchFaster(program: BufferSource): boolean {
  const fast = fastTransform(program, FRAME)
  transform = fast ?? transform
  return fast !== null
}

/** The transform everything is stretched by. */
export function transformOfAll(): Transform {
  transform ??= plainTransform(FRAME)
  return transform
}

/** Energy of both channels at each frequency, doubled. */
function energiesOf(spectrum: Spectrum, into: Float64Array): void {
  for (let k = 0; k <= FRAME / 2; k++) {
    const a = 2 * k
    const b = k === 0 ? 0 : 2 * FRAME - a
    const x = spectrum[a] as number
    const y = spectrum[a + 1] as number
    const u = spectrum[b] as number
    const v = spectrum[b + 1] as number
    into[k] = x * x + y * y + u * u + v * v
  }
}

/** Finds what is louder than two neighbours on either side. @returns how many there are */
function peaksIn(energy: Float64Array, into: Int32Array): number {
  let n = 0
  for (let k = 2; k < energy.length - 2; k++) {
    const e = energy[k] as number
    if (
      e > (energy[k - 1] as number) &&
      e > (energy[k - 2] as number) &&
      e > (energy[k + 1] as number) &&
      e > (energy[k + 2] as number)
    )
      into[n++] = k
  }
  return n
}
