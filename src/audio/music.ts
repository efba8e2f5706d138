import type { StretchNode } from 'signalsmith-stretch'
import type { Ratio, Seconds } from '@/core/time'
import { channelsOf } from './song'

/** The stretching worklet is served as a file of its own: bundled, it cannot load itself. */
export const STRETCH_MODULE = '/stretch/SignalsmithStretch.mjs'
/** Which part of the song's sound is let through. */
export type Filter = 'all' | 'low' | 'high'
/** Kick and bass lie below, hats and the attack of a snare above. Common practice, no published source. */
const EDGES = { low: 160, high: 5000 }
/** Two pieces of the song are cross-faded over this long where they join. */
const JOIN: Seconds = 0.004

/**
 * Plays stretches of one song at any speed with the pitch kept: a plain buffer at exactly full tempo, the stretching
 * worklet at all others.
 */
export class Music {
  private readonly sources = new Set<AudioBufferSourceNode>()
  private readonly out: GainNode
  /** Opens the worklet's sound for the length of a piece: the worklet itself holds one future change only. */
  private readonly gate: GainNode
  private filters: BiquadFilterNode[] = []

  private constructor(
    private readonly context: BaseAudioContext,
    readonly song: AudioBuffer,
    /** Null where the browser has no worklets, as at addresses that are not safe: full speed only. */
    private readonly stretch: StretchNode | null,
    private readonly to: AudioNode,
  ) {
    this.out = context.createGain()
    this.out.connect(to)
    this.gate = context.createGain()
    this.gate.gain.value = 0
    stretch?.connect(this.gate).connect(this.out)
  }

  /** Loads the song into both players. */
  static async load(
    context: BaseAudioContext,
    song: AudioBuffer,
    to: AudioNode,
    moduleUrl = STRETCH_MODULE,
  ): Promise<Music> {
    if (!context.audioWorklet) return new Music(context, song, null, to)
    // Loaded when there is a song to play.
    const { default: createStretch } = await import('signalsmith-stretch')
    createStretch.moduleUrl = moduleUrl
    // One input, though nothing is connected: the worklet reads its first input's length.
    const stretch = await createStretch(context, {
      numberOfInputs: 1,
      numberOfOutputs: 1,
      outputChannelCount: [2],
    })
    const channels = channelsOf(song)
    await stretch.addBuffers(
      channels,
      channels.map((c) => c.buffer),
    )
    return new Music(context, song, stretch, to)
  }

  /**
   * Plays the song from `songTime` at context time `when` for `length` seconds of context time.
   * What lies before the song or after it is silence.
   * @param joined true when a piece played before ends exactly at `when`
   * @returns when the worklet has taken it in
   */
  play(when: Seconds, songTime: Seconds, rate: Ratio, length: Seconds, joined: boolean): Promise<unknown> {
    if (rate === 1) {
      const told = this.stretch?.schedule({ output: when, active: false })
      this.playBuffer(when, songTime, length)
      return Promise.resolve(told)
    }
    if (!this.stretch) return Promise.resolve()
    const told = this.stretch.schedule({ output: when, input: songTime, rate, active: true })
    const { gain } = this.gate
    if (joined) gain.cancelScheduledValues(when - 2 * JOIN)
    else gain.setValueAtTime(0, Math.max(0, when - JOIN))
    gain.linearRampToValueAtTime(1, when)
    gain.setValueAtTime(1, when + length - JOIN)
    gain.linearRampToValueAtTime(0, when + length)
    return told
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

  /** Silence from `when` on. */
  rest(when: Seconds): void {
    this.stretch?.schedule({ output: when, active: false })
  }

  /** Stops everything at once. */
  stop(): void {
    for (const source of this.sources) source.stop()
    this.sources.clear()
    this.gate.gain.cancelScheduledValues(0)
    this.gate.gain.setValueAtTime(0, this.context.currentTime)
    this.stretch?.schedule({ output: 0, active: false })
  }

  /** Lets go of the worklet and the song. */
  release(): void {
    this.stop()
    this.stretch?.dropBuffers()
    this.stretch?.disconnect()
    this.out.disconnect()
    for (const f of this.filters) f.disconnect()
  }
}
