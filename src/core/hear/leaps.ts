/* Where something was cut out of a song, or put in: it goes on at its tempo, but not where it would have been. */
import type { Seconds } from '../time'
import { belongingToLine, type Stroke } from './extent'
import { compareAlong, type Folded, foldPulses, likenessAfter, seamInPulses } from './fold-pulses'
import type { Onsets } from './onsets'
import { arrow, lineNear, type MachineLine } from './steady'

/** A shorter stretch between two cuts is not looked for. */
const LEAST: Seconds = 12
/** How far from the tracked tempo the exact one is looked for, and how far from that the one of each stretch. */
const REACH = 0.02
const OWN_REACH = 0.002
const WINDOW: Seconds = 12
/** Parts of the pulse whose strokes add up: itself and halves of it. */
const HARMONICS = [1, 2] as const
/** A place is looked at where two lines gather so much more of the strokes than one, as a share of what both gather. */
const GAIN = 0.03
/** Lines of one song are equally fast to this. */
const SAME_RATE = 0.004
/** What lies this near, in pulses, is where it would have been. */
const ASIDE = 0.09
/** How like each other both sides must be where they are put together anew, and how much more than as they lie. */
const LIKE = 0.6
const MORE_LIKE = 0.25
/** The same where whole pulses are missing, which happens in music by itself. */
const MORE_LIKE_IN_PULSES = 0.15
/** Both sides are compared over this much at most. */
const NEAR: Seconds = 30
/** Where whole pulses are missing, over this much. */
const BESIDE: Seconds = 14
/** So near the place that was found its exact one is looked for. */
const SEARCHED: Seconds = 3
/** A frame tells of what begins in it and shortly after. */
const AHEAD: Seconds = 0.02
/** What is played so much less than elsewhere tells nothing, of the square of its strokes. */
const QUIET = 0.1
/** So near the cut they are not. */
const BLUR: Seconds = 0.5

/**
 * Where a song goes on beside its own beats and bars, though at its tempo.
 * @param list strokes of the sound, ascending
 * @param period of the pulse as tracked, in seconds
 * @returns about when, ascending, in seconds; none where its tempo is not a machine's
 */
export function leapsOf(o: Onsets, list: readonly Stroke[], period: Seconds): Seconds[] {
  const [first, last] = [list[0], list.at(-1)]
  if (!first || !last || last.t - first.t < 2 * LEAST) return []
  const rate = rateOf(list, 1 / period)
  const beside = leapsBesidePulses(o, list, rate)
  const ends = [first.t, ...beside, last.t + BLUR]
  const inPulses = ends.slice(1).flatMap((to, i) => {
    const from = ends[i] as Seconds
    const line = lineNear(within(list, from, to), 1 / rate, OWN_REACH)
    return line ? leapsByPulses(o, line, from, to) : []
  })
  return [...beside, ...inPulses].sort((a, b) => a - b)
}

const within = (list: readonly Stroke[], from: Seconds, to: Seconds) =>
  list.filter((s) => s.t >= from && s.t < to)

/** The rate near a tracked one at which strokes add up, window by window, wherever each window lies. */
function rateOf(list: readonly Stroke[], tracked: number): number {
  const parts: Stroke[][] = []
  const end = (list.at(-1) as Stroke).t
  for (let from = (list[0] as Stroke).t; from < end; from += WINDOW / 2)
    parts.push(within(list, from, from + WINDOW))
  const power = (rate: number) => {
    let sum = 0
    for (const part of parts) for (const h of HARMONICS) sum += Math.hypot(...arrow(part, h * rate)) ** 2
    return sum
  }
  let [best, most] = [tracked, -1]
  for (let d = -REACH; d <= REACH; d += REACH / 40) {
    const sum = power(tracked * (1 + d))
    if (sum > most) [best, most] = [tracked * (1 + d), sum]
  }
  return best
}

/** What stretches of strokes gather at rates near one: sums of arrows up to each stroke, so that a stretch is two look-ups. */
class Gathered {
  private readonly sums: Float32Array[][]

  constructor(list: readonly Stroke[], rate: number) {
    const span = (list.at(-1) as Stroke).t - (list[0] as Stroke).t
    // A twelfth of a turn of the fastest part over the whole song.
    const step = 1 / (12 * 2 * span)
    const many = Math.ceil((OWN_REACH * rate) / step)
    this.sums = Array.from({ length: 2 * many + 1 }, (_, i) =>
      HARMONICS.map((h) => sumsOf(list, h * (rate + (i - many) * step))),
    )
  }

  /** By the strokes from one up to before another, at the rate that fits them best. */
  most(from: number, to: number): number {
    let best = 0
    for (const rate of this.sums) {
      let all = 0
      for (const sum of rate)
        all += Math.hypot(
          (sum[2 * to] as number) - (sum[2 * from] as number),
          (sum[2 * to + 1] as number) - (sum[2 * from + 1] as number),
        )
      best = Math.max(best, all)
    }
    return best
  }
}

function sumsOf(list: readonly Stroke[], rate: number): Float32Array {
  const sum = new Float32Array(2 * (list.length + 1))
  list.forEach(({ t, strength }, i) => {
    const turn = 2 * Math.PI * rate * t
    sum[2 * i + 2] = (sum[2 * i] as number) + strength * Math.cos(turn)
    sum[2 * i + 3] = (sum[2 * i + 1] as number) + strength * Math.sin(turn)
  })
  return sum
}

