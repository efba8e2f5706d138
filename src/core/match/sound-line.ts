import type { Seconds } from '../time'
import { TraceMaker } from './trace'

/** A piece of a film's sound, its channels as one. */
export interface SoundPiece {
  /** When it begins, in seconds of the film. */
  at: Seconds
  rate: number
  samples: Float32Array
}

/** Less than this is the clock's grain, not a hole. */
const HOLE: Seconds = 1 / 100
/** Pieces that lie so much over each other are cut. */
const OVER: Seconds = 1 / 500

/**
 * Lays pieces of sound where their times say, from the film's very beginning: a hole is silent, and what lies before the beginning
 * or over what came is not heard.
 */
export class SoundLine {
  private came = 0

  /** @param add takes samples, one after another @param rate samples a second */
  constructor(
    private readonly add: (samples: Float32Array) => void,
    private readonly rate: number,
  ) {}

  lay({ at, samples }: Pick<SoundPiece, 'at' | 'samples'>): void {
    const { rate } = this
    const missing = Math.round(at * rate) - this.came
    if (missing > HOLE * rate) {
      this.add(new Float32Array(missing))
      this.came += missing
    }
    const early = missing < -OVER * rate ? Math.min(samples.length, -missing) : 0
    this.add(samples.subarray(early))
    this.came += samples.length - early
  }
}

/** What is laid on a line becomes a trace. */
export function traceLine(rate: number): { maker: TraceMaker; line: SoundLine } {
  const maker = new TraceMaker(rate)
  return { maker, line: new SoundLine((samples) => maker.add(samples), rate) }
}
