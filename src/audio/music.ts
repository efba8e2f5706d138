import { JOIN, type MusicMessage, type Play, type Song } from '@/core/stretch'
import type { Ratio, Seconds } from '@/core/time'
import { channelsOf } from './song'

/** The worklet that plays a song: a file of its own, made at set-up. */
export const MUSIC_MODULE = '/stretch/music.js'
/** Which part of the song's sound is let through. */
export type Filter = 'all' | 'low' | 'high'
/** Kick and bass lie below, hats and the attack of a snare above. Common practice, no published source. */
const EDGES = { low: 160, high: 5000 }

/** Plays parts of one song at any speed with the pitch kept. */
export class Music {
  private readonly sources = new Set<AudioBufferSourceNode>()
  private readonly out: GainNode
  private filters: BiquadFilterNode[] = []
  private told = 0
  private readonly waiting = new Map<number, () => void>()

  private constructor(
    private readonly context: BaseAudioContext,
    readonly song: AudioBuffer,
    /** Null where the browser has no worklets, as at addresses that are not safe: full speed only. */
    private readonly worklet: AudioWorkletNode | null,
    private readonly to: AudioNode,
  ) {
    this.out = context.createGain()
    this.out.connect(to)
    worklet?.connect(this.out)
    if (worklet)
      worklet.port.onmessage = ({ data }: MessageEvent<number>) => {
        this.waiting.get(data)?.()
        this.waiting.delete(data)
      }
  }

  /** Loads the song into the player. @param moduleUrl of the worklet */
  static async load(
    context: BaseAudioContext,
    song: AudioBuffer,
    to: AudioNode,
    moduleUrl = MUSIC_MODULE,
  ): Promise<Music> {
    if (!context.audioWorklet) return new Music(context, song, null, to)
    await context.audioWorklet.addModule(moduleUrl)
    const node = new AudioWorkletNode(context, 'azalea-music', { numberOfInputs: 0, outputChannelCount: [2] })
    const music = new Music(context, song, node, to)
    const channels = channelsOf(song)
    const number = music.told++
    await music.tell(
      { kind: 'song', song: { channels, rate: song.sampleRate, strokes: new Float64Array(0) }, number },
      channels.map((c) => c.buffer),
    )
    return music
  }

  /** Tells the worklet something. @returns when it has taken it in, where it has a number */
  private tell(message: MusicMessage, transfer: Transferable[] = []): Promise<void> {
    this.worklet?.port.postMessage(message, transfer)
    if (!this.worklet || !('number' in message)) return Promise.resolve()
    return new Promise((taken) => this.waiting.set(message.number, taken))
  }

  /** Where the song's strokes lie: from now on they are heard as they were played, however slowly. */
  setStrokes(strokes: Song['strokes']): void {
    this.tell({ kind: 'strokes', strokes })
  }

  /**
   * Plays the song from `songTime` at context time `when` for `length` seconds of context time.
   * What lies before the song or after it is silence; a part that ends where this begins is faded into it.
   * @returns when the worklet has taken it in
   */
  play(when: Seconds, songTime: Seconds, rate: Ratio, length: Seconds): Promise<void> {
    if (!this.worklet) {
      if (rate === 1) this.playBuffer(when, songTime, length)
      return Promise.resolve()
    }
    const { sampleRate } = this.context
    const at = Math.round(when * sampleRate)
    const samples = Math.round((when + length) * sampleRate) - at
    // From the sample that is played, not from the moment it stands for.
    const from = songTime + (at / sampleRate - when) * rate
    const play: Play = { at, samples, from, speed: rate }
    return this.tell({ kind: 'play', play, number: this.told++ })
  }

  /** What plays ends at a context time; what would begin later is not heard. */
  cut(when: Seconds): void {
    this.tell({ kind: 'cut', at: Math.round(when * this.context.sampleRate) })
    for (const source of this.sources) source.stop(when)
  }

  private playBuffer(when: Seconds, songTime: Seconds, length: Seconds) {
    const early = Math.min(JOIN, Math.max(0, songTime))
    const late = Math.max(0, -songTime)
    const source = this.context.createBufferSource()
    const fade = this.context.createGain()
    source.buffer = this.song
    source.connect(fade).connect(this.out)
    const start = when - early + late
    const end = when + length
    fade.gain.setValueAtTime(early > 0 ? 0 : 1, start)
    fade.gain.linearRampToValueAtTime(1, start + early)
    fade.gain.setValueAtTime(1, Math.max(start + early, end - JOIN))
    fade.gain.linearRampToValueAtTime(0, end)
    source.start(start, Math.max(0, songTime - early))
    source.stop(end)
    this.sources.add(source)
    source.onended = () => this.sources.delete(source)
  }

  /** Lets all of the song through, or only what lies below or above an edge, 24 dB an octave. */
  setFilter(filter: Filter): void {
    this.out.disconnect()
    for (const f of this.filters) f.disconnect()
    this.filters =
      filter === 'all'
        ? []
        : [0.54, 1.31].map((Q) => {
            // Two second-order sections make a fourth-order Butterworth filter; their Q in decibels.
            const type = filter === 'low' ? 'lowpass' : 'highpass'
            return new BiquadFilterNode(this.context, {
              type,
              frequency: EDGES[filter],
              Q: 20 * Math.log10(Q),
            })
          })
    let from: AudioNode = this.out
    for (const f of this.filters) from = from.connect(f)
    from.connect(this.to)
  }

  /** Stops everything at once. */
  stop(): void {
    for (const source of this.sources) source.stop()
    this.sources.clear()
    this.tell({ kind: 'stop' })
  }

  /** Lets go of the worklet and the song. */
  release(): void {
    this.stop()
    this.worklet?.port.postMessage({ kind: 'song', song: null, number: -1 } satisfies MusicMessage)
    this.worklet?.disconnect()
    this.out.disconnect()
    for (const f of this.filters) f.disconnect()
  }
}
