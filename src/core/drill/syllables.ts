import type { Seconds } from '../time'
import { envelope, type SpokenWord, stressOf } from './spoken'

/** One syllable in a recording: where it begins and ends, and where its stress falls between. */
export interface Syllable {
  from: Seconds
  stress: Seconds
  to: Seconds
}

/** A syllable is at most so far below the loudest, and stands out from what lies between it and the next by so much. */
const [BELOW_DB, DIP_DB] = [25, 2]
/** Loudness is smoothed over so many pieces of 5 ms. */
const SMOOTH = 9
/** What is so far below its loudest is silence around a syllable. */
const EDGE_DB = 30
/** Nobody speaks faster: nearer peaks are one syllable. Common practice, no published source. */
const NEAREST: Seconds = 0.09
/** Between two peaks the cut lies in the longest quiet, counted up to so much above the quietest. */
const QUIET_DB = 6

const decibels = (x: number) => 20 * Math.log10(Math.max(1e-6, x))

/** A running mean with a bell over it. */
function smoothed(values: readonly number[]): number[] {
  const half = SMOOTH >> 1
  const bell = Array.from({ length: SMOOTH }, (_, i) => 1 - Math.cos((2 * Math.PI * (i + 1)) / (SMOOTH + 1)))
  const sum = bell.reduce((a, b) => a + b, 0)
  return values.map((_, i) => bell.reduce((s, w, j) => s + (w / sum) * (values[i + j - half] ?? 0), 0))
}

/**
 * Cuts a recording at its syllables, in any language: by peaks of the loudness of its voiced part that stand out from the
 * dips between them (after de Jong & Wempe, "Praat script to detect syllable nuclei and measure speech rate automatically",
 * Behavior Research Methods 41, 2009; their 25 dB and 2 dB; the voice is found by a low-pass, not by its pitch).
 * @returns by time; none where nothing is said
 */
export function syllablesOf(recording: SpokenWord): Syllable[] {
  const { hop, out: voiced } = envelope(recording, true)
  const step = hop / recording.rate
  const voice = smoothed(voiced).map(decibels)
  const all = smoothed(envelope(recording, false).out).map(decibels)
  const peaks = nuclei(voice, Math.round(NEAREST / step))
  const cuts = peaks.slice(1).map((p, i) => quietBetween(all, peaks[i] as number, p))
  return peaks.map((peak, i) => {
    const [first, last] = [cuts[i - 1] ?? 0, cuts[i] ?? all.length]
    const least = (all[peak] as number) - EDGE_DB
    let [from, to] = [peak, peak]
    for (let f = peak; f >= first; f--) if ((all[f] as number) > least) from = f
    for (let f = peak; f < last; f++) if ((all[f] as number) > least) to = f + 1
    const samples = recording.samples.subarray(from * hop, to * hop)
    return {
      from: from * step,
      stress: from * step + stressOf({ rate: recording.rate, samples }),
      to: to * step,
    }
  })
}

/** Indices of the loudest places of syllables. */
function nuclei(voice: readonly number[], nearest: number): number[] {
  const top = [...voice].sort((a, b) => a - b)[Math.floor(0.99 * voice.length)] ?? 0
  // What is this quiet all through is a room, not a voice.
  if (top < -50) return []
  const out: number[] = []
  for (let i = 1; i + 1 < voice.length; i++) {
    const here = voice[i] as number
    if (here < top - BELOW_DB || here < (voice[i - 1] as number) || here <= (voice[i + 1] as number)) continue
    const before = out.at(-1)
    if (before === undefined) {
      out.push(i)
      continue
    }
    const dip = voice.slice(before, i).reduce((a, b) => Math.min(a, b))
    const stands = Math.min(here, voice[before] as number) - dip >= DIP_DB && i - before >= nearest
    if (stands) out.push(i)
    else if (here > (voice[before] as number)) out[out.length - 1] = i
  }
  return out
}

/** Where two syllables part: the middle of the longest quiet between them. */
function quietBetween(all: readonly number[], a: number, b: number): number {
  const between = all.slice(a, b)
  const least = between.reduce((x, y) => Math.min(x, y)) + QUIET_DB
  let [best, length, run] = [a, 0, 0]
  between.forEach((x, i) => {
    run = x <= least ? run + 1 : 0
    if (run <= length) return
    length = run
    best = a + i - (run >> 1)
  })
  return best
}
