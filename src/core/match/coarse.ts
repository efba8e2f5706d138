import type { Ratio, Seconds } from '../time'
import { Correlator } from './correlator'
import { BANDS, TRACE_RATE, type Trace } from './trace'

/* A coarse picture of a sound, on which windows of a film are looked up in a song at any speed. */

/** What is looked up is this long in the film, and begins so often. */
export const [WINDOW, HOP]: [Seconds, Seconds] = [8, 4]
/** Frames of the fine picture in one of the coarse, and bands in one. */
const [FRAMES_IN, BANDS_IN] = [4, 2]
export const RATE = TRACE_RATE / FRAMES_IN
export const WIDE = BANDS / BANDS_IN

/** Speeds that are looked for, so far apart: half a step moves the end of a window by 40 ms, one frame of the coarse picture. */
const [SLOWEST, FASTEST, STEP]: [Ratio, Ratio, Ratio] = [0.4, 1.11, 0.01]
/** The coarse picture: RATE frames a second of WIDE bands. */
export interface Coarse {
  frames: number
  data: Float32Array
}

export function coarse({ frames, data }: Trace): Coarse {
  const n = Math.floor(frames / FRAMES_IN)
  const out = new Float32Array(n * WIDE)
  for (let f = 0; f < n * FRAMES_IN; f++)
    for (let b = 0; b < BANDS; b++) {
      const i = Math.floor(f / FRAMES_IN) * WIDE + Math.floor(b / BANDS_IN)
      out[i] = (out[i] as number) + (data[f * BANDS + b] as number)
    }
  return { frames: n, data: out }
}

/** Where a window of a film may lie in the song, at a speed. */
interface Guess {
  /** In the film. */
  time: Seconds
  rate: Ratio
  /** In the song, where the window begins. */
  at: Seconds
  like: number
}

/** Every speed that is looked for. */
export const RATES: readonly Ratio[] = Array.from(
  { length: Math.round((FASTEST - SLOWEST) / STEP) + 1 },
  (_, i) => Math.round((SLOWEST + i * STEP) * 100) / 100,
)

/** Where the song is much quieter than the window, or only begins in it, that counts against it. */
export const FULL = 0.4
/** Looks windows of a film up in a song, by correlation over all bands at once. */
export class Lookup {
  private readonly lead = Math.round(WINDOW * FASTEST * RATE)
  private readonly correlator: Correlator
  /** Sums of squares of the song up to each frame, silence before and after it. */
  private readonly squares: Float64Array
  /** The window that is looked up, as it would be at the song's own speed. */
  private readonly window = new Float32Array(this.lead * WIDE)

  constructor(
    private readonly song: Coarse,
    private readonly film: Coarse,
  ) {
    this.correlator = new Correlator(song, WIDE, this.lead, this.lead)
    const size = song.frames + 2 * this.lead
    this.squares = new Float64Array(size + 1)
    for (let i = 0; i < size; i++) {
      let e = 0
      for (let b = 0; b < WIDE; b++) e += (song.data[(i - this.lead) * WIDE + b] ?? 0) ** 2
      this.squares[i + 1] = (this.squares[i] as number) + e
    }
  }

  /** The likeliest places of a window at a speed. */
  places(time: Seconds, rate: Ratio): Guess[] {
    const n = Math.round(WINDOW * rate * RATE)
    const own = this.takeWindow(time, rate, n)
    if (own < 1e-6) return []
    this.correlator.look(this.window, 0, n)
    const { squares, lead } = this
    const { answer } = this.correlator
    const like = (i: number) =>
      (answer[i] as number) /
      Math.sqrt(own * Math.max(FULL * own, (squares[i + n] ?? squares.at(-1) ?? 0) - (squares[i] as number)))
    // The likeliest, and the likeliest that is not beside it.
    const tops: [number, number][] = []
    for (let i = lead - n + 1; i < lead + this.song.frames - 1; i++) {
      const l = like(i)
      const worst = tops.at(-1)
      if (tops.length === 2 && worst && l <= worst[1]) continue
      const near = tops.findIndex(([j]) => Math.abs(i - j) < RATE / 2)
      if (near >= 0) {
        if (l > (tops[near] as [number, number])[1]) tops[near] = [i, l]
      } else tops.push([i, l])
      tops.sort((x, y) => y[1] - x[1])
      tops.length = Math.min(2, tops.length)
    }
    return tops.map(([i, l]) => ({ time, rate, at: (i - lead) / RATE, like: l }))
  }

  /** Takes a window of the film as it would be at the song's own speed. @returns its sum of squares */
  private takeWindow(time: Seconds, rate: Ratio, n: number): number {
    const { window } = this
    const { data } = this.film
    let own = 0
    for (let i = 0; i < n; i++) {
      // Between frames by straight lines.
      const x = time * RATE + i / rate
      const [k, between] = [Math.floor(x), x - Math.floor(x)]
      for (let b = 0; b < WIDE; b++) {
        const v = (data[k * WIDE + b] ?? 0) * (1 - between) + (data[(k + 1) * WIDE + b] ?? 0) * between
        window[i * WIDE + b] = v
        own += v * v
      }
    }
    return own
  }
}
