import { decodeSong } from '@/audio/song'
import { bytesOf } from '@/core/formats/base64'
import { countsInCopy } from '@/core/handout'
import { matchSong } from '@/ui/state/match'

declare const MATCH_WORKER: string

/** A learner's own copy of the song, with where each count falls in it; null for counts it has not got. */
export interface Copy {
  name: string
  audio: AudioBuffer
  places: (number | null)[]
}

/** Counts of the dance a copy must have, to be the song. */
const ENOUGH = 0.5

/** Why a copy is not taken, and what to do. */
const refusedWords = (there: number, all: number): string =>
  there
    ? `Only ${there} of ${all} counts of the dance are in this copy: it is cut short, or another version. Choose the whole song, as your instructor has it.`
    : 'This is another song, or another recording of it (live, a remix). Choose the one your instructor uses; a copy up to 4 % faster or slower is found.'

/**
 * Finds where a copy of the song has the counts.
 * @param times when each count falls in the instructor's copy
 * @param sound how that sounds, base64
 * @throws Error in words where it is another song
 */
export async function laidOnCopy(
  file: File,
  times: readonly number[],
  sound: string,
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<Copy> {
  const audio = await decodeSong(await file.arrayBuffer())
  signal.throwIfAborted()
  const program = URL.createObjectURL(new Blob([MATCH_WORKER], { type: 'text/javascript' }))
  try {
    const { takes } = await matchSong(audio, bytesOf(sound), progress, signal, () => new Worker(program))
    const places = countsInCopy(times, takes)
    const there = places.filter((p) => p !== null).length
    if (there < ENOUGH * times.length) throw new Error(refusedWords(there, times.length))
    return { name: file.name, audio, places }
  } finally {
    URL.revokeObjectURL(program)
  }
}
