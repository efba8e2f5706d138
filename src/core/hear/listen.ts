import type { Seconds } from '../time'
import { evened, pulseTrack } from './beats'
import { keeping, localTrust } from './certainty'
import { clues } from './clues'
import { type Extent, extent, firstSound } from './extent'
import { BASS, type BeatFeatures, beatFeatures } from './features'
import { barAt, HEARING_VERSION, type Hearing, onsetByte, type Peaks } from './hearing'
import { guessKinds } from './kinds'
import { type Level, levels } from './level'
import { countedIn, metresOf } from './metres'
import { BAR_RULE } from './ones'
import { type Onsets, onsets } from './onsets'
import { pairClues } from './pair-clues'
import { peaksFrom, shapeOf } from './pictures'
import { lagPicture } from './pulse'
import { findSections, sameAs } from './sections'
import { FRAME_RATE, type Spectrum, SpectrumMaker, spectrum } from './spectrum'
import { likenessOf, pathTempo, tempoPath } from './tempo'

/** Silence that is heard before the sound: without it a song whose sound begins with the file has no first stroke. */
export const LEAD: Seconds = 0.5
/** The beat on which the sound sets in may be found so much earlier. */
const EARLY: Seconds = 0.04
/** Less likeness than this is no pulse: measured on noise and held chords (under 0.05) and songs (0.2 and more). */
const LEAST_STRENGTH = 0.11
/** A shorter stretch than this shows no pulse that could be trusted. */
const LEAST_MUSIC: Seconds = 4
/** Pulses are tracked at this rate a minute, up to twice as many: halves of slow beats, quarters of very slow ones. */
const PULSE_RATE = 200

/**
 * Hears a song: tempo, beats, the 1, eights and sections.
 * @param mono samples -1..1
 * @param progress called with the share done, 0..1; may throw to cancel
 * @returns the hearing (no beats when there is no pulse) and the pictures of its loudness
 */
export function listen(
  mono: Float32Array,
  sampleRate: number,
  progress: (share: number) => void = () => {},
): { hearing: Hearing; peaks: Peaks } {
  const s = spectrum(mono, sampleRate, (share) => progress(0.8 * share), LEAD * FRAME_RATE)
  return heardIn(s, mono.length / sampleRate, (share) => progress(0.8 + 0.2 * share))
}

/** Hears a song that comes piece by piece: only what was heard of it is kept. */
export class Listener {
  private readonly maker: SpectrumMaker

  constructor(sampleRate: number) {
    this.maker = new SpectrumMaker(sampleRate, LEAD * FRAME_RATE)
  }

  /** Seconds that came. */
  get seconds(): Seconds {
    return this.maker.seconds
  }

  /** Takes the next samples, -1..1. */
  add(mono: Float32Array): void {
    this.maker.add(mono)
  }

  /**
   * What is heard in all that came, and the pictures of its loudness.
   * @param progress called with the share done, 0..1; may throw to cancel
   */
  hear(progress: (share: number) => void = () => {}): { hearing: Hearing; peaks: Peaks } {
    const { seconds } = this.maker
    return heardIn(this.maker.finish(), seconds, progress)
  }
}

/** What is heard in a spectrum that begins with silence. @param duration of the sound itself */
function heardIn(
  s: Spectrum,
  duration: Seconds,
  progress: (share: number) => void,
): { hearing: Hearing; peaks: Peaks } {
  const o = onsets(s)
  return { hearing: withoutLead(understand(s, o, duration, progress)), peaks: peaksOf(s, o) }
}

/** The same without the silence before it. */
function soundItself(s: Spectrum): Spectrum {
  const lead = LEAD * FRAME_RATE
  return {
    ...{ frames: s.frames - lead, bands: s.bands },
    ...{ log: s.log.subarray(lead * s.bands), chroma: s.chroma.subarray(lead * 12) },
    ...{ loudness: s.loudness.subarray(lead), peak: s.peak.subarray(lead) },
  }
}

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

/** A hearing of a sound with silence before it, as one of the sound itself: a first beat a hair before it is its beginning. */
function withoutLead(h: Hearing): Hearing {
  return { ...h, duration: round(h.duration), beats: h.beats.map((t) => round(Math.max(0, t - LEAD))) }
}

/**
 * The hearing of a spectrum that begins with silence: which beat it is is decided by the sound itself, where it begins and
 * what begins there by both.
 * @param duration length of the sound itself, in seconds
 * @returns its times are those of the spectrum
 * @param progress called with the share done, 0..1; may throw to cancel
 */
