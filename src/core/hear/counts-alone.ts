import type { Bpm, Seconds } from '../time'
import { HEARING_VERSION, type Hearing, type Peaks } from './hearing'
import { peaksFrom } from './pictures'

/** Silence before the first count, in seconds. */
const LEAD: Seconds = 4
/** What is drawn a second; see pictures.ts. */
const FRAMES = 100

/** Counts at a tempo, without a song: what would be heard in silence if somebody knew its beats. */
export interface CountsAlone {
  hearing: Hearing
  peaks: Peaks
}

/**
 * A hearing of silence that is counted at a tempo: every beat exact, a phrase each eight.
 * @param counts how many there are
 */
export function countsAlone(tempo: Bpm, counts: number): CountsAlone {
  const period = 60 / tempo
  const duration = LEAD + (counts + 1) * period
  const phrases = Array.from({ length: Math.ceil(counts / 8) }, (_, i) => 8 * i)
  const none = new Uint8Array(Math.ceil(duration * FRAMES))
  return {
    hearing: {
      ...{ version: HEARING_VERSION, duration, tempo, steady: true, bar: 4, metres: [] },
      beats: Array.from({ length: counts }, (_, i) => LEAD + i * period),
      phrases,
      sure: { beats: phrases.map(() => 1), ones: phrases.map(() => 1) },
      same: phrases.map(() => -1),
      sections: [],
      confidence: { beats: 1, one: 1 },
      ...{ tempi: [], bars: [], ones: [], inferred: [] },
      pictures: { loudness: [], brightness: [], low: [] },
    },
    peaks: peaksFrom(none, none),
  }
}
