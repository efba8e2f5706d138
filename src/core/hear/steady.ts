import type { Line, Seconds } from '../time'
import type { Stroke } from './extent'

/** How far from the tracked tempo the exact one is looked for. */
const REACH = 0.02
/** Asked for together: the pulse, halves of it, two and four of it. Their turns are those of the longest, doubled so often. */
const DOUBLED = 4
/** What a family is worth beyond doubt: nearly all agrees, and a quarter of it adds up. */
const CLEAR = 1.15
/** The tracked pulse may belong to a neighbouring family: dotted patterns are taken for beats. */
const FAMILIES = [1, 3 / 4, 4 / 3, 2 / 3, 3 / 2] as const
const WINDOW: Seconds = 12
/** Windows may lie this far beside the line. */
const BESIDE: Seconds = 0.022
/** Tempi this far off are tried in every window, and a window keeps the tempo that does this much of the best of them. */
const DRIFT = 0.04
const KEEPS = 0.7
/** Share of what sounds that must keep the tempo, and lie beside the line. */
const SHARE = 0.75

/** A line of pulses; where halves of the pulse are clearer than it, it may lie on either half. */
export interface MachineLine extends Line {
  halves: boolean
}

/** Sum of unit arrows of the strokes at a rate a second: long where they keep that time. */
export function arrow(list: readonly Stroke[], rate: number): [number, number] {
  let x = 0
  let y = 0
  for (const { t, strength } of list) {
    const turn = 2 * Math.PI * rate * t
    x += strength * Math.cos(turn)
    y += strength * Math.sin(turn)
  }
  return [x, y]
}

/** Squares of the arrows at a rate, twice it, four and eight times it, summed. */
function doubledPower(list: readonly Stroke[], rate: number): number {
  const x = new Float64Array(DOUBLED)
  const y = new Float64Array(DOUBLED)
  for (const { t, strength } of list) {
    const turn = 2 * Math.PI * rate * t
    let [cos, sin] = [Math.cos(turn), Math.sin(turn)]
    for (let d = 0; d < DOUBLED; d++) {
      x[d] = (x[d] as number) + strength * cos
      y[d] = (y[d] as number) + strength * sin
      // Twice the angle.
      const twice = 2 * sin * cos
      cos = (cos - sin) * (cos + sin)
      sin = twice
    }
  }
  let sum = 0
  for (let d = 0; d < DOUBLED; d++) sum += (x[d] as number) ** 2 + (y[d] as number) ** 2
  return sum
}

/**
 * One exact pulse through the whole song, if it was made to a machine's tempo: the period near the tracked one at which
 * the strokes of the whole song add up best (a periodogram of the strokes), believed when stretch after stretch agrees
 * with it in phase. It needs no tracked beat to be right.
 * @param period of the pulse as tracked, in seconds
 */
export function machineTime(list: readonly Stroke[], period: Seconds): MachineLine | null {
  let best: Agreement | null = null
  for (const factor of FAMILIES) {
    const way = exactly(list, period * factor, REACH)
    if (!way || way.agreed < SHARE) continue
    // The family that was tracked is left only for one that agrees clearly better.
    const worth = way.worth + (factor === 1 ? 0.1 : 0)
    if (!best || worth > best.worth) best = { ...way, worth }
    // Beyond doubt: the others need not be tried.
    if (factor === 1 && way.worth > CLEAR) break
  }
  return best?.line ?? null
}

/**
 * The same where the period is known, nearly.
 * @param reach how far from it the exact one may be, as a share of it
 */
export function lineNear(list: readonly Stroke[], period: Seconds, reach: number): MachineLine | null {
  const found = exactly(list, period, reach)
  return found && found.agreed >= SHARE ? found.line : null
}

interface Agreement {
  line: MachineLine
  /** Share of what sounds that keeps its tempo, or lies beside it, whichever is less. */
  agreed: number
  /** That, and how much the strokes of the whole song add up at the pulse and at half of it. */
  worth: number
}

function exactly(list: readonly Stroke[], period: Seconds, reach: number): Agreement | null {
  const first = list[0]
  const last = list.at(-1)
  if (!first || !last || list.length < 24) return null
  const span = last.t - first.t
  if (span < WINDOW) return null
  const rate = 1 / period
  const power = (r: number) => doubledPower(list, 0.25 * r)
  // A twelfth of a turn of the fastest part over the whole song.
  const step = 1 / (12 * 2 * span)
  let best = rate
  let most = -1
  for (let r = rate * (1 - reach); r <= rate * (1 + reach); r += step) {
    const p = power(r)
    if (p > most) {
      most = p
      best = r
    }
  }
  const coarse = best
  for (let d = -8; d <= 8; d++) {
    const r = coarse + (d * step) / 8
    const p = power(r)
    if (p > most) {
      most = p
      best = r
    }
  }
  return agreement(list, best)
}

/** The line at this rate, when windows along the song keep it in tempo and in phase. */
function agreement(list: readonly Stroke[], rate: number): Agreement | null {
  const long = (h: number) => Math.hypot(...arrow(list, h * rate))
  const clearest = long(2) > long(1) ? 2 : 1
  const r = clearest * rate
  const [x, y] = arrow(list, r)
  const whole = Math.atan2(y, x)
  let [inTempo, inPhase, all] = [0, 0, 0]
  const end = (list.at(-1) as Stroke).t
  for (let from = (list[0] as Stroke).t; from < end; from += WINDOW / 2) {
    const part = list.filter((s) => s.t >= from && s.t < from + WINDOW)
    const [px, py] = arrow(part, r)
    const here = Math.hypot(px, py)
    let most = here
    for (let d = -DRIFT; d <= DRIFT; d += 0.002)
      most = Math.max(most, Math.hypot(...arrow(part, r * (1 + d))))
    const beside = Math.atan2(py, px) - whole
    const away = Math.abs(beside - 2 * Math.PI * Math.round(beside / (2 * Math.PI))) / (2 * Math.PI * r)
    // A stretch weighs by how well it keeps any time at all: free time and noise say nothing.
    all += most
    if (here > KEEPS * most) inTempo += most
    if (away < BESIDE) inPhase += most
  }
  if (all === 0) return null
  const agreed = Math.min(inTempo, inPhase) / all
  const strength = list.reduce((n, s) => n + s.strength, 1e-9)
  const worth = agreed + (0.5 * (long(1) + 0.5 * long(2))) / strength
  return {
    line: { start: whole / (2 * Math.PI * r), period: 1 / rate, halves: clearest === 2 },
    agreed,
    worth,
  }
}
