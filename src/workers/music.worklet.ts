/* Plays a song at any speed on the audio clock, and limits all that is heard. Bundled by scripts/made.mjs: a worklet loads nothing. */
import { Limiter } from '@/core/loudness'
import { type MusicMessage, type Song, SongVoices, stretchFaster } from '@/core/stretch'
import transform from '../../node_modules/@echogarden/pffft-wasm/dist/simd/pffft.wasm'

declare const sampleRate: number
declare const currentFrame: number
declare class AudioWorkletProcessor {
  readonly port: MessagePort
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void

// Where it cannot be run, everything is stretched all the same.
stretchFaster(transform)

class MusicProcessor extends AudioWorkletProcessor {
  private readonly voices = new SongVoices(sampleRate)
  private song: Song | null = null
  private over = false

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<MusicMessage>) => this.take(data)
  }

  private take(message: MusicMessage): void {
    if (message.kind === 'stop') this.voices.stop()
    else if (message.kind === 'cut') this.voices.cut(message.at)
    else if (message.kind === 'play') this.voices.play(message.play)
    // The song goes on with strokes it did not know before.
    else if (message.kind === 'strokes' && this.song) this.song.strokes = message.strokes
    else if (message.kind === 'song') {
      this.song = message.song
      this.over = message.song === null
      this.voices.load(message.song)
    }
    if ('number' in message) this.port.postMessage(message.number)
  }

  /** @returns false once its song was taken away: it is not asked again */
  process(_: Float32Array[][], [out]: Float32Array[][]): boolean {
    if (out?.[1]) this.voices.render(out, currentFrame)
    return !this.over
  }
}
registerProcessor('azalea-music', MusicProcessor)

class LimiterProcessor extends AudioWorkletProcessor {
  private readonly limiter = new Limiter(2, sampleRate)

  process([heard]: Float32Array[][], [out]: Float32Array[][]): boolean {
    if (!out) return true
    // Nothing is connected while nothing plays.
    for (const [c, channel] of out.entries()) if (heard?.[c]) channel.set(heard[c])
    this.limiter.limit(out)
    return true
  }
}
registerProcessor('azalea-limiter', LimiterProcessor)
