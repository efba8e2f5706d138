import { type Line, lastAtOrBefore, type Seconds } from '../time'
import type { Onsets } from './onsets'
import { FRAME_RATE, type Spectrum } from './spectrum'

/** Where the music keeps time: from the first stroke that belongs to the pulse to the last. */
export interface Extent {
  first: Seconds
  last: Seconds
}

/** The start of a sound. */
export interface Stroke {
  t: Seconds
  strength: number
}

/** Onset peaks that stand out, at least 60 ms apart. */
export function strokes(o: Onsets): Stroke[] {
  let mean = 0
  for (const x of o.all) mean += x / Math.max(1, o.frames)
  const out: Stroke[] = []
  for (let f = 0; f < o.frames; f++) {
    const x = o.all[f] as number
    if (x <= 0 || x < 0.6 * mean) continue
    let top = true
    for (let k = -6; k <= 6 && top; k++) if ((o.all[f + k] ?? 0) > x) top = false
    if (top) out.push({ t: f / FRAME_RATE, strength: x / (x + mean) })
  }
  return out
}

const BINS = 36
/** Share of strokes that may lie anywhere. */
const STRAY = 0.3

/** Where in the beat a time lies, 0..1. */
function phaseOf(beats: readonly Seconds[], t: Seconds): number {
  const i = Math.max(0, Math.min(beats.length - 2, lastAtOrBefore(beats, t)))
  const a = beats[i] as number
  const x = (t - a) / ((beats[i + 1] as number) - a)
  return x - Math.floor(x)
}

/**
 * How much more likely a stroke at each place in the beat is in this song than in free time, as a logarithm: learned
 * from the song itself, so that swung music is as much in time as straight.
 */
export function belonging(beats: readonly Seconds[], list: readonly Stroke[]): (t: Seconds) => number {
  const raw = new Float32Array(BINS)
  let sum = 1e-9
  for (const s of list) {
    const x = phaseOf(beats, s.t) * BINS
    for (let k = -2; k <= 2; k++) {
      const i = (Math.floor(x) + k + BINS) % BINS
      raw[i] = (raw[i] as number) + s.strength * (3 - Math.abs(k))
    }
    sum += 9 * s.strength
  }
  return (t) => {
    const density = ((raw[Math.floor(phaseOf(beats, t) * BINS) % BINS] as number) / sum) * BINS
    return Math.log(STRAY + (1 - STRAY) * density)
  }
}

/** How much each stroke speaks for a line, learned from strokes that are surely its own. @param from, to what the line is asked for, in seconds */
export function belongingToLine(
  line: Line,
  own: readonly Stroke[],
  from: Seconds,
  to: Seconds,
): (s: Stroke) => number {
  const times: Seconds[] = []
  for (let k = Math.ceil((from - line.start) / line.period); line.start + k * line.period < to; k++)
    times.push(line.start + k * line.period)
  const belongs = belonging(times, own)
  return (s) => s.strength * belongs(s.t)
}

/** A gap without strokes this long ends what came before: an intro that is not in time is not counted. */
const REACH: Seconds = 12

/**
 * The stretch that keeps time: strokes where this song's strokes lie in the beat speak for it, others against it. What comes before the
 * place where the sum of all that follows is largest is free time; the same from the other end.
 */
export function extent(o: Onsets, beats: readonly Seconds[]): Extent | null {
  const list = strokes(o)
  if (list.length < 4 || beats.length < 2) return null
  const belongs = belonging(beats, list)
  const gains = list.map((s) => s.strength * belongs(s.t))
  const start = largestSuffix(gains, list, false)
  const end = largestSuffix(gains, list, true)
  const [first, last] = [list[start]?.t, list[end]?.t]
  return first !== undefined && last !== undefined && last > first ? { first, last } : null
}

/** Index from which (or, backwards, up to which) the gains sum to the most. */
function largestSuffix(gains: readonly number[], list: readonly Stroke[], backwards: boolean): number {
  const order = gains.map((_, i) => i)
  if (!backwards) order.reverse()
  let sum = 0
  let best = Number.NEGATIVE_INFINITY
  let at = order[0] ?? 0
  let before: number | null = null
  for (const i of order) {
    const t = (list[i] as Stroke).t
    // Far from everything else, a few strokes that happen to fit are no music.
    if (before !== null && Math.abs(t - before) > REACH) sum -= 4
    before = t
    sum += gains[i] as number
    if (sum > best) {
      best = sum
      at = i
    }
  }
  return at
}

/** Frames quieter than this are silence (about -60 dB of full scale). */
const SILENCE = 0.001

/** When anything is heard at all for the first time. */
export function firstSound(s: Spectrum): Seconds {
  let f = 0
  while (f < s.frames && (s.loudness[f] as number) < SILENCE) f++
  return f / FRAME_RATE
}