export function understand(
  s: Spectrum,
  o: Onsets,
  duration: Seconds,
  progress: (share: number) => void = () => {},
): Hearing {
  progress(0.1)
  const itself = soundItself(s)
  const heard = onsets(itself)
  const picture = lagPicture(heard)
  progress(0.35)
  const path = tempoPath(picture)
  if (path.strength < LEAST_STRENGTH) return nothing(duration)
  progress(0.5)
  const periods = pulsePeriods(path.periods)
  const pulses = evened(pulseTrack(heard, periods), periods, heard, duration)
  progress(0.6)
  const ways =
    pulses.times.length > 8 ? levels(itself, heard, pulses.times, likenessOf(picture, periods)) : []
  const best = ways[0]
  const all = best && afterLead(best.beats)
  const within = all && earliest(extent(o, all), extent(heard, best.beats))
  if (!best || !within) return nothing(duration)
  progress(0.8)
  const beats = inMusic(all, within)
  if (beats.length < 8 || (beats.at(-1) as number) - (beats[0] as number) < LEAST_MUSIC)
    return nothing(duration)
  const f = beatFeatures(s, o, beats)
  const { share } = likeliestBars(best)
  const opening = openingOf(s, beats)
  const list = clues(f)
  const metres = metresOf(list, BAR_RULE, best.bars)
  const counting = countedIn(metres, { ...list, ...pairClues(f) }, opening)
  progress(0.9)
  const stretches = findSections(f, counting.starts)
  const kinds = guessKinds(f, stretches)
  const kept = keeping(
    o,
    beats,
    counting.starts.map((k) => beats[k] as number),
  )
  progress(1)
  return {
    ...nothing(duration),
    tempo: round(pulses.steady ? 60 / ((beats[1] as number) - (beats[0] as number)) : medianTempo(beats)),
    steady: pulses.steady,
    beats: beats.map(round),
    bar: counting.bar,
    metres: metres.length > 1 ? metres.map(({ from, bar }) => ({ beat: from, bar })) : [],
    phrases: counting.starts,
    sure: {
      beats: kept.map((k) => round(best.probability * localTrust(k))),
      ones: counting.sure.map((x) => round(share * x)),
    },
    same: sameAs(f, counting.starts),
    sections: stretches.map((x, i) => ({ ...x, kind: kinds[i]?.kind ?? 'part', why: kinds[i]?.why ?? '' })),
    confidence: { beats: round(best.probability), one: round(share * (counting.shifts[0] ?? 0)) },
    tempi: otherTempi(ways, (beats[0] as number) - LEAD),
    bars: best.bars
      .slice(1)
      .map((b) => ({ bar: b.bar, weight: round(b.share), one: round(b.one) }))
      .filter((b) => b.weight >= 0.03),
    ones: counting.shifts
      .map((weight, shift) => ({ shift, weight: round(share * weight) }))
      .filter((x) => x.shift > 0 && x.weight >= 0.03)
      .sort((x, y) => y.weight - x.weight),
    inferred: unheard(o, beats),
    pictures: picturesOf(f),
  }
}

const round = (x: number) => Math.round(x * 10_000) / 10_000

/** The hearing of a song without a beat. */
function nothing(duration: Seconds): Hearing {
  return {
    version: HEARING_VERSION,
    duration,
    tempo: 0,
    steady: false,
    beats: [],
    phrases: [],
    bar: 4,
    metres: [],
    sure: { beats: [], ones: [] },
    same: [],
    sections: [],
    confidence: { beats: 0, one: 0 },
    tempi: [],
    bars: [],
    ones: [],
    inferred: [],
    pictures: { loudness: [], brightness: [], low: [] },
  }
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

function medianTempo(beats: readonly Seconds[]): number {
  const steps = beats
    .slice(1)
    .map((t, i) => t - (beats[i] as number))
    .sort((a, b) => a - b)
  return 60 / (steps[steps.length >> 1] ?? 1)
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

/** Runs of four beats or more on which nothing sounds. */
function unheard(o: Onsets, beats: readonly Seconds[]): Hearing['inferred'] {
  const out: [number, number][] = []
  let from = 0
  const heard = beats.map((t, k) => {
    const next = beats[k + 1] ?? t + 0.5
    let best = 0
    for (let f = Math.round((t - 0.05) * FRAME_RATE); f < (next - 0.05) * FRAME_RATE; f++)
      best = Math.max(best, o.all[f] ?? 0)
    return best > 0.3
  })
  for (let k = 0; k <= beats.length; k++) {
    if (k < beats.length && !heard[k]) continue
    if (k - from >= 4) out.push([from, k - 1])
    from = k + 1
  }
  return out
}

function picturesOf(f: BeatFeatures): Hearing['pictures'] {
  const bytes = (xs: ArrayLike<number>, scale: number) =>
    Array.from(xs, (x) => Math.max(0, Math.min(255, Math.round(x * scale))))
  const bass = Array.from({ length: f.beats }, (_, k) => {
    let sum = 0
    for (let b = 0; b < BASS; b++) sum += f.bass[k * BASS + b] as number
    return sum / BASS
  })
  return { loudness: bytes(f.loudness, 255), brightness: bytes(f.shine, 170), low: bytes(bass, 120) }
}

function peaksOf(s: Spectrum, o: Onsets): Peaks {
  const byte = (x: number) => Math.round(255 * Math.min(1, x))
  const inSound = (curve: Float32Array) => curve.subarray(LEAD * FRAME_RATE)
  return peaksFrom(
    shapeOf(Uint8Array.from(inSound(s.peak), byte), Uint8Array.from(inSound(s.loudness), byte)),
    Uint8Array.from(inSound(o.all), onsetByte),
  )
}

/** Times at which the phrases of a hearing begin. */
export function eights(h: Hearing): Seconds[] {
  return h.phrases.map((k) => h.beats[k] as number)
}

/** Times at which its bars begin, counted from the 1 of each phrase, the pick-up backwards from the first. */
export function downbeats(h: Hearing): Seconds[] {
  const first = h.phrases[0] ?? 0
  return h.beats.filter((_, k) => {
    const bar = barAt(h, k)
    const start = h.phrases.findLast((p) => p <= k) ?? first - 2 * bar
    return (k - start) % bar === 0
  })
}
