import { songOf } from '../drill'
import type { Seconds } from '../time'
import type { SoundPlan } from './practice-sound'

/** A part of a practice sound that is rendered by itself: a repetition, or what is said before a rung. */
export interface SoundPart {
  /** Samples from the start of the whole; nothing of it sounds outside of these. */
  from: number
  to: number
  leg: SoundPlan['legs'][0] | null
  announced: SoundPlan['announced'][0] | null
}

/** A word begins at most so long before its stress. */
const EARLY: Seconds = 2.5
/** What is said last rings on so long. */
const LATE: Seconds = 4

/** The parts of a practice sound, by where they begin. @param rate samples a second */
export function soundParts(plan: SoundPlan, rate: number): SoundPart[] {
  // Downwards and upwards: what begins between two samples begins inside of its part.
  const part = (from: Seconds, to: Seconds, what: Pick<SoundPart, 'leg' | 'announced'>): SoundPart => ({
    ...what,
    from: Math.max(0, Math.floor(from * rate)),
    to: Math.min(soundLength(plan, rate), Math.ceil(to * rate)),
  })
  return [
    ...plan.announced.map((announced) => part(announced.at, announced.at + LATE, { leg: null, announced })),
    ...plan.legs.map((leg) => {
      const { start, timeline } = leg
      return part(start - timeline.lead - EARLY, start + timeline.body + LATE, { leg, announced: null })
    }),
  ].sort((a, b) => a.from - b.from)
}

/** Samples of the whole. */
export const soundLength = (plan: SoundPlan, rate: number) => Math.round(plan.seconds * rate)

/** Music fades in before its first sound and out before its last in so long: cut off at once it would click. */
const FADE: Seconds = 0.004

/** The music of one repetition. */
export interface MusicPiece {
  /** Its first sample's place, from the start of the whole. */
  at: number
  frames: number
  /** Where in the song that sample lies. */
  from: Seconds
}

/** Where the song is heard in a repetition. */
export function musicPiece(leg: SoundPlan['legs'][0], rate: number): MusicPiece {
  const heard = songOf(leg.timeline, leg.countedIn)
  const start = leg.start - heard.before
  const at = Math.max(0, Math.floor((start - FADE) * rate))
  return {
    at,
    frames: Math.round((start + heard.seconds) * rate) - at,
    from: heard.from + (at / rate - start) * leg.timeline.speed,
  }
}

/** Makes music as loud as it is to be, faded at both ends; in place. */
export function faded(music: readonly Float32Array[], level: number, rate: number): void {
  const fade = Math.round(FADE * rate)
  for (const sound of music)
    for (let i = 0; i < sound.length; i++)
      sound[i] = (sound[i] as number) * level * Math.min(1, i / fade, (sound.length - 1 - i) / fade)
}
