import type { Seconds } from '../time'
import { type Lufs, loudnessOf, loudnessOfPieces, PIECE } from './loudness'
import { levelAlong, type Toward } from './step-back'

/** How loud each part is, 0..1, as a person sets it. */
export interface Volumes {
  music: number
  clicks: number
  voice: number
}

/** What is set until somebody sets something else. */
export const USUAL_VOLUMES: Volumes = { music: 0.7, clicks: 0.45, voice: 0.9 }
/** The song steps back under what is said by so many decibels. */
export const STEPS_BACK = [0, 3, 6, 9, 12] as const
export const USUAL_STEP_BACK = 6

/** What is heard altogether is this loud, LUFS: between −16 and −14, as usual for sound that is heard on any device. */
export const LOUD = -15
/** It is made louder for that by so much at the most: what is hardly there is left so. */
const MOST = 2

/** Before that, at the usual volumes: the song's loudness, a word's, and clicks below their own, so that each stands out. */
const SONG = -17.5
const WORD = -15.5
const CLICKS = 0.59

/** Loudness of a song nobody measured yet: of a record of these years. From memory, no published source. */
const UNKNOWN = -10
/** What is very quiet is made louder by so much at the most, decibels. */
const FARTHEST = 20

const factor = (decibels: number) => 10 ** (decibels / 20)
/** A number of decibels as a factor, of the song while something is said. */
export const stepBackLevel = (decibels: number) => factor(-decibels)

/**
 * Volumes as factors of each part's sound.
 * @param song its loudness; null where that is not known
 */
export function factorsOf(volumes: Volumes, song: Lufs): Volumes {
  return {
    music: (volumes.music / USUAL_VOLUMES.music) * factor(Math.min(FARTHEST, SONG - (song ?? UNKNOWN))),
    clicks: volumes.clicks * CLICKS,
    voice: volumes.voice / USUAL_VOLUMES.voice,
  }
}

/** Makes what is said as loud as all else that is: changes it. @param rate samples a second */
export function levelSaid(sound: Float32Array, rate: number): void {
  const loudness = loudnessOf([sound], rate)
  if (loudness === null) return
  const by = factor(Math.min(FARTHEST, WORD - loudness))
  for (let i = 0; i < sound.length; i++) sound[i] = (sound[i] as number) * by
}

/** A sound on its place: its weighted energy, and the factor it is heard with. */
export interface Placed {
  at: Seconds
  pieces: ArrayLike<number>
  by: number
}

/** A part of the song on its place. */
export interface PlacedSong {
  at: Seconds
  seconds: Seconds
  from: Seconds
  speed: number
  by: number
}

/**
 * Loudness of what is to be heard, before it is: energies add up where sounds have nothing to do with each other.
 * @param song its own weighted energy
 * @param back how it steps back
 */
export function loudnessOfMix(
  sounds: readonly Placed[],
  songs: readonly PlacedSong[],
  song: ArrayLike<number>,
  back: readonly Toward[],
): Lufs {
  const begin = Math.min(...sounds.map((s) => s.at), ...songs.map((s) => s.at))
  const end = Math.max(
    ...sounds.map((s) => s.at + s.pieces.length * PIECE),
    ...songs.map((s) => s.at + s.seconds),
  )
  if (!(end > begin)) return null
  const out = new Float64Array(Math.ceil((end - begin) / PIECE) + 1)
  for (const { at, pieces, by } of sounds) {
    const first = Math.floor((at - begin) / PIECE)
    for (let k = 0; k < pieces.length; k++)
      out[first + k] = (out[first + k] as number) + by * by * (pieces[k] as number)
  }
  const level = levelAlong(back)
  for (const s of [...songs].sort((a, b) => a.at - b.at)) {
    const first = Math.floor((s.at - begin) / PIECE)
    for (let k = 0; k * PIECE < s.seconds; k++) {
      const by = s.by * level(s.at + (k + 0.5) * PIECE)
      const there = song[Math.floor((s.from + (k + 0.5) * PIECE * s.speed) / PIECE)] ?? 0
      out[first + k] = (out[first + k] as number) + by * by * there
    }
  }
  return loudnessOfPieces(out)
}

/** By how much something of a loudness is made louder, or quieter, so that it is as loud as all that is heard. */
export const balanceOf = (loudness: Lufs) => (loudness === null ? 1 : Math.min(MOST, factor(LOUD - loudness)))
