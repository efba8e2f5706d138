'use client'

import { createContext, useContext } from 'react'
import { createStore, useStore } from 'zustand'
import { Conductor, type Levels, type Performance } from '@/audio/conductor'
import { listenToMicrophone } from '@/audio/microphone'
import type { Band } from '@/audio/music'
import { decodeSong, fetchSong } from '@/audio/song'
import type { Calls } from '@/core/choreo'
import { drillTimeline } from '@/core/drill'
import { clampSpeed, type Ratio, type Ticks, tickOfTime } from '@/core/time'
import { fetchOwnCounts, type OwnCount } from './api'
import type { Page } from './page'

/** How far the song is from being playable. */
export type Loading =
  | { kind: 'idle' }
  | { kind: 'fetching'; share: number }
  | { kind: 'decoding' }
  | { kind: 'ready' }
  | { kind: 'problem'; why: string }

interface PlayerState {
  loading: Loading
  playing: boolean
  speed: Ratio
  levels: Levels
  /** Which part of the song's sound is let through. */
  band: Band
  /** Words being made ready for the caller; null when none are. */
  words: { ready: number; all: number } | null
  problem: string
}

const LEVELS: Levels = { music: 0.7, clicks: 0.45, voice: 0.9 }
const KEPT = 'azalea-levels'
const OWN_VOICE = 'azalea-own-voice'

/** Levels as this device last had them. */
function keptLevels(): Levels {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Partial<Levels>
    const one = (k: keyof Levels) =>
      typeof kept[k] === 'number' && kept[k] >= 0 && kept[k] <= 1 ? kept[k] : LEVELS[k]
    return { music: one('music'), clicks: one('clicks'), voice: one('voice') }
  } catch {
    return LEVELS
  }
}

/** The sound of the open song: fetching and decoding it once, and playing from it on every station. */
export class Player {
  readonly state = createStore<PlayerState>(() => ({
    loading: { kind: 'idle' },
    playing: false,
    speed: 1,
    levels: LEVELS,
    band: 'all',
    words: null,
    problem: '',
  }))
  private conductor: Promise<Conductor> | null = null
  private open: Conductor | null = null
  private song: Promise<AudioBuffer> | null = null
  private asked = 0
  /** What to do when the sound stops by itself: sleep, a device that is gone. */
  interrupted: (() => void) | null = null
  private sound: 'counts' | 'music' | 'both' = 'both'

  constructor(private readonly url: string) {}

  /** Takes over what this device last used; only in the browser. */
  restore(): void {
    this.state.setState({ levels: keptLevels() })
  }

  /** The decoded song; asked again after a failure, it tries again. */
  audio(): Promise<AudioBuffer> {
    this.song ??= this.load().catch((error: unknown) => {
      this.song = null
      this.state.setState({
        loading: { kind: 'problem', why: error instanceof Error ? error.message : String(error) },
      })
      throw error
    })
    return this.song
  }

  private async load(): Promise<AudioBuffer> {
    const say = (loading: Loading) => this.state.setState({ loading })
    say({ kind: 'fetching', share: 0 })
    const bytes = await fetchSong(this.url, (share) => say({ kind: 'fetching', share }))
    say({ kind: 'decoding' })
    const buffer = await decodeSong(bytes)
    say({ kind: 'ready' })
    return buffer
  }

  private async ready(): Promise<Conductor> {
    const song = this.audio()
    // Opened within the key press or click that asked for sound.
    this.conductor ??= Conductor.open().then(async (c) => {
      await c.setSong(await song)
      c.setBand(this.state.getState().band)
      this.open = c
      // Without them the voice of the app counts.
      if (localStorage.getItem(OWN_VOICE) === 'yes')
        await fetchOwnCounts().then(
          (own) => c.countWith(own),
          () => {},
        )
      c.onInterrupted = () => this.interrupted?.()
      return c
    })
    this.conductor.catch(() => {
      this.conductor = null
    })
    return this.conductor
  }

