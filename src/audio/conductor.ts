import {
  type AppVoice,
  type DrillTimeline,
  firstLeg,
  type Leg,
  legAfter,
  legAnew,
  type SpokenWord,
  songOf,
} from '@/core/drill'
import { factorsOf, USUAL_STEP_BACK, USUAL_VOLUMES, type Volumes } from '@/core/loudness'
import { type SongMeasure, UNMEASURED } from '@/core/stretch'
import type { Seconds } from '@/core/time'
import { balanceFor, eventsFrom, type Heard, saidIn } from './balance'
import { CalledSounds } from './called-sounds'
import { evenClock } from './clock'
import { Counts } from './counts'
import { type Filter, Music } from './music'
import { Output } from './output'
import type { CountSound } from './schedule'
import { SONG_RATE } from './song'
import { clicks, loadVoice, type Sounds } from './sounds'
import { StepBack } from './step-back'

/** What to play: a first repetition, and whatever follows it. */
export interface Performance {
  first: DrillTimeline
  /** The repetition after number k ended, or null to end; asked a moment before it is due. */
  next: (k: number) => { timeline: DrillTimeline; countIn: boolean } | null
  /** Leave out the count-in and begin this far into the body. */
  into?: Seconds
  /** Called as soon as a repetition was heard to its end. */
  onLeg?: (leg: Leg) => void
  onEnd?: () => void
}

/** Where a conductor's sounds come from. */
export interface SoundSource {
  voice?: (context: BaseAudioContext) => Promise<Pick<Sounds, 'voice' | 'recordings'>>
  /** Address of the worklet that plays a song. */
  worklet?: string
}

/** Where the sound is now. */
export interface Place {
  leg: Leg
  /** Seconds since the body began; negative in the count-in. */
  into: Seconds
}

/** How far ahead sound is put on the clock; a hidden tab's timers fire once a second. */
const AHEAD: Seconds = 1.3
const WAKE_MS = 60
/** A device that has not begun after so many turns of the page's own will not: where the machine is busy they come late, too. */
const [TURNS, TURN_MS] = [80, 100]
/** Time between asking and the first sound, so that the worklet can settle. */
const SETTLE: Seconds = 0.16

/** What is changed while it plays is heard so long after. */
const SOON: Seconds = 0.06

/** Plays performances on one audio clock: music, clicks and called counts. */
export class Conductor {
  private readonly gains: Record<keyof Volumes, GainNode>
  private readonly stepBack: StepBack
  private readonly counts: Counts
  private readonly called: CalledSounds
  private music: Music | null = null
  private measure: SongMeasure = UNMEASURED
  private volumes = USUAL_VOLUMES
  private back: number = USUAL_STEP_BACK
  private legs: Leg[] = []
  private performance: Performance | null = null
  private timer: ReturnType<typeof setInterval> | null = null
  private ended = false
  private reporting = false
  /** What the performance began with. */
  private first: Heard | null = null
  private readonly clock = evenClock(
    () => this.context.currentTime,
    () => performance.now() / 1000,
  )

  private constructor(
    readonly context: AudioContext,
    sounds: Sounds,
    private readonly output: Output,
    private readonly worklet?: string,
  ) {
    const gain = () => {
      const g = context.createGain()
      g.connect(output.node)
      return g
    }
    this.gains = { music: gain(), clicks: gain(), voice: gain() }
    this.stepBack = new StepBack(context)
    this.setStepBack(this.back)
    this.stepBack.node.connect(this.gains.music)
    this.counts = new Counts(context, { click: this.gains.clicks, voice: this.gains.voice }, sounds)
    this.called = new CalledSounds(context, sounds)
    context.addEventListener('statechange', this.changed)
  }

  /** Sleep, a device that is gone, a browser that wants its sound back: whatever played has stopped being heard. */
  private readonly changed = () => {
    if (this.context.state !== 'running' && this.performance && this.begun) this.onInterrupted?.()
  }

  /** Called when the device stops while something plays. */
  onInterrupted: (() => void) | null = null
  private begun = false

  /**
   * Opens the audio device and loads the counting voice.
   * @param from where the voice, the recordings of calls and the stretching worklet come from: the server, where nothing is said
   */
  static async open(from: SoundSource = {}): Promise<Conductor> {
    const context = new AudioContext({ sampleRate: SONG_RATE, latencyHint: 'interactive' })
    try {
      const { voice, recordings } = from.voice
        ? await from.voice(context)
        : { voice: await loadVoice(context, 'clear'), recordings: new Map<string, SpokenWord>() }
      const sounds: Sounds = { ...clicks(context), as: 'clear', voice, recordings, pieces: new Map() }
      return new Conductor(context, sounds, await Output.open(context, from.worklet), from.worklet)
    } catch (error) {
      // Without its voice it is no conductor: the device is given back, and the next press tries again.
      await context.close().catch(() => {})
      throw error
    }
  }

