'use client'

import { createContext, useContext } from 'react'
import { createStore, useStore } from 'zustand'
import type { Performance } from '@/audio/conductor'
import { listenToMicrophone } from '@/audio/microphone'
import type { Filter } from '@/audio/music'
import type { Calls } from '@/core/choreo'
import { APP_VOICES, type AppVoice, drillTimeline, type SpokenWord } from '@/core/drill'
import { type DeskState, deskStep } from '@/core/floor'
import { wordsOf } from '@/core/formats/said'
import { USUAL_STEP_BACK, USUAL_VOLUMES, type Volumes } from '@/core/loudness'
import type { CalledVoice } from '@/core/routine'
import type { SongMeasure } from '@/core/stretch'
import { clampSpeed, type Ratio, type Stretch, type Ticks, tickOfTime } from '@/core/time'
import { fetchOwnCounts, type OwnCount } from './api'
import { useCursor } from './cursor'
import type { Page } from './page'
import { PlayerDevice } from './player-device'
import {
  heardVolumes,
  keepAppVoice,
  keepOwnVoice,
  keepStepBack,
  keepVolumes,
  keptAppVoice,
  keptOwnVoice,
  keptStepBack,
  keptVolumes,
  type Sounding,
} from './player-levels'
import { type KeptMeasure, type Loading, PlayerSong } from './player-song'

interface PlayerState {
  loading: Loading
  playing: boolean
  speed: Ratio
  volumes: Volumes
  /** By how many decibels the song steps back under what is said. */
  stepBack: number
  /** Which voice of the app counts. */
  appVoice: AppVoice
  /** Which part of the song's sound is let through. */
  filter: Filter
  /** Words being made ready for the caller; null when none are. */
  words: { ready: number; all: number } | null
  problem: string
}

/** A measure that is not kept is found again on the next page. */
const UNKEPT: KeptMeasure = { get: async () => null, put: async () => {} }

/** Playing the open song on every station: who joins its sound, the device, what plays at the desk, and how loud. */
export class Player {
  readonly state = createStore<PlayerState>(() => ({
    loading: { kind: 'idle' },
    playing: false,
    speed: 1,
    volumes: USUAL_VOLUMES,
    stepBack: USUAL_STEP_BACK,
    appVoice: APP_VOICES[0],
    filter: 'all',
    words: null,
    problem: '',
  }))
  private readonly song: PlayerSong
  private readonly device: PlayerDevice
  private asked = 0
  private desk: DeskState = { playing: false, said: '' }
  private page: Page | null = null
  /** Lays out what plays at the desk at the speed that is set; null where that has a speed of its own. */
  private lay: ((from: Ticks, to: Ticks) => Performance['first']) | null = null
  /** What to do when the sound stops by itself: sleep, a device that is gone. The desk's own way where nobody else has one. */
  private interrupted: (() => void) | null = null
  private sound: Sounding = 'both'

  constructor(url: string, kept: KeptMeasure = UNKEPT) {
    this.song = new PlayerSong(url, (loading) => this.state.setState({ loading }), kept)
    this.device = new PlayerDevice({
      song: () => this.audio(),
      measure: () => this.measure(),
      ready: async (c) => {
        c.setFilter(this.state.getState().filter)
        c.setStepBack(this.state.getState().stepBack)
        await c.speakAs(this.state.getState().appVoice).catch(() => {})
        if (this.ownVoice) await c.countWith(await this.ownCounts()).catch(() => {})
      },
      lost: () => this.lose('The sound stopped: the device changed, or this computer slept.'),
    })
  }

  private get open() {
    return this.device.open
  }

  private ready() {
    return this.device.ready()
  }

  /** Takes over what this device last used; only in the browser. */
  restore(): void {
    this.state.setState({ volumes: keptVolumes(), stepBack: keptStepBack(), appVoice: keptAppVoice() })
  }

  /** The decoded song; asked again after a failure, it tries again. */
  audio(): Promise<AudioBuffer> {
    return this.song.audio()
  }

  /** Where the song's strokes lie, so that it can be slowed without smearing them, and how loud it is. */
  measure(): Promise<SongMeasure> {
    return this.song.measure()
  }

  /** Opens the device and the song before sound is asked for, so that it comes at once. What is wrong is told when it is. */
  prepare(): void {
    this.ready().catch(() => {})
  }

  /** While the floor is there it hears of that itself. @returns what ends it */
  onInterrupted(told: () => void): () => void {
    this.interrupted = told
    return () => {
      if (this.interrupted === told) this.interrupted = null
    }
  }

