import type { Seconds } from '../time'
import { beatPath, steadyFit } from './beats'
import { beatFeatures } from './features'
import { HEARING_VERSION, type Hearing, type Peaks } from './hearing'
import { findEights } from './ones'
import { onsets } from './onsets'
import { findSections } from './sections'
import { FRAME_RATE, type Spectrum, spectrum } from './spectrum'
import { pulseClarity, tempi } from './tempo'

/** Less than this share of pulse is no beat: measured on noise (0.01 to 0.03) and songs (0.1 and more). */
const LEAST_PULSE = 0.05
/** A grid is made exactly steady when this share of beats lies within 25 ms of one line. */
const STEADY_SHARE = 0.7
/** Frames quieter than this are silence (about -60 dB of full scale). */
const SILENCE = 0.001

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
  const s = spectrum(mono, sampleRate, (share) => progress(0.8 * share))
  const peaks = peaksOf(s)
  const duration = mono.length / sampleRate
  const o = onsets(s)
  progress(0.82)
  const guesses = tempi(o.all)
  const best = guesses[0]
  const none: Hearing = {
    version: HEARING_VERSION,
    duration,
    tempo: 0,
    steady: false,
    beats: [],
    phrases: [],
    sections: [],
    confidence: { beats: 0, one: 0 },
    alternatives: [],
  }
  const clarity = best ? pulseClarity(o.all, best.bpm) : 0
  if (!best || clarity < LEAST_PULSE) return { hearing: none, peaks }
  progress(0.88)
  const path = beatPath(o.all, best.bpm)
  const fit = steadyFit(path, o.all, best.bpm)
  const steady = fit !== null && fit.share >= STEADY_SHARE
  const raw = steady ? line(fit.start, fit.period, duration) : path
  const beats = withinMusic(raw, s)
  if (beats.length < 8) return { hearing: none, peaks }
  progress(0.93)
  const f = beatFeatures(s, o, beats)
  const { starts, margin } = findEights(f)
  const sections = findSections(f, starts)
  progress(1)
  const held = fit ? fit.share : 0
  const hearing: Hearing = {
    ...none,
    tempo: steady
      ? 60 / fit.period
      : (60 * (beats.length - 1)) / ((beats.at(-1) as number) - (beats[0] as number)),
    steady,
    beats,
    phrases: starts,
    sections,
    confidence: { beats: round(Math.min(1, 0.4 * held + 1.5 * clarity)), one: round(margin) },
    alternatives: guesses.map((g) => ({ bpm: Math.round(g.bpm * 100) / 100, weight: round(g.weight) })),
  }
  return { hearing, peaks }
}

const round = (x: number) => Math.round(x * 1000) / 1000

function line(start: Seconds, period: Seconds, duration: Seconds): Seconds[] {
  const out: Seconds[] = []
  for (let k = Math.ceil(-start / period); start + k * period < duration; k++) out.push(start + k * period)
  return out
}

/** Beats from just before the first sound to the last one. */
function withinMusic(beats: readonly Seconds[], s: Spectrum): Seconds[] {
  let first = 0
  while (first < s.frames && (s.loudness[first] as number) < SILENCE) first++
  let last = s.frames - 1
  while (last > first && (s.loudness[last] as number) < SILENCE) last--
  return beats.filter((t) => t >= first / FRAME_RATE - 0.06 && t <= last / FRAME_RATE && t >= 0)
}

function peaksOf(s: Spectrum): Peaks {
  const byte = (x: number) => Math.round(255 * Math.min(1, x))
  return {
    frameRate: FRAME_RATE,
    peak: Uint8Array.from(s.peak, byte),
    loudness: Uint8Array.from(s.loudness, byte),
  }
}

/** Times at which the phrases of a hearing begin. */
export function eights(h: Hearing): Seconds[] {
  return h.phrases.map((k) => h.beats[k] as number)
}

/** Times at which its bars of four begin, counted from the 1 of each phrase, the pick-up backwards from the first. */
export function downbeats(h: Hearing): Seconds[] {
  const first = h.phrases[0] ?? 0
  return h.beats.filter((_, k) => {
    const start = h.phrases.findLast((p) => p <= k) ?? first - 8
    return (k - start) % 4 === 0
  })
}