  /**
   * Gives the conductor a song; the one before is let go.
   * @param measure what is known of it, as soon as that is: it can be played before
   */
  async setSong(song: AudioBuffer, measure: Promise<SongMeasure>): Promise<void> {
    this.stop()
    this.music?.release()
    const music = await Music.load(this.context, song, this.stepBack.node, this.worklet)
    this.music = music
    this.measure = UNMEASURED
    // Without it, it is slowed a little less sharply, and as loud as most records.
    measure.then(
      (known) => {
        if (this.music !== music) return
        this.measure = known
        music.setStrokes(known.strokes)
        this.setVolumes(this.volumes)
        this.balance()
      },
      () => {},
    )
  }

  setVolumes(volumes: Volumes): void {
    this.volumes = volumes
    this.setStepBack(this.back)
    const factors = factorsOf(volumes, this.measure.loudness)
    for (const part of ['music', 'clicks', 'voice'] as const)
      this.gains[part].gain.setTargetAtTime(factors[part], this.context.currentTime, 0.015)
  }

  /** By how many decibels the song steps back under what is said. */
  setStepBack(decibels: number): void {
    this.back = decibels
    // Under what is not heard it stays.
    this.stepBack.setDecibels(this.volumes.voice > 0 ? decibels : 0)
  }

  /** Lets only a part of the song's sound through. */
  setFilter(filter: Filter): void {
    this.music?.setFilter(filter)
  }

  /** Counts with the instructor's own recordings where there are any; an empty list is the voice of the app. */
  countWith(recorded: Parameters<CalledSounds['countWith']>[0]): Promise<void> {
    return this.called.countWith(recorded)
  }

  /** Counts with another voice of the app from the next play on. */
  speakAs(voice: AppVoice): Promise<void> {
    return this.called.speakAs(voice)
  }

  /** Gets words that are to be called. @param told how many of them are there */
  learn(words: readonly string[], told: (ready: number, all: number) => void): Promise<void> {
    return this.called.learn(words, told)
  }

  /** Gets recordings of calls. */
  learnRecordings(ids: readonly string[]): Promise<void> {
    return this.called.learnRecordings(ids)
  }

  /** Takes a recording that is not kept yet. */
  giveRecording(id: string, recording: SpokenWord): void {
    this.called.giveRecording(id, recording)
  }

  /** Says something at once, beside whatever plays. @returns when it is said */
  async say(words: string): Promise<void> {
    await this.context.resume()
    const { buffer } = await this.called.word(words)
    const source = this.context.createBufferSource()
    source.buffer = buffer
    source.connect(this.gains.voice)
    const now = this.context.currentTime
    this.stepBack.add([{ from: now, to: now + buffer.duration }])
    source.start()
    await new Promise<void>((done) => {
      source.onended = () => done()
    })
  }

  /** Starts a performance; one under way is stopped. Call it from a key press or a click. */
  async play(performance: Performance): Promise<void> {
    this.stop()
    this.performance = performance
    try {
      await this.awake()
    } catch (error) {
      if (this.performance === performance) this.stop()
      throw error
    }
    if (this.performance !== performance) return
    this.begun = true
    const begin = this.context.currentTime + SETTLE
    const { first, into } = performance
    const leg: Leg =
      into === undefined
        ? firstLeg(first, begin)
        : { k: 0, start: begin - into, timeline: first, countedIn: false }
    this.first = { leg, into: into ?? 0, sounds: this.add(leg, into) }
    this.balance()
    this.timer = setInterval(() => this.wake(), WAKE_MS)
  }

  /** Waits until the device runs. @throws Error in words for people where it does not */
  private async awake(): Promise<void> {
    let timer: ReturnType<typeof setInterval> | undefined
    let turns = 0
    const late = new Promise<never>((_, refuse) => {
      const why =
        'the sound device does not start. Check that headphones or a loudspeaker are there, then try again.'
      timer = setInterval(() => ++turns > TURNS && refuse(new Error(why)), TURN_MS)
    })
    await Promise.race([this.context.resume(), late]).finally(() => clearInterval(timer))
  }