  /** Plays a performance; whatever played before stops. Resolves to false when there is no sound, with the reason told. */
  async perform(performance: Performance): Promise<boolean> {
    const mine = ++this.asked
    this.state.setState({ playing: true, problem: '' })
    try {
      const conductor = await this.ready()
      if (mine !== this.asked) return true
      conductor.setLevels(this.heard())
      await conductor.play({
        ...performance,
        onEnd: () => {
          this.state.setState({ playing: false })
          performance.onEnd?.()
        },
      })
      return true
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error)
      if (mine === this.asked) this.state.setState({ playing: false, problem: `No sound: ${why}` })
      return mine !== this.asked
    }
  }

  /** What sounds in a drill: music, counts, or both; the levels themselves stay. */
  mute(sound: 'counts' | 'music' | 'both'): void {
    this.sound = sound
    this.open?.setLevels(this.heard())
  }

  /** The levels as they should be heard now. */
  private heard(): Levels {
    const { music, clicks, voice } = this.state.getState().levels
    return {
      music: this.sound === 'counts' ? 0 : music,
      clicks: this.sound === 'music' ? 0 : clicks,
      voice: this.sound === 'music' ? 0 : voice,
    }
  }

  stop(): void {
    this.asked++
    this.open?.stop()
    this.state.setState({ playing: false })
  }

  /** Has words made ready in the background; what is ready is called. */
  async learn(words: readonly string[]): Promise<void> {
    const conductor = await this.ready().catch(() => null)
    await conductor?.learn(words, (ready, all) =>
      this.state.setState({ words: ready < all ? { ready, all } : null }),
    )
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
    return localStorage.getItem(OWN_VOICE) === 'yes'
  }

  /** Counts in the instructor's own voice from now on; null is the voice of the app. */
  async countWith(own: readonly OwnCount[] | null): Promise<void> {
    localStorage.setItem(OWN_VOICE, own ? 'yes' : 'no')
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
    if (!place) return null
    const { timeline } = place.leg
    return tickOfTime(page.times, timeline.songStart + place.into * timeline.speed)
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
    loop: { from: Ticks; to: Ticks } | null = null,
    calls: Calls | null = null,
  ): void {
    const last = page.placed.at(-1)
    if (!last || tick >= last.end) return
    const { speed } = this.state.getState()
    this.mute('both')
    const timeline = (from: Ticks, to: Ticks) =>
      drillTimeline({ times: page.times, placed: page.placed, from, to, cues, ...calls }, speed, 0)
    if (calls?.words.size) this.learn([...calls.words.values()])
    if (!loop) return void this.perform({ first: timeline(tick, last.end), next: () => null, into: 0 })
    const inside = tick >= loop.from && tick < loop.to
    const again = timeline(loop.from, loop.to)
    this.perform({
      first: inside ? timeline(tick, loop.to) : again,
      next: () => ({ timeline: again, countIn: false }),
      into: 0,
    })
  }

  /** Says something beside whatever plays; silence where it cannot be said. */
  async say(words: string): Promise<void> {
    const conductor = await this.ready().catch(() => null)
    conductor?.setLevels({ ...this.heard(), voice: this.state.getState().levels.voice })
    await conductor?.say(words).catch(() => {})
  }

  /** Lets only a part of the song's sound through, so that the beat is easier to find. */
  setBand(band: Band): void {
    this.state.setState({ band })
    this.open?.setBand(band)
  }

  setSpeed(speed: Ratio): void {
    this.state.setState({ speed: clampSpeed(speed) })
  }

  setLevels(levels: Partial<Levels>): void {
    const all = { ...this.state.getState().levels, ...levels }
    this.state.setState({ levels: all })
    this.open?.setLevels(this.heard())
    localStorage.setItem(KEPT, JSON.stringify(all))
  }

  /** Gives the audio device back. */
  close(): void {
    this.stop()
    this.open?.context.close()
    this.open = null
    this.conductor = null
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