/** Strokes from which on another line gathers more, found by halving again and again. @returns indices, ascending */
function splitsOf(list: readonly Stroke[], rate: number): number[] {
  const gathered = new Gathered(list, rate)
  const timeOf = (i: number) => (list[i] as Stroke).t
  const out: number[] = []
  const split = (from: number, to: number) => {
    const whole = gathered.most(from, to)
    let best = { more: 0, both: 1, at: -1 }
    for (let at = from + 1; at < to; at += 4) {
      if (timeOf(at) - timeOf(from) < LEAST || timeOf(to - 1) - timeOf(at) < LEAST) continue
      const both = gathered.most(from, at) + gathered.most(at, to)
      if (both - whole > best.more) best = { more: both - whole, both, at }
    }
    if (best.at < 0 || best.more < GAIN * best.both) return
    split(from, best.at)
    out.push(best.at)
    split(best.at, to)
  }
  split(0, list.length)
  return out
}

/** Leaps by part of a pulse, or by any number and a part: each side keeps a line of its own. */
function leapsBesidePulses(o: Onsets, list: readonly Stroke[], rate: number): Seconds[] {
  const splits = splitsOf(list, rate)
  const ends = [0, ...splits, list.length]
  const pieces = ends.slice(1).map((to, i) => {
    const own = list.slice(ends[i], to)
    return {
      from: (own[0] as Stroke).t,
      to: (own.at(-1) as Stroke).t,
      line: lineNear(own, 1 / rate, OWN_REACH),
    }
  })
  return splits.flatMap((at, i) => {
    const [before, after] = [pieces[i], pieces[i + 1]]
    if (!before?.line || !after?.line || !isAsFast(before.line, after.line)) return []
    const { t } = list[at] as Stroke
    const a = foldPulses(o, before.line, Math.max(before.from, t - NEAR), t - BLUR)
    const b = foldPulses(o, after.line, t + BLUR, Math.min(after.to, t + NEAR))
    if (!isLeap(a, b, besideOf(before.line, after.line, t), MORE_LIKE)) return []
    return [seamOfLines(list, { ...before, line: before.line }, { ...after, line: after.line }, t)]
  })
}

const isAsFast = (a: MachineLine, b: MachineLine) => Math.abs(a.period / b.period - 1) < SAME_RATE

/** A stretch that keeps a line. */
interface Piece {
  from: Seconds
  to: Seconds
  line: MachineLine
}

/** The stroke before and after which strokes keep each its own line; a hair before it. */
function seamOfLines(list: readonly Stroke[], before: Piece, after: Piece, t: Seconds): Seconds {
  const near = within(list, t - SEARCHED, t + SEARCHED)
  const belongsTo = ({ line, from, to }: Piece) => {
    const own = within(list, from, to).filter((s) => Math.abs(s.t - t) > SEARCHED)
    return belongingToLine(line, own, from - SEARCHED, to + SEARCHED)
  }
  const [past, next] = [belongsTo(before), belongsTo(after)]
  let sum = near.reduce((n, s) => n + next(s), 0)
  let [best, top] = [t, sum]
  for (const [i, s] of near.entries()) {
    sum += past(s) - next(s)
    const later = near[i + 1]
    if (later && sum > top) [best, top] = [later.t, sum]
  }
  return best - AHEAD
}

/** How much later in its pulses the earlier line is than the later one, at a time. */
const besideOf = (before: MachineLine, after: MachineLine, t: Seconds) =>
  (t - before.start) / before.period - (t - after.start) / after.period

/** Whether what comes after is like what was before, but not where it lies. @param beside how far their lines are apart, in pulses */
export function isLeap(before: Folded, after: Folded, beside: number, more: number): boolean {
  let [here, elsewhere] = [-1, -1]
  for (const { by, like } of likenessAfter(before, after)) {
    const off = (by + beside) / before.pulses
    if (before.pulses * Math.abs(off - Math.round(off)) < ASIDE) here = Math.max(here, like)
    else elsewhere = Math.max(elsewhere, like)
  }
  return elsewhere > LIKE && elsewhere - here > more
}

/** Leaps by whole pulses, which leave all strokes on the line: a beat or a bar is cut. */
function leapsByPulses(o: Onsets, line: MachineLine, from: Seconds, to: Seconds): Seconds[] {
  const compared = compareAlong(o, line, from, to, BESIDE)
  const loudest = Math.max(...compared.map((x) => x.strength))
  const all = compared.filter((x) => x.strength > QUIET * loudest)
  const most = all.map((x) => x.elsewhere - x.here)
  const reach = Math.round(BESIDE / line.period / 2)
  return all.flatMap(({ at, elsewhere }, i) => {
    const more = most[i] as number
    const before = most.slice(Math.max(0, i - reach), i)
    const isTop = before.every((x) => x < more) && most.slice(i, i + reach + 1).every((x) => x <= more)
    const is = isTop && elsewhere > LIKE && more > MORE_LIKE_IN_PULSES
    return is ? [seamInPulses(o, line, at, BESIDE, SEARCHED) - AHEAD] : []
  })
}
