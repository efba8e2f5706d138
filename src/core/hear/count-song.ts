import type { Seconds } from '../time'
import { evened, pulseTrack } from './beats'
import { keeping, localTrust } from './certainty'
import { clues } from './clues'
import { type Extent, extent, firstSound } from './extent'
import { type BeatFeatures, beatFeatures } from './features'
import type { Bar, Hearing } from './hearing'
import { EARLY, LEAD, soundItself } from './lead'
import { type Level, levels } from './level'
import { countedIn, type Metre, metresOf } from './metres'
import { BAR_RULE } from './ones'
import { type Onsets, onsets } from './onsets'
import { pairClues } from './pair-clues'
import { type LagPicture, lagPicture } from './pulse'
import { spareBars } from './spare-bars'
import { FRAME_RATE, type Spectrum } from './spectrum'
import { likenessOf, pathTempo, type TempoPath, tempoPath } from './tempo'

/** Less likeness than this is no pulse: measured on noise and held chords (under 0.05) and songs (0.2 and more). */
export const LEAST_STRENGTH = 0.11
/** A shorter stretch than this shows no pulse that could be trusted. */
const LEAST_MUSIC: Seconds = 4
/** Pulses are tracked at this rate a minute, up to twice as many: halves of slow beats, quarters of very slow ones. */
const PULSE_RATE = 200

/** How the beats of a sound are counted. */
export interface Counted {
  /** Seconds in the spectrum, the silence before the sound included. */
  beats: Seconds[]
  /** One exact tempo fits all of it. */
  steady: boolean
  bar: Bar
  /** Stretches in bars of one size, the first from beat 0. */
  metres: readonly Metre[]
  /** Beat index where each phrase begins. */
  starts: readonly number[]
  /** Per phrase, how sure, 0..1. */
  sure: Hearing['sure']
  confidence: Hearing['confidence']
  /** What else it could be: `Hearing` says how. */
  others: Pick<Hearing, 'tempi' | 'bars' | 'ones'>
}

/** What was heard of a sound before its beats are looked for: the sound itself, without the silence before it. */
export interface Pace {
  itself: Spectrum
  heard: Onsets
  picture: LagPicture
  path: TempoPath
}

/** The tempo along a sound. @param s begins with silence */
export function paceOf(s: Spectrum, progress: (share: number) => void = () => {}): Pace {
  const itself = soundItself(s)
  const heard = onsets(itself)
  const picture = lagPicture(heard)
  progress(0.5)
  return { itself, heard, picture, path: tempoPath(picture) }
}

/** The ways to count a sound, the likeliest first, and the pulses they count. */
export interface Ways {
  steady: boolean
  levels: readonly Level[]
}

/** Every way to count a sound that is one song; none where it has no pulse. */
export function waysToCount({ itself, heard, picture, path }: Pace, duration: Seconds): Ways {
  if (path.strength < LEAST_STRENGTH) return { steady: false, levels: [] }
  const periods = pulsePeriods(path.periods)
  const pulses = evened(pulseTrack(heard, periods), periods, heard, duration)
  const many = pulses.times.length > 8
  return {
    steady: pulses.steady,
    levels: many ? levels(itself, heard, pulses.times, likenessOf(picture, periods)) : [],
  }
}

/**
 * How a sound is counted that is one song: which beat it is is decided by the sound itself, where it begins and what begins there
 * by both, it and the silence before it.
 * @param duration length of the sound itself, in seconds
 * @returns its times are those of the spectrum; null where no beat is found. What was told of each beat comes with it
 * @param progress called with the share done, 0..1; may throw to cancel
 * @param given the ways to count it, where they are known
 */
