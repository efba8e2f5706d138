import type { Ratio, Seconds } from '../time'
import { Edges } from './edges'
import { type Strokes, soundAt, strokeBefore } from './time-map'
import { type Channels, FRAME, HOP, Vocoder } from './vocoder'

/** A song that is stretched. */
export interface Song {
  channels: Channels
  rate: number
  strokes: Strokes
}

/** A frame takes phases from the sound where a stroke lies so near to its middle, in seconds of what is heard. */
const NEAR: Seconds = 0.034

/** A song from a place on at any speed, its pitch kept, a hop of samples at a time. */
export class Stretcher {
  private readonly vocoder: Vocoder
  /** The moment an even speed would have in the middle of the next frame. */
  private even: Seconds
  /** Frames that are missing in the next hop: of the first one, all that have a part in it or in the one after. */
  private framesLeft = FRAME / HOP + 1
  private readonly edges: Edges
  /** The moments of an even speed in the middles of the last three frames. */
  private readonly middles: Seconds[] = []

  /** @param from seconds of the song that are heard first @param speed may be set anew at any time */
  constructor(
    private readonly song: Song,
    from: Seconds,
    public speed: Ratio,
  ) {
    this.vocoder = new Vocoder(song.channels)
    this.edges = new Edges(song.channels.slice(0, 2), song.rate)
    // Every frame that has a part in the first hop: the first one lies a hop before it.
    this.even = from - (HOP / song.rate) * speed
  }

  /** Works out a part of the next hop: a frame of it. A hop is whole when there is nothing to do any more. */
  work(): void {
    this.frame()
    this.framesLeft--
    if (this.framesLeft > 1) this.vocoder.pass(null)
    else if (this.framesLeft === 1) this.hear()
  }

  /** Gives a hop that is whole to what mends its edges: it begins in the middle of the last frame but two. */
  private hear(): void {
    const [from, to] = this.middles as [Seconds, Seconds]
    this.edges.take((hop) => this.vocoder.pass(hop), from, ((to - from) * this.song.rate) / HOP)
  }

  /** True when the next hop can be had without work. */
  get isReady(): boolean {
    return this.framesLeft === 0
  }

  /** Writes the next hop, of `HOP` samples. @param out of as many channels as are asked for, two at most */
  next(out: Channels, at = 0): void {
    while (!this.isReady) this.work()
    this.hear()
    this.edges.tell(out, at, this.song.strokes)
    this.framesLeft = 1
  }

  private frame(): void {
    const { song, speed, even } = this
    const { rate, strokes } = song
    const i = strokeBefore(strokes, even)
    const near = NEAR * speed
    const stroke =
      even - (strokes[i] ?? Number.NEGATIVE_INFINITY) <= near ||
      (strokes[i + 1] ?? Number.POSITIVE_INFINITY) - even <= near
    this.vocoder.add(Math.round(soundAt(strokes, even, speed) * rate), stroke)
    this.middles.push(even)
    if (this.middles.length > 3) this.middles.shift()
    this.even += (HOP / rate) * speed
  }
}

/** A part of a song at a speed, as it sounds. */
export interface Part {
  /** Seconds of the song that are heard first; what lies outside of it is silence. */
  from: Seconds
  speed: Ratio
  /** Samples that are heard. */
  samples: number
}

/**
 * A part of a song, all at once. At full speed it is the song itself.
 * @param told how far it is, 0..1; may throw to stop
 * @returns as many channels as the song has, two at most
 */
export function stretched(
  song: Song,
  { from, speed, samples }: Part,
  told: (share: number) => void = () => {},
): Float32Array<ArrayBuffer>[] {
  const channels = song.channels.slice(0, 2)
  if (speed === 1) return channels.map((c) => cut(c, Math.round(from * song.rate), samples))
  const out = channels.map(() => new Float32Array(Math.ceil(samples / HOP) * HOP))
  const stretcher = new Stretcher(song, from, speed)
  for (let t = 0; t < samples; t += HOP) {
    if ((t / HOP) % TOLD === 0) told(t / samples)
    stretcher.next(out, t)
  }
  return out.map((c) => c.subarray(0, samples))
}
/** Progress is told once in so many hops: 1.5 s of sound. */
const TOLD = 64

/** Samples of a sound from one on; silence outside of it. */
export function cut(sound: Float32Array, from: number, samples: number): Float32Array<ArrayBuffer> {
  const out = new Float32Array(samples)
  const begin = Math.max(0, -from)
  if (begin < samples && from + begin < sound.length)
    out.set(sound.subarray(from + begin, Math.min(sound.length, from + samples)), begin)
  return out
}
