import type { Seconds } from '../time'
import type { SpokenWord } from './spoken'

/** The calls an instructor can record; all others stay with the voice of the app. */
export const OWN_CALLS = ['1', '2', '3', '4', '5', '6', '7', '8', '&'] as const

export type OwnCall = (typeof OWN_CALLS)[number]

/** Sound is looked at in pieces of this length. */
const HOP: Seconds = 0.01
/** So long it listens to the room before a word can begin. */
const ROOM: Seconds = 0.3
/** A word ends after so much quiet, and is no word below the shortest length. */
const QUIET: Seconds = 0.25
const [SHORTEST, LONGEST]: [Seconds, Seconds] = [0.06, 1.6]
/** What is kept before a word is noticed: a soft consonant comes before its vowel. */
const BEFORE: Seconds = 0.12
/** A word is so many times as loud as the room, and never quieter than this. From memory, no published source. */
const [ABOVE, LEAST] = [4, 0.01]

/**
 * Cuts words out of sound that arrives block by block.
 * @param rate samples a second
 * @returns takes a mono block; gives a word with a little of the quiet around it as soon as it has ended, else null
 */
export function wordListener(rate: number): (block: Float32Array) => SpokenWord | null {
  const hop = Math.round(HOP * rate)
  const hops = (s: Seconds) => Math.round(s / HOP)
  let piece: number[] = []
  const room: number[] = []
  /** The hops kept: those just before a word, or the word so far. */
  let kept: Float32Array[] = []
  let inWord = false
  let loud = 0
  let quiet = 0
  return (block) => {
    let word: SpokenWord | null = null
    for (const x of block) {
      piece.push(x)
      if (piece.length < hop) continue
      const samples = Float32Array.from(piece)
      piece = []
      const level = Math.sqrt(samples.reduce((s, y) => s + y * y, 0) / hop)
      kept.push(samples)
      if (room.length < hops(ROOM)) {
        room.push(level)
        continue
      }
      const noise = [...room].sort((a, b) => a - b)[room.length >> 1] as number
      const threshold = Math.max(LEAST, ABOVE * noise)
      if (!inWord) {
        if (kept.length > hops(BEFORE)) kept.shift()
        if (level > threshold) {
          inWord = true
          loud = 1
          quiet = 0
        } else {
          // The room changes: what is quiet is learned anew.
          room.push(level)
          room.shift()
        }
        continue
      }
      if (level > threshold / 2) {
        quiet = 0
        loud++
      } else quiet++
      if (quiet < hops(QUIET) && kept.length < hops(LONGEST)) continue
      if (loud >= hops(SHORTEST)) {
        const all = new Float32Array(kept.length * hop)
        kept.forEach((k, i) => {
          all.set(k, i * hop)
        })
        word = { rate, samples: all }
      }
      kept = []
      inWord = false
    }
    return word
  }
}
