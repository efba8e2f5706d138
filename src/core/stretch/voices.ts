import type { Ratio, Seconds } from '../time'
import { type Song, Stretcher } from './stretcher'
import { type Channels, HOP } from './vocoder'

/** Two parts of the song are cross-faded over this long where they join, in seconds of what is heard. */
export const JOIN: Seconds = 0.004
/** A part is worked out ahead from so long before it begins: frames of it come one at a time. */
const AHEAD: Seconds = 0.15

/** A part of the song that is to be heard. Times are samples of the clock that plays. */
export interface Play {
  /** When it is heard first, and how long. */
  at: number
  samples: number
  /** Seconds of the song that are heard then. */
  from: Seconds
  speed: Ratio
}

/** What the one who plays is told. A message with a number is answered by it once it is taken in. */
export type MusicMessage =
  | { kind: 'song'; song: Song | null; number: number }
  | { kind: 'strokes'; strokes: Song['strokes'] }
  | { kind: 'play'; play: Play; number: number }
  /** What is heard ends at a sample of the clock. */
  | { kind: 'cut'; at: number }
  | { kind: 'stop' }

/** One part that is being heard, or will be. */
interface Voice extends Play {
  /** Null at full speed, where it is the song itself. */
  stretcher: Stretcher | null
  hop: [Float32Array, Float32Array]
  /** Samples of the hop that were heard. */
  used: number
  /** Something of it was heard. */
  begun: boolean
}

/**
 * Parts of one song at any speeds on a running clock, faded into one another. Not more than one frame of each part is worked
 * out at a time, so that a device that asks for three milliseconds of sound gets them in time.
 */
export class SongVoices {
  private song: Song | null = null
  private voices: Voice[] = []
  /** The clock at what is rendered next. */
  private now = 0
  private readonly join: number
  private readonly ahead: number

  /** @param rate samples a second of song and clock */
  constructor(private readonly rate: number) {
    this.join = Math.round(JOIN * rate)
    this.ahead = Math.round(AHEAD * rate)
  }

  /** Takes a song; null lets it go. */
  load(song: Song | null): void {
    this.song = song
    this.voices = []
  }

  /** A part is to be heard; the one that is heard until then is faded out where this begins. */
  play(play: Play): void {
    const { song, join } = this
    if (!song) return
    const hop: Voice['hop'] = [new Float32Array(HOP), new Float32Array(HOP)]
    const stretcher = play.speed === 1 ? null : this.stretcherAt(song, play, -join)
    this.voices.push({ ...play, stretcher, hop, used: HOP, begun: false })
  }

  /** What stretches a part from so many samples after its beginning on. */
  private stretcherAt(song: Song, { from, speed }: Play, after: number): Stretcher {
    return new Stretcher(song, from + (after / this.rate) * speed, speed)
  }

  /** What is heard at a sample ends there, faded out before it; what would begin later is not heard. */
  cut(at: number): void {
    this.voices = this.voices.filter((v) => v.at < at)
    for (const v of this.voices) v.samples = Math.min(v.samples, at - v.at)
  }

  /** What is heard fades out at once, and nothing else will be heard. */
  stop(): void {
    this.cut(this.now + this.join)
  }

  /** Adds what is heard. @param out two channels @param now the clock at the first sample of it */
  render(out: Channels, now: number): void {
    const samples = out[0]?.length ?? 0
    this.voices = this.voices.filter((v) => v.at + v.samples > now)
    for (const v of this.voices) {
      if (v.stretcher && now + samples + this.ahead > v.at && !v.stretcher.isReady) v.stretcher.work()
      this.add(v, out, now, samples)
    }
    this.now = now + samples
  }

  private add(v: Voice, out: Channels, now: number, samples: number): void {
    const { join } = this
    const end = v.at + v.samples
    // It begins before its time by as long as it is faded in.
    const from = Math.max(0, v.at - join - now)
    const to = Math.min(samples, end - now)
    if (to > from && !v.begun) {
      v.begun = true
      // Told of late, it begins where it would be by now.
      const late = now + from - v.at
      if (v.stretcher && late > -join) v.stretcher = this.stretcherAt(this.song as Song, v, late)
    }
    for (let i = from; i < to; i++) {
      const t = now + i
      const level = Math.min(1, (t - v.at + join) / join, (end - t) / join)
      this.sample(v, t, level, out, i)
    }
  }

  private sample(v: Voice, t: number, level: number, out: Channels, i: number): void {
    const [left, right] = out as [Float32Array, Float32Array]
    if (!v.stretcher) {
      const [a, b] = (this.song as Song).channels
      const at = Math.round(v.from * this.rate) + t - v.at
      const x = a?.[at] ?? 0
      left[i] = (left[i] as number) + level * x
      right[i] = (right[i] as number) + level * (b ? (b[at] ?? 0) : x)
      return
    }
    if (v.used === HOP) {
      v.stretcher.next(v.hop)
      v.used = 0
    }
    const x = v.hop[0][v.used] as number
    const y = v.hop[1][v.used] as number
    v.used++
    left[i] = (left[i] as number) + level * x
    right[i] = (right[i] as number) + level * ((this.song as Song).channels.length > 1 ? y : x)
  }
}
