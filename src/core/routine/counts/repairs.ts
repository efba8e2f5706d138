import { countTimes, isGrid, type Seconds } from '../../time'
import { LIMITS } from '../document/limits'
import type { Repair } from '../document/song-schema'
import { Refused } from '../gate/refused'

/** Beats with what a person did to them. */
export interface RepairedGrid {
  beats: Seconds[]
  /** Indices of beats held in place, ascending. */
  pins: number[]
}

/** No song has more: what makes more is left out, as what tears the grid is. */
const MOST = 2 * LIMITS.beats

/** Two beats are never nearer than this: 600 a minute. */
const CLOSEST: Seconds = 0.1

/**
 * The grid people see: the heard beats with a person's repairs applied in order. A repair that would tear the grid is
 * left out, so that the rest still stands.
 */
export function repairedGrid(heard: readonly Seconds[], repairs: readonly Repair[]): RepairedGrid {
  let grid: RepairedGrid = { beats: [...heard], pins: [] }
  for (const r of repairs) {
    // What would be left out is not made first: two hundred doublings would be made of forty thousand beats each.
    if (beatsAfter(grid.beats.length, r) > MOST) continue
    const next = applied(grid, r)
    if (next.beats.length === 0 || (next.beats.length <= MOST && isGrid(next.beats))) grid = next
  }
  return isGrid(grid.beats) ? grid : { beats: [], pins: [] }
}

/** The beat times of `repairedGrid`: at least two, or an empty list when nothing usable was heard. */
export function repairedBeats(heard: readonly Seconds[], repairs: readonly Repair[]): Seconds[] {
  return repairedGrid(heard, repairs).beats
}

/** How many beats a repair leaves. */
function beatsAfter(beats: number, r: Repair): number {
  if (r.kind === 'double') return 2 * beats
  if (r.kind !== 'grid') return beats
  const [from, to] = [Math.min(r.from, beats), Math.min(Math.max(r.from, r.to), beats)]
  return beats - (to - from) + r.beats.length
}

function applied({ beats, pins }: RepairedGrid, r: Repair): RepairedGrid {
  switch (r.kind) {
    case 'double':
      return { beats: countTimes(beats, 2), pins: pins.map((p) => 2 * p) }
    case 'halve':
      return {
        beats: countTimes(beats, 0.5, r.keep),
        pins: pins.filter((p) => p % 2 === r.keep).map((p) => (p - r.keep) / 2),
      }
    case 'shift':
      return { beats: beats.map((t, i) => (i >= (r.from ?? 0) ? t + r.seconds : t)), pins }
    case 'pin':
      return pinned({ beats, pins }, r.beat, r.at)
    case 'grid': {
      const [from, to] = [Math.min(r.from, beats.length), Math.min(Math.max(r.from, r.to), beats.length)]
      const more = r.beats.length - (to - from)
      return {
        beats: [...beats.slice(0, from), ...r.beats, ...beats.slice(to)],
        pins: [
          ...pins.filter((p) => p < from || p >= to).map((p) => (p < from ? p : p + more)),
          ...(r.pins ?? []),
        ].sort((a, b) => a - b),
      }
    }
  }
}

/**
 * Holds a beat at a time. Beats up to the neighbouring pins are spread evenly to follow; where there is no further pin
 * on a side, everything on that side moves along.
 */
function pinned({ beats, pins }: RepairedGrid, beat: number, at: Seconds): RepairedGrid {
  const old = beats[beat]
  if (old === undefined) return { beats, pins }
  const by = at - old
  const before = pins.findLast((p) => p < beat)
  const after = pins.find((p) => p > beat)
  const share = (i: number) => {
    if (i === beat) return 1
    const pin = i < beat ? before : after
    if (pin === undefined) return 1
    if (i < beat ? i <= pin : i >= pin) return 0
    const fixed = beats[pin] as number
    return ((beats[i] as number) - fixed) / (old - fixed)
  }
  return {
    beats: beats.map((t, i) => t + by * share(i)),
    pins: [...new Set([...pins, beat])].sort((a, b) => a - b),
  }
}

/** Why a repair cannot be made, in words; null where it leaves a grid whose beats stay in order and apart. */
export function repairProblem(
  heard: readonly Seconds[],
  repairs: readonly Repair[],
  change: Repair,
): string | null {
  const { beats } = applied(repairedGrid(heard, repairs), change)
  if (beats.length < 2) return 'That would leave too few counts.'
  if (beats.length > LIMITS.beats)
    return `That would make more than ${LIMITS.beats.toLocaleString('en')} counts.`
  if (!isGrid(beats)) return 'The beats would not follow one another.'
  if (beats.some((t, i) => i > 0 && t - (beats[i - 1] as number) < CLOSEST - 1e-9))
    return 'Two beats would lie nearer than a tenth of a second.'
  const { min, max } = LIMITS.seconds
  if ((beats[0] as number) < min || (beats.at(-1) as number) > max)
    return 'The beats would lie far outside the song.'
  return null
}

/** True when a repair leaves a grid whose beats stay in order and apart. */
export const canRepair = (heard: readonly Seconds[], repairs: readonly Repair[], change: Repair): boolean =>
  repairProblem(heard, repairs, change) === null

/**
 * The repairs with one more, in as few as say the same: shifts in a row are added up, a beat pinned again is pinned
 * once, and a run too long to keep is folded into the grid it makes.
 * @throws Refused where the grid would not stand it
 */
export function withRepair(heard: readonly Seconds[], repairs: readonly Repair[], change: Repair): Repair[] {
  const problem = repairProblem(heard, repairs, change)
  if (problem) throw new Refused(problem)
  const last = repairs.at(-1)
  if (last?.kind === 'pin' && change.kind === 'pin' && last.beat === change.beat)
    return [...repairs.slice(0, -1), change]
  if (last?.kind === 'shift' && change.kind === 'shift' && last.from === change.from) {
    const seconds = last.seconds + change.seconds
    if (Math.abs(seconds) < 1e-9) return repairs.slice(0, -1)
    if (Math.abs(seconds) <= LIMITS.shift) return [...repairs.slice(0, -1), { ...change, seconds }]
  }
  const next = [...repairs, change]
  if (next.length <= LIMITS.repairs) return next
  const { beats, pins } = repairedGrid(heard, next)
  return [{ kind: 'grid', from: 0, to: heard.length, beats, ...(pins.length ? { pins } : {}) }]
}
