import type { Seconds } from '../time'
import { type Counted, LEAST_STRENGTH, type Pace, paceOf, round } from './count-song'
import { countOne } from './edited'
import { BASS, type BeatFeatures, beatFeatures } from './features'
import { barAt, HEARING_VERSION, type Hearing, onsetByte, type Peaks } from './hearing'
import { guessKinds } from './kinds'
import { LEAD } from './lead'
import { countMix, cutsOf } from './mix'
import { type Onsets, onsets } from './onsets'
import { peaksFrom, shapeOf } from './pictures'
import { findSections, sameAs } from './sections'
import { FRAME_RATE, type Spectrum, SpectrumMaker, spectrum } from './spectrum'

/** What sounds alike on both sides of a cut is counted apart where that makes its beats so much surer. */
const SURER = 0.1

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

/** A hearing of a sound with silence before it, as one of the sound itself: a first beat a hair before it is its beginning. */
function withoutLead(h: Hearing): Hearing {
  return { ...h, duration: round(h.duration), beats: h.beats.map((t) => round(Math.max(0, t - LEAD))) }
}

/**
 * The hearing of a spectrum that begins with silence.
 * @param duration length of the sound itself, in seconds
 * @returns its times are those of the spectrum
 * @param progress called with the share done, 0..1; may throw to cancel
 */
function understand(
  s: Spectrum,
  o: Onsets,
  duration: Seconds,
  progress: (share: number) => void = () => {},
): Hearing {
  progress(0.1)
  const pace = paceOf(s, (share) => progress(0.1 + 0.5 * share))
  if (pace.path.strength < LEAST_STRENGTH) return nothing(duration)
  progress(0.5)
  const counted = countSound(s, o, pace, duration, (share) => progress(0.5 + 0.4 * share))
  if (!counted) return nothing(duration)
  const hearing = described(o, duration, counted, counted.features ?? beatFeatures(s, o, counted.beats))
  progress(1)
  return hearing
}

/** As one song, or as several that were cut together. */
function countSound(
  s: Spectrum,
  o: Onsets,
  pace: Pace,
  duration: Seconds,
  progress: (share: number) => void,
): (Counted & { features?: BeatFeatures }) | null {
  const cuts = cutsOf(pace, duration)
  if (!cuts.length) return countOne(s, o, pace, duration, progress)
  const sure = cuts.filter((c) => c.different)
  const half = (share: number) => progress(0.5 * share)
  const mix = sure.length ? countMix(s, sure, duration, half) : null
  const few = mix ?? countOne(s, o, pace, duration, half)
  if (sure.length === cuts.length) return few
  // One song whose tempo changes is counted better as a whole, where that can be: what tells its bars comes again after it.
  const many = countMix(s, cuts, duration, (share) => progress(0.5 + 0.5 * share))
  return many && many.confidence.beats > (few?.confidence.beats ?? 0) + SURER ? many : few
}

/** What is heard under beats that are counted: sections, what comes again, what is silent. */
function described(
  o: Onsets,
  duration: Seconds,
  { beats, steady, bar, metres, starts, sure, confidence, others }: Counted,
  f: BeatFeatures,
): Hearing {
  const stretches = findSections(f, starts)
  const kinds = guessKinds(f, stretches)
  return {
    ...nothing(duration),
    ...{ sure, confidence, ...others, steady, bar },
    tempo: round(steady ? 60 / ((beats[1] as number) - (beats[0] as number)) : medianTempo(beats)),
    beats: beats.map(round),
    metres: metres.length > 1 ? metres.map((m) => ({ beat: m.from, bar: m.bar })) : [],
    phrases: [...starts],
    same: sameAs(f, starts),
    sections: stretches.map((x, i) => ({ ...x, kind: kinds[i]?.kind ?? 'part', why: kinds[i]?.why ?? '' })),
    inferred: unheard(o, beats),
    pictures: picturesOf(f),
  }
}

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

function medianTempo(beats: readonly Seconds[]): number {
  const steps = beats
    .slice(1)
    .map((t, i) => t - (beats[i] as number))
    .sort((a, b) => a - b)
  return 60 / (steps[steps.length >> 1] ?? 1)
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
