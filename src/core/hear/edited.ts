/* A song of which something was cut out: its pieces, each on its own beats, all at one tempo. */
import { type Bpm, median, type Seconds } from '../time'
import { withEightsAlike } from './alike-pieces'
import {
  type Counted,
  countSong,
  type Pace,
  paceOf,
  pulsePeriods,
  type Ways,
  waysToCount,
} from './count-song'
import { strokes } from './extent'
import type { BeatFeatures } from './features'
import { joined } from './joined'
import { LEAD, soundAlone } from './lead'
import { leapsOf } from './leaps'
import type { Level } from './level'
import { type Onsets, onsets } from './onsets'
import { FRAME_RATE, type Spectrum } from './spectrum'
import { tempiOf } from './tempi'

/** Ways to count are of one tempo where it differs by less than this. */
const SAME_TEMPO = 0.03
/** A piece says no more than this against a tempo. */
const LEAST_SHARE = 0.02

/** A piece of a song, as it is heard alone. */
interface Piece {
  /** Seconds in the sound. */
  from: Seconds
  to: Seconds
  sound: Spectrum
  pace: Pace
  ways: Ways
}

/**
 * How one song is counted, whether something was cut out of it or not.
 * @param s begins with silence
 * @param duration length of the sound itself, in seconds
 * @returns its times are those of the spectrum; null where no beat is found
 */
export function countOne(
  s: Spectrum,
  o: Onsets,
  pace: Pace,
  duration: Seconds,
  progress: (share: number) => void = () => {},
): (Counted & { features?: BeatFeatures }) | null {
  const periods = pulsePeriods(pace.path.periods)
  // Where the tempo changes as well, that tells the pieces apart.
  const one = tempiOf(periods).length < 2
  const leaps = one ? leapsOf(pace.heard, strokes(pace.heard), median(periods) / FRAME_RATE) : []
  if (!leaps.length) return countSong(s, o, pace, duration, progress)
  const ends = [0, ...leaps, duration]
  const pieces = ends.slice(1).map((to, i) => {
    progress((0.8 * i) / ends.length)
    return pieceOf(s, ends[i] as Seconds, to)
  })
  progress(0.8)
  const counted = inOneTempo(pieces).flatMap(({ sound, pace: own, from, to, ways }) => {
    const song = countSong(sound, onsets(sound), own, to - from, undefined, ways)
    return song ? [{ ...song, beats: song.beats.map((t) => t + from) }] : []
  })
  const all = withEightsAlike(counted).map(({ features: _, ...song }): Counted => song)
  progress(1)
  return all.length ? all.reduce(joined) : null
}

function pieceOf(s: Spectrum, from: Seconds, to: Seconds): Piece {
  const frameOf = (t: Seconds) => Math.min(s.frames - LEAD * FRAME_RATE, Math.round(t * FRAME_RATE))
  const sound = soundAlone(s, frameOf(from), frameOf(to))
  const pace = paceOf(sound)
  return { from: frameOf(from) / FRAME_RATE, to, sound, pace, ways: waysToCount(pace, to - from) }
}

/** Pieces whose ways are those of the tempo that all of them together are likeliest in; a piece without any at it keeps its own. */
export function inOneTempo<P extends Pick<Piece, 'from' | 'to' | 'ways'>>(pieces: readonly P[]): P[] {
  const at = (bpm: Bpm) => (w: Level) => Math.abs(w.bpm / bpm - 1) < SAME_TEMPO
  const worth = (bpm: Bpm) =>
    pieces.reduce((sum, { ways, from, to }) => {
      const share = ways.levels.filter(at(bpm)).reduce((n, w) => n + w.probability, 0)
      return sum + (to - from) * Math.log(Math.max(LEAST_SHARE, share))
    }, 0)
  const tempi = pieces.flatMap((p) => p.ways.levels.map((w) => w.bpm))
  const best = tempi.reduce((a, b) => (worth(b) > worth(a) ? b : a), tempi[0] ?? 0)
  return pieces.map((p) => {
    const levels = p.ways.levels.filter(at(best))
    return levels.length ? { ...p, ways: { ...p.ways, levels } } : p
  })
}