  /** The device took the sound away: the floor has its own way with it, at the desk it waits where it was heard last. */
  private lose(why: string): void {
    if (this.interrupted) this.interrupted()
    else this.tellDesk({ kind: 'lost', why, at: this.heardLast() })
  }

  private heardLast(): Ticks | null {
    return this.page && this.tickNow(this.page)
  }

  private tellDesk(event: Parameters<typeof deskStep>[1]): void {
    const { state, effects } = deskStep(this.desk, event)
    this.desk = state
    for (const effect of effects) {
      if (effect.kind === 'silence') this.stop()
      else useCursor.getState().to(effect.to)
    }
    if (state.said) this.state.setState({ problem: state.said })
  }

  /** Stops what plays at the desk; the cursor waits at the count that was heard last. */
  pause(page: Page): void {
    this.tellDesk({ kind: 'stop', at: this.tickNow(page) })
    // Whatever else sounds, a song that is tapped, say, has no place to wait at.
    if (this.state.getState().playing) this.stop()
  }

  /** Plays a performance; whatever played before stops. Resolves to false when there is no sound, with the reason told. */
  async perform(performance: Performance): Promise<boolean> {
    const mine = ++this.asked
    this.state.setState({ playing: true, problem: '' })
    try {
      const conductor = await this.ready()
      if (mine !== this.asked) return true
      conductor.setVolumes(this.heard())
      await conductor.play({
        ...performance,
        onEnd: () => {
          this.state.setState({ playing: false })
          this.desk = { playing: false, said: '' }
          performance.onEnd?.()
        },
      })
      // The speed was changed while the sound was being opened.
      if (mine === this.asked && performance.first.speed !== this.state.getState().speed) this.layAnew()
      return true
    } catch (error) {
      const why = wordsOf(error)
      if (mine === this.asked) this.state.setState({ playing: false, problem: `No sound: ${why}` })
      return mine !== this.asked
    }
  }

  /** What sounds in a drill: music, counts, or both; the volumes themselves stay. */
  mute(sound: Sounding): void {
    this.sound = sound
    this.open?.setVolumes(this.heard())
  }

  /** The volumes as they should be heard now. */
  private heard(): Volumes {
    return heardVolumes(this.state.getState().volumes, this.sound)
  }

  stop(): void {
    this.asked++
    this.open?.stop()
    this.state.setState({ playing: false })
  }

  /** Has words made ready in the background; what is ready is called. */
  async learn(words: readonly string[]): Promise<void> {
    const conductor = await this.ready().catch(() => null)
    // What cannot be made ready is counted instead of called.
    await conductor
      ?.learn(words, (ready, all) => this.state.setState({ words: ready < all ? { ready, all } : null }))
      .catch(() => this.state.setState({ words: null }))
  }

  /** Takes a recording that is not kept yet, to be heard. */
  async giveRecording(id: string, recording: SpokenWord): Promise<void> {
    const conductor = await this.ready()
    conductor.giveRecording(id, recording)
  }

  /** Has recordings of calls made ready; a voice that is not there is no reason not to dance. */
  async learnVoices(voices: readonly CalledVoice[]): Promise<void> {
    if (!voices.length) return
    const conductor = await this.ready().catch(() => null)
    await conductor?.learnRecordings(voices.map((x) => x.recording))
  }

  /**
   * Listens to the microphone beside whatever plays.
   * @param heard gets mono blocks, their rate, and the time of their first sample on the audio clock
   * @returns stops listening; rejects with a reason for people
   */
  async listen(
    heard: (block: Float32Array<ArrayBuffer>, rate: number, at: number) => void,
    lost: () => void,
  ): Promise<() => void> {
    const { context } = await this.ready()
    await context.resume()
    return listenToMicrophone(context, (block, at) => heard(block, context.sampleRate, at), lost)
  }

  /** Whether this device counts in the instructor's own voice. */
  get ownVoice(): boolean {
    return keptOwnVoice()
  }

  /** The instructor's own counts where this device counts with them; without them the voice of the app does. */
  async ownCounts(): Promise<OwnCount[]> {
    return this.ownVoice ? fetchOwnCounts().catch(() => []) : []
  }

  /** Who counts on this device: the instructor's own recordings, and else a voice of the app. */
  async voices(): Promise<{ own: OwnCount[]; as: AppVoice }> {
    return { own: await this.ownCounts(), as: this.state.getState().appVoice }
  }

  /** The voice of the app that counts from the next play on, and says the words. @throws Error where it cannot be had */
  async speakAs(appVoice: AppVoice): Promise<void> {
    this.state.setState({ appVoice })
    keepAppVoice(appVoice)
    await this.open?.speakAs(appVoice)
  }

