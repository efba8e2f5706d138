/* What beats sound like whose chords are given. */
import { BASS, type BeatFeatures, TIMBRE } from './features'

/** Beats with one pitch class each; every second one is brighter, the first one where it is an odd one of its song. */
export function beatsOf(chords: readonly number[], first = 0): BeatFeatures {
  const beats = chords.length
  const chroma = new Float32Array(beats * 12)
  const timbre = new Float32Array(beats * TIMBRE)
  chords.forEach((chord, k) => {
    chroma[k * 12 + chord] = 1
    timbre[k * TIMBRE] = (first + k) % 2
  })
  const none = new Float32Array(beats)
  return {
    ...{ beats, chroma, timbre, bass: new Float32Array(beats * BASS) },
    ...{ low: none, mid: none, high: none, all: none, busy: none, loudness: none, shine: none },
  }
}
