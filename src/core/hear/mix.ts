/* Songs that were cut together: where one goes over into the next, each counted by itself, and all of it as one. */
import { median, type Seconds } from '../time'
import { type Counted, type Pace, paceOf, pulsePeriods } from './count-song'
import { countOne } from './edited'
import { belongingToLine, type Stroke, strokes } from './extent'
import { distance, meanRow } from './features'
import { joined } from './joined'
import { fits, type Piece } from './jumps'
import { LEAD, soundAlone } from './lead'
import { onsets } from './onsets'
import { HOP } from './pulse'
import { FRAME_RATE, type Spectrum } from './spectrum'
import { machineTime } from './steady'
import { tempiOf } from './tempi'

/** The tracked tempo sees a cut only to about this. */
const BLUR: Seconds = 10
/** Mean spectra so far apart are of different songs: set between songs of the bench (1.2 to 4.5) and songs whose tempo jumps (up to 0.6). */
const DIFFERENT = 1.1
/** So near its seam a piece is not asked what is its own. */
const NEAR: Seconds = 8
/** Other pulses of one song: a tempo that is tracked at these of another is no other song's. */
const FAMILIES = [3 / 4, 4 / 3, 2 / 3, 3 / 2] as const
const FAMILY = 0.02
/** How the sound is before and after a cut is compared over this. */
const COMPARED: Seconds = 2
/** What the largest change of sound about a seam is worth, in strokes that are in time. */
const CHANGE = 8
/** What it is worth, beside its own worth as a stroke, that the next song begins on a pulse of both. */
const ON_BEAT = 1.5
/** A song is cut in this much before its first stroke: a frame tells of what begins in it and shortly after. */
const AHEAD: Seconds = 0.02

/** A place where one song may go over into another. */
export interface Cut {
  /** Seconds in the sound at which the later one begins. */
  at: Seconds
  /** Whether they also sound different: what only changes its tempo may be one song. */
  different: boolean
}

/**
 * Where one song goes over into another, as the tempo tells: at once, to one that is not another pulse of the same song.
 * @param duration of the sound, in seconds
 * @returns ascending; none where it is one song
 */
export function cutsOf({ itself, heard, path }: Pace, duration: Seconds): Cut[] {
  const periods = pulsePeriods(path.periods)
  const stretches = tempiOf(periods)
  if (stretches.length < 2) return []
  const list = strokes(heard)
  const found = stretches.map(({ from, to }, i): Tracked => {
    const [a, b] = [from * HOP, to === periods.length ? duration : to * HOP]
    const last = i === stretches.length - 1
    const inner = list.filter((s) => s.t >= a + (i ? NEAR : 0) && s.t < b - (last ? 0 : NEAR))
    const period = median(periods.subarray(from, to)) / FRAME_RATE
    return { from: a, to: b, period, inner, line: machineTime(inner, period) }
  })
  const whole = machineTime(list, median(periods) / FRAME_RATE)
  if (whole && found.every((p) => !p.line || fits(list, { ...p, line: p.line }, whole))) return []
  return found.slice(1).flatMap((after, i) => {
    const before = found[i] as Tracked
    if (onePulse(before, after)) return []
    const at = seamOf(itself, list, before, after)
    const exact = before.line !== null && after.line !== null
    return [{ at, different: exact && apart(itself, at, before.from, after.to) > DIFFERENT }]
  })
}

/** A stretch of one tempo, with the strokes that are surely its own. */
interface Tracked extends Omit<Piece, 'line'> {
  period: Seconds
  inner: readonly Stroke[]
  line: Piece['line'] | null
}

/** Whether two stretches may be one song whose pulse was tracked otherwise. */
function onePulse(before: Tracked, after: Tracked): boolean {
  if (before.line && after.line) return false
  const ratio = after.period / before.period
  return FAMILIES.some((f) => [0.5, 1, 2].some((octave) => Math.abs(ratio / (f * octave) - 1) < FAMILY))
}

/** How much each stroke speaks for a stretch, as far as it keeps an exact time. */
const belongsTo = ({ line, inner }: Tracked, duration: Seconds): ((s: Stroke) => number) =>
  line ? belongingToLine(line, inner, 0, duration) : () => 0

/** The stroke before and after which strokes keep each its own time, and the sound is another. */
function seamOf(s: Spectrum, list: readonly Stroke[], before: Tracked, after: Tracked): Seconds {
  const about = before.to
  const [from, to] = [Math.max(before.from + NEAR, about - BLUR), Math.min(after.to - NEAR, about + BLUR)]
  const near = list.filter((x) => x.t >= from && x.t < to)
  const duration = s.frames / FRAME_RATE
  const [past, next] = [belongsTo(before, duration), belongsTo(after, duration)]
  const changes = near.map(({ t }) => {
    const begins = t - AHEAD
    return distance(meanOf(s, begins - COMPARED, begins), meanOf(s, begins, begins + COMPARED)) ** 2
  })
  const most = Math.max(...changes, 1e-9)
  let sum = near.reduce((n, x) => n + next(x), 0)
  let best = about
  let top = Number.NEGATIVE_INFINITY
  near.forEach((x, i) => {
    const value = sum + (CHANGE * (changes[i] as number)) / most + ON_BEAT * (past(x) + next(x))
    if (value > top) {
      top = value
      best = x.t
    }
    sum += past(x) - next(x)
  })
  return best - AHEAD
}

/** How far the mean spectra before and after a moment are from each other: all of it, and what lies next to it, whichever is less. */
function apart(s: Spectrum, t: Seconds, from: Seconds, to: Seconds): number {
  const whole = distance(meanOf(s, from, t), meanOf(s, t, to))
  return Math.min(whole, distance(meanOf(s, t - NEAR, t), meanOf(s, t, t + NEAR)))
}

/** The mean spectrum of a stretch. */
function meanOf(s: Spectrum, from: Seconds, to: Seconds): Float32Array {
  const [a, b] = [Math.max(0, Math.round(from * FRAME_RATE)), Math.min(s.frames, Math.round(to * FRAME_RATE))]
  return meanRow(s.log, s.bands, a, b)
}

/**
 * How songs are counted that were cut together, each by itself.
 * @param s begins with silence
 * @returns its times are those of the spectrum; null where none of them has a beat
 */
export function countMix(
  s: Spectrum,
  cuts: readonly Cut[],
  duration: Seconds,
  progress: (share: number) => void = () => {},
): Counted | null {
  const ends = [...cuts.map((c) => c.at), duration]
  let all: Counted | null = null
  for (const [i, end] of ends.entries()) {
    const from = Math.round((cuts[i - 1]?.at ?? 0) * FRAME_RATE)
    const to = Math.min(s.frames - LEAD * FRAME_RATE, Math.round(end * FRAME_RATE))
    const alone = soundAlone(s, from, to)
    const song = countOne(alone, onsets(alone), paceOf(alone), end - from / FRAME_RATE)
    progress((i + 1) / ends.length)
    if (!song) continue
    const { features: _, ...counted } = song
    const later = { ...counted, beats: counted.beats.map((t) => t + from / FRAME_RATE) }
    all = all ? joined(all, later) : later
  }
  return all
}