export function countSong(
  s: Spectrum,
  o: Onsets,
  pace: Pace,
  duration: Seconds,
  progress: (share: number) => void = () => {},
  given: Ways | null = null,
): (Counted & { features: BeatFeatures }) | null {
  const { heard } = pace
  progress(0.2)
  const { steady, levels: ways } = given ?? waysToCount(pace, duration)
  const best = ways[0]
  const all = best && afterLead(best.beats)
  const within = all && earliest(extent(o, all), extent(heard, best.beats))
  if (!best || !within) return null
  progress(0.6)
  const beats = inMusic(all, within)
  if (beats.length < 8 || (beats.at(-1) as number) - (beats[0] as number) < LEAST_MUSIC) return null
  const features = beatFeatures(s, o, beats)
  const { share } = likeliestBars(best)
  const list = clues(features)
  const metres = metresOf(list, BAR_RULE, best.bars)
  const inFours = metres.length < 2 && metres[0]?.bar === 4
  const spare = inFours ? spareBars(features) : []
  const counting = countedIn(metres, { ...list, ...pairClues(features) }, openingOf(s, beats), spare)
  const kept = keeping(
    o,
    beats,
    counting.starts.map((k) => beats[k] as number),
  )
  progress(1)
  return {
    ...{ features, beats, steady, bar: counting.bar, metres, starts: counting.starts },
    sure: {
      beats: kept.map((k) => round(best.probability * localTrust(k))),
      ones: counting.sure.map((x) => round(share * x)),
    },
    confidence: { beats: round(best.probability), one: round(share * (counting.shifts[0] ?? 0)) },
    others: {
      tempi: otherTempi(ways, (beats[0] as number) - LEAD),
      bars: best.bars
        .slice(1)
        .map((b) => ({ bar: b.bar, weight: round(b.share), one: round(b.one) }))
        .filter((b) => b.weight >= 0.03),
      ones: counting.shifts
        .map((weight, shift) => ({ shift, weight: round(share * weight) }))
        .filter((x) => x.shift > 0 && x.weight >= 0.03)
        .sort((x, y) => y.weight - x.weight),
    },
  }
}

export const round = (x: number) => Math.round(x * 10_000) / 10_000

/** Where music keeps time, as it is heard after silence, or before already in the sound itself: a noise with which a file begins may hide its first stroke. */
function earliest(after: Extent | null, itself: Extent | null): Extent | null {
  if (!after || !itself) return after
  return { ...after, first: Math.min(after.first, itself.first + LEAD) }
}

/** Beats of the sound itself, as they lie after the silence; one that would fall a hair before the sound belongs to it. */
function afterLead(beats: readonly Seconds[]): Seconds[] {
  const out = beats.map((t) => t + LEAD)
  const [first, second] = out
  if (first === undefined || second === undefined) return out
  const before = first - (second - first)
  return before > LEAD - EARLY ? [before, ...out] : out
}

/** Periods of the pulse that is tracked, in one octave, whichever octave the path was found in. */
export function pulsePeriods(path: Float32Array): Float32Array {
  let rate = pathTempo(path)
  while (rate < PULSE_RATE) rate *= 2
  while (rate >= 2 * PULSE_RATE) rate /= 2
  const usual = (60 * FRAME_RATE) / rate
  return path.map((period) => {
    let p = period
    while (p > usual * Math.SQRT2) p /= 2
    while (p < usual / Math.SQRT2) p *= 2
    return p
  })
}

/** Beats from the first stroke of the music to just after its last. */
function inMusic(beats: readonly Seconds[], { first, last }: Extent): Seconds[] {
  return beats.filter((t) => t >= Math.max(LEAD - EARLY, first - 0.08) && t <= last + 0.08)
}

/** The beat on which the sound sets in, when it does so on a beat. */
function openingOf(s: Spectrum, beats: readonly Seconds[]): number | null {
  const t = firstSound(s)
  const first = beats[0] as number
  const period = (beats[1] as number) - first
  const k = Math.round((t - first) / period)
  const near = Math.abs((beats[k] ?? first + k * period) - t) < 0.05
  // Sound that sets in a little before the first beat that is counted: a breath, a pick-up, or a fade.
  return near && k >= 0 && k < 8 ? k : null
}

/** Bars the beats of a level are likeliest counted in. */
const likeliestBars = ({ bars, beats }: Level) => bars[0] ?? { bar: 4 as const, share: 1, one: beats[0] ?? 0 }

/** How many other ways to hear the beat are kept. */
const OTHERS = 8

/** The likeliest other ways, those of every speed among them. */
function otherTempi(ways: readonly Level[], first: Seconds): Hearing['tempi'] {
  const best = ways[0] as Level
  const rest = ways.slice(1)
  const bestOfEach = rest.filter((w, i) => rest.findIndex((x) => x.stride === w.stride) === i)
  const others = rest.filter((w) => !bestOfEach.includes(w)).slice(0, OTHERS - bestOfEach.length)
  return [...bestOfEach, ...others]
    .sort((a, b) => b.probability - a.probability)
    .map((w) => {
      const late = (w.beats[0] as number) - first
      // Within its own beat, not ours: of beats twice as long it tells which of two.
      const own = 60 / w.bpm
      return {
        bpm: round(w.bpm),
        factor: round(w.bpm / best.bpm),
        shift: round(late - Math.floor(late / own + 1e-3) * own),
        weight: round(w.probability),
        one: round(likeliestBars(w).one),
        bar: likeliestBars(w).bar,
      }
    })
}
