import type { Ticks } from '../../time'
import type { Cue, Repeat } from '../document/cue-schema'
import { LIMITS } from '../document/limits'

/** Repeats tick by tick, from the first that is danced as another on. */
interface Laid {
  first: Ticks
  /** For each tick how far from it the one lies that it is danced as; `OWN` where it is danced as itself. */
  away: Int32Array
}

const OWN = 2 ** 31 - 1

function laid(repeats: readonly Repeat[]): Laid {
  const sorted = [...repeats].sort((a, b) => a.to.from - b.to.from)
  const first = sorted[0]?.to.from ?? 0
  const end = sorted.reduce((most, r) => Math.max(most, r.to.to), first)
  const away = new Int32Array(end - first).fill(OWN)
  sorted.forEach(({ to, from }, i) => {
    // Where two lie over one another, which the gate refuses, the one that begins later holds.
    const until = Math.min(to.to, sorted[i + 1]?.to.from ?? to.to)
    away.fill(from - to.from, to.from - first, until - first)
  })
  return { first, away }
}

/**
 * Follows every tick that is danced as another one to where it is danced as itself.
 * @param told of each tick after the one it is danced as: how far both lie from `first`
 * @returns how far from `first` the tick lies at which one comes round in a circle; null where none does
 */
function follow({ away }: Laid, told: (tick: number, danced: number) => void): number | null {
  const [NEW, ON_THE_WAY, DONE] = [0, 1, 2]
  const states = new Uint8Array(away.length)
  const way: number[] = []
  for (let tick = 0; tick < away.length; tick++) {
    let here = tick
    while (states[here] === NEW && away[here] !== OWN) {
      states[here] = ON_THE_WAY
      way.push(here)
      here += away[here] as number
    }
    if (states[here] === ON_THE_WAY) return here
    for (let at = way.pop(); at !== undefined; at = way.pop()) {
      told(at, at + (away[at] as number))
      states[at] = DONE
    }
  }
  return null
}

/**
 * Where repeats lead in a circle, or deeper than anybody dances: a tick that is danced as itself in the end. Judged tick by
 * tick, so that a stretch may be danced as an earlier part of itself. Null where none does.
 */
export function circleIn(repeats: readonly Repeat[]): Ticks | null {
  let circle = circles.get(repeats)
  if (circle === undefined) {
    circle = findCircle(laid(repeats))
    circles.set(repeats, circle)
  }
  return circle
}

/** Asked at every edit, of repeats that few edits change. */
const circles = new WeakMap<readonly Repeat[], Ticks | null>()

function findCircle(ways: Laid): Ticks | null {
  const depths = new Uint32Array(ways.away.length)
  let deep: number | null = null
  const circle = follow(ways, (tick, danced) => {
    const depth = (depths[danced] ?? 0) + 1
    depths[tick] = depth
    if (depth > LIMITS.repeatDepth) deep ??= tick
  })
  const found = circle ?? deep
  return found === null ? null : ways.first + found
}

/**
 * How many cues are danced at most, what repeats bring counted each time, without making them: repeats of repeats double what
 * they bring, and a small document could hold millions. Cues that replace linked ones are counted beside those.
 * Repeats in a circle bring nothing.
 */
export function dancedCount({ cues, repeats }: { cues: readonly Cue[]; repeats: readonly Repeat[] }): number {
  if (!repeats.length || circleIn(repeats) !== null) return cues.length
  const ways = laid(repeats)
  const { first, away } = ways
  // What begins on a tick: what is written there, and what begins on the one it is danced as.
  const beginning = new Float64Array(away.length)
  const outside = new Map<number, number>()
  let count = 0
  for (const { at } of cues) {
    const tick = at - first
    if (tick in beginning) beginning[tick] = (beginning[tick] as number) + 1
    else outside.set(tick, (outside.get(tick) ?? 0) + 1)
    if ((away[tick] ?? OWN) === OWN) count++
  }
  follow(ways, (tick, danced) => {
    const all = (beginning[tick] as number) + (beginning[danced] ?? outside.get(danced) ?? 0)
    beginning[tick] = all
    count += all
  })
  return count
}