  /** Counts in the instructor's own voice from now on; null is the voice of the app. */
  async countWith(own: readonly OwnCount[] | null): Promise<void> {
    keepOwnVoice(own !== null)
    await this.open?.countWith(own ?? [])
  }

  /** What was or will be heard at a time of the audio clock. */
  placeAt(time: number) {
    return this.open?.placeAt(time) ?? null
  }

  /** What is heard at this moment, or was some seconds ago. */
  now(ago = 0) {
    return this.open?.now(ago) ?? null
  }

  /** The position heard at this moment, or some seconds ago, as a real-valued tick. */
  tickNow(page: Page, ago = 0): number | null {
    const place = this.now(ago)
    // A song without counts yet plays all the same, to be tapped.
    if (!place || page.times.length < 2) return null
    const { timeline, countedIn } = place.leg
    // What was asked for sounds a moment later; until then it waits at its beginning, not before it.
    const into = countedIn ? place.into : Math.max(0, place.into)
    return tickOfTime(page.times, timeline.songStart + into * timeline.speed)
  }

  /**
   * Plays the song from a position to its end at the transport's speed.
   * @param loop what to play again and again instead; from its beginning, when the position lies outside
   * @param calls words the caller says instead of numbers
   */
  playFrom(
    page: Page,
    tick: Ticks,
    cues: readonly Ticks[],
    loop: Stretch | null = null,
    calls: Calls | null = null,
  ): void {
    const last = page.placed.at(-1)
    if (!last || tick >= last.end) return
    const timeline = (from: Ticks, to: Ticks) => {
      const { speed } = this.state.getState()
      return drillTimeline({ times: page.times, placed: page.placed, from, to, cues, ...calls }, speed, 0)
    }
    if (calls?.words.size) this.learn([...calls.words.values()].map((c) => c.word))
    this.learnVoices(calls?.voices ?? [])
    if (!loop) this.playOnce(page, timeline(tick, last.end))
    else {
      const from = tick >= loop.from && tick < loop.to ? tick : loop.from
      this.atDesk(page, {
        first: timeline(from, loop.to),
        next: () => ({ timeline: timeline(loop.from, loop.to), countIn: false }),
        into: 0,
      })
    }
    this.lay = timeline
  }

  /** Plays one stretch once at the desk, counted as the page is or otherwise. */
  playOnce(page: Page, timeline: Performance['first']): void {
    this.atDesk(page, { first: timeline, next: () => null, into: 0 })
  }

  private atDesk(page: Page, performance: Performance): void {
    this.mute('both')
    this.page = page
    this.lay = null
    this.tellDesk({ kind: 'play' })
    this.perform(performance)
  }

  /** Says something beside whatever plays; silence where it cannot be said. */
  async say(words: string): Promise<void> {
    const conductor = await this.ready().catch(() => null)
    conductor?.setVolumes({ ...this.heard(), voice: this.state.getState().volumes.voice })
    await conductor?.say(words).catch(() => {})
  }

  /** Lets only a part of the song's sound through, so that the beat is easier to find. */
  setFilter(filter: Filter): void {
    this.state.setState({ filter })
    this.open?.setFilter(filter)
  }

  /** What plays at the desk goes on at another speed at once. */
  setSpeed(speed: Ratio): void {
    this.state.setState({ speed: clampSpeed(speed) })
    this.layAnew()
  }

  /** What plays at the desk is laid out at the speed that is set now. */
  private layAnew(): void {
    const { lay } = this
    if (lay && this.desk.playing) this.open?.layAnew(({ from, to }) => lay(from, to))
  }

  setVolumes(volumes: Partial<Volumes>): void {
    const all = { ...this.state.getState().volumes, ...volumes }
    this.state.setState({ volumes: all })
    this.open?.setVolumes(this.heard())
    keepVolumes(all)
  }

  /** By how many decibels the song steps back under what is said. */
  setStepBack(stepBack: number): void {
    this.state.setState({ stepBack })
    this.open?.setStepBack(stepBack)
    keepStepBack(stepBack)
  }

  /** Gives the audio device back, also where it is only just being opened. */
  close(): void {
    this.stop()
    this.device.close()
  }
}

const Context = createContext<Player | null>(null)
export const PlayerProvider = Context.Provider

export function usePlayer(): Player {
  const player = useContext(Context)
  if (!player) throw new Error('no player here')
  return player
}

/** Reads from the player's state. */
export function usePlayerState<T>(pick: (state: PlayerState) => T): T {
  return useStore(usePlayer().state, pick)
}
