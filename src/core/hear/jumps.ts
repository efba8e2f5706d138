import { type Line, median, type Seconds } from '../time'
import type { Stroke } from './extent'
import { HOP } from './pulse'
import { FRAME_RATE } from './spectrum'
import { arrow, type MachineLine, machineTime } from './steady'

/** A tempo that changes by more than this from window to window has jumped. */
const JUMP = 0.04
/** A piece is at least so many windows long, and keeps its tempo within this. */
const LEAST = 8
const WITHIN = 0.02
/** The tracked path sees a jump only to about this. */
const BLUR: Seconds = 8
/** The whole song's line does this much of a piece's own, where the piece's own tempo is not a matter of its own. */
const ENOUGH = 0.7

/** A stretch of one exact tempo. */
export interface Piece {
  /** Seconds in which it was tracked. */
  from: Seconds
  to: Seconds
  line: MachineLine
}

/** Stretches of one tempo in the tracked path, an octave up or down being the same; null unless there are several. */
export function stretchesOf(periods: Float32Array): { from: number; to: number }[] | null {
  const cuts = [0]
  for (let w = 1; w < periods.length; w++) {
    const octaves = Math.log2((periods[w] as number) / (periods[w - 1] as number))
    if (Math.abs(octaves - Math.round(octaves)) > Math.log2(1 + JUMP)) cuts.push(w)
  }
  const list = cuts.map((from, i) => ({ from, to: cuts[i + 1] ?? periods.length }))
  const plain = list.every(({ from, to }) => {
    const own = periods.subarray(from, to)
    const usual = median(own)
    return to - from >= LEAST && own.every((p) => Math.abs(p / usual - 1) < WITHIN)
  })
  return list.length > 1 && plain ? list : null
}

/**
 * The pulses of a song whose tempo jumps between stretches that are exactly steady, as in a medley cut from several
 * songs: each stretch on its own line, joined where the strokes of both sides fit best and their pulses meet.
 * @param list strokes of the whole song
 * @param periods period in frames along the song, in one octave
 * @returns times in seconds; null where the song is not of this kind
 */
export function pieces(list: readonly Stroke[], periods: Float32Array, duration: Seconds): Seconds[] | null {
  const stretches = stretchesOf(periods)
  if (!stretches) return null
  const found: Piece[] = []
  for (const [i, { from, to }] of stretches.entries()) {
    const [a, b] = [from * HOP, to === periods.length ? duration : to * HOP]
    const inner = list.filter(
      (s) => s.t >= a + (i ? BLUR : 0) && s.t < b - (i < stretches.length - 1 ? BLUR : 0),
    )
    const period = median(periods.subarray(from, to)) / FRAME_RATE
    const line = machineTime(inner, period)
    // Another family than the tracked one cannot be joined to its neighbours.
    if (!line || Math.abs(line.period / period - 1) > WITHIN) return null
    found.push({ from: a, to: b, line })
  }
  const whole = machineTime(list, median(periods) / FRAME_RATE)
  if (whole && found.every((p) => fits(list, p, whole))) return null
  return joined(list, found, duration)
}

const inside = (list: readonly Stroke[], from: Seconds, to: Seconds) =>
  list.filter((s) => s.t >= from && s.t < to)

/** How strongly the strokes keep a line's time, at its pulse or twice as fast. */
const strengthAt = (list: readonly Stroke[], line: Line) =>
  Math.max(Math.hypot(...arrow(list, 1 / line.period)), Math.hypot(...arrow(list, 2 / line.period)))

/** Whether the whole song's line does for a piece. */
export function fits(list: readonly Stroke[], piece: Piece, whole: Line): boolean {
  const own = inside(list, piece.from, piece.to)
  return strengthAt(own, whole) > ENOUGH * strengthAt(own, piece.line)
}

function joined(list: readonly Stroke[], found: readonly Piece[], duration: Seconds): Seconds[] {
  // Where halves of the pulse sound clearer than the pulse, a line may lie on either half: joined on halves, then thinned.
  const half = found.some((p) => p.line.halves)
  const lines = found.map((p) => (half ? { ...p.line, period: p.line.period / 2 } : p.line))
  const times: Seconds[] = []
  let begin = 0
  lines.forEach((line, i) => {
    const next = lines[i + 1]
    const end = next ? meeting(list, line, next, (found[i] as Piece).to) : duration
    const first = Math.ceil((begin - line.start) / line.period - 1e-6)
    for (let k = first; line.start + k * line.period < end - (next ? 0.5 * line.period : 0); k++)
      times.push(line.start + k * line.period)
    begin = end
  })
  return half ? times.filter((_, k) => k % 2 === 0) : times
}

/** A pulse of the later line at which the two meet, and before and after which the strokes keep each its own line. */
function meeting(list: readonly Stroke[], before: Line, after: Line, about: Seconds): Seconds {
  const near = inside(list, about - 2 * BLUR, about + 2 * BLUR)
  const keeps = (s: Stroke, line: Line) =>
    s.strength * Math.cos((2 * Math.PI * (s.t - line.start)) / line.period)
  let best = about
  let most = Number.NEGATIVE_INFINITY
  const first = Math.ceil((about - BLUR - after.start) / after.period)
  for (let k = first; after.start + k * after.period < about + BLUR; k++) {
    const t = after.start + k * after.period
    const off = (t - before.start) / before.period
    const apart = Math.abs(off - Math.round(off))
    const value =
      near.reduce((sum, s) => sum + keeps(s, s.t < t - 0.02 ? before : after), 0) - 2 * apart * apart
    if (apart < 0.25 && value > most) {
      most = value
      best = t
    }
  }
  return best
}