  /**
   * What plays goes on laid out anew, at another speed say, from the same place of the song; it is heard so within a tenth of
   * a second. What has not begun yet begins so. In a count-in it is not.
   * @param lay the same counts anew
   */
  layAnew(lay: (timeline: DrillTimeline) => DrillTimeline): void {
    const at = this.context.currentTime + SOON
    // The end of a repetition is left as it is: what follows it is laid out anew.
    const i = this.legs.findIndex((l) => at <= l.start + l.timeline.body - SOON)
    const old = this.legs[i]
    if (!this.performance || !old || (old.countedIn && at < old.start)) return
    const { leg, into } =
      at < old.start
        ? { leg: { ...old, timeline: lay(old.timeline) }, into: 0 }
        : legAnew(old, at, lay(old.timeline))
    this.takeBack(leg.start + into)
    this.legs = this.legs.slice(0, i)
    // What follows is asked for again.
    this.ended = false
    this.add(leg, into)
  }

  /** Whatever would begin at a time or later is not heard. */
  private takeBack(at: Seconds): void {
    this.counts.takeBack(at)
    this.stepBack.takeBack(at)
    this.music?.cut(at)
  }

  /** Stops at once. */
  stop(): void {
    if (this.timer) clearInterval(this.timer)
    this.timer = null
    this.counts.stop()
    this.stepBack.stop()
    this.legs = []
    this.ended = false
    this.begun = false
    this.performance = null
    this.music?.stop()
  }

  /** Gives the device back. */
  close(): void {
    this.stop()
    this.music?.release()
    this.context.removeEventListener('statechange', this.changed)
    // A device that is gone already cannot be closed once more.
    this.context.close().catch(() => {})
  }

  get playing(): boolean {
    return this.performance !== null
  }

  /** What is heard at this moment, or was some seconds ago; null when nothing plays. */
  now(ago: Seconds = 0): Place | null {
    // Nobody is shown the next repetition before the one that ended was told of.
    if (this.performance && this.begun) this.report(this.performance)
    return this.placeAt(this.clock() - ago)
  }

  /** What is heard when the audio clock shows a time, by what the device says of its own delay. */
  placeAt(time: Seconds): Place | null {
    const first = this.legs[0]
    if (!first) return null
    const t = time - this.output.delay - (this.context.outputLatency || this.context.baseLatency || 0)
    let leg = first
    // A repetition begins with its count-in.
    for (const l of this.legs) if (t >= l.start - (l.countedIn ? l.timeline.lead : 0)) leg = l
    return { leg, into: t - leg.start }
  }

  /** @param into null for all of it */
  private add(leg: Leg, into: Seconds | null = null): CountSound[] {
    const { timeline } = leg
    this.legs.push(leg)
    const sounds = this.counts.add(eventsFrom(leg, into), leg.start)
    this.stepBack.add(saidIn(sounds))
    const song = songOf(timeline, leg.countedIn, into ?? 0)
    this.music
      ?.play(leg.start + (into ?? 0) - song.before, song.from, timeline.speed, song.seconds)
      // The worklet is gone with its device, which is told by the device.
      .catch(() => {})
    return sounds
  }

  /** What follows is as loud as what began. */
  private balance(): void {
    if (this.first) this.output.balance(balanceFor([this.first], this.measure, this.volumes))
  }

  private wake() {
    const p = this.performance
    const last = this.legs.at(-1)
    if (!p || !last) return
    this.counts.fill()
    const t = this.context.currentTime
    const end = last.start + last.timeline.body
    // A short body is not followed up before it has begun.
    const ahead = Math.min(AHEAD, last.timeline.body * 0.6)
    if (!this.ended && t > end - ahead && t > last.start) {
      const next = p.next(last.k)
      if (next) {
        const countedIn = next.countIn && next.timeline.lead > 0
        this.add(legAfter(last, next.timeline, countedIn))
      } else this.ended = true
    }
    this.report(p)
  }

  /** Tells of repetitions that were heard to their end, and of the end of all. */
  private report(p: Performance) {
    // Who is told of one may ask for the place: what follows is told after it, not within.
    if (this.reporting) return
    this.reporting = true
    try {
      this.tellHeard(p)
    } finally {
      this.reporting = false
    }
  }

  private tellHeard(p: Performance) {
    const heard = this.clock() - this.output.delay - (this.context.outputLatency || 0)
    while (this.legs.length && heard >= (this.legs[0] as Leg).start + (this.legs[0] as Leg).timeline.body) {
      const done = this.legs.shift() as Leg
      p.onLeg?.(done)
      if (this.performance !== p) return
    }
    if (this.ended && this.legs.length === 0) {
      this.stop()
      p.onEnd?.()
    }
  }
}
