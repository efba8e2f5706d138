import { countTimes, isGrid, type Seconds, type Ticks, tickOfTime, timeOfTick } from '../time'
import type { Repair, Routine } from './schema'

/** Beats with what a person did to them. */
export interface RepairedGrid {
  beats: Seconds[]
  /** Indices of beats held in place, ascending. */
  pins: number[]
}

/** Two beats are never nearer than this: 600 a minute. */
const CLOSEST: Seconds = 0.1

/**
 * The grid people see: the heard beats with a person's repairs applied in order. A repair that would tear the grid is
 * left out, so that the rest still stands.
 */
export function repairedGrid(heard: readonly Seconds[], repairs: readonly Repair[]): RepairedGrid {
  let grid: RepairedGrid = { beats: [...heard], pins: [] }
  for (const r of repairs) {
    const next = applied(grid, r)
    if (next.beats.length === 0 || isGrid(next.beats)) grid = next
  }
  return isGrid(grid.beats) ? grid : { beats: [], pins: [] }
}

/** The beat times of `repairedGrid`: at least two, or an empty list when nothing usable was heard. */
export function repairedBeats(heard: readonly Seconds[], repairs: readonly Repair[]): Seconds[] {
  return repairedGrid(heard, repairs).beats
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
        pins: pins.filter((p) => p < from || p >= to).map((p) => (p < from ? p : p + more)),
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

/** True when a repair leaves a grid whose beats stay in order and apart. */
export function canRepair(heard: readonly Seconds[], repairs: readonly Repair[], change: Repair): boolean {
  const before = repairedGrid(heard, repairs)
  const { beats } = applied(before, change)
  return isGrid(beats) && beats.every((t, i) => i === 0 || t - (beats[i - 1] as number) >= CLOSEST - 1e-9)
}

/** Moves a position from one grid to another so that it stays on its sound. */
export function samePlace(tick: Ticks, from: readonly Seconds[], to: readonly Seconds[]): Ticks {
  return Math.round(tickOfTime(to, timeOfTick(from, tick)))
}

/** A routine whose cues, parts and excerpt keep their sound while the grid under them changes. */
export function onNewGrid(routine: Routine, from: readonly Seconds[], to: readonly Seconds[]): Routine {
  return movedBy(routine, (tick) => samePlace(tick, from, to))
}

/** A routine whose cues, parts and excerpt are moved along the count line. */
export function movedBy(routine: Routine, move: (tick: Ticks) => Ticks): Routine {
  const excerpt = routine.excerpt && { start: move(routine.excerpt.start), end: move(routine.excerpt.end) }
  return {
    ...routine,
    cues: routine.cues.map((c) => {
      const at = move(c.at)
      return { ...c, at, length: Math.max(1, move(c.at + c.length) - at) }
    }),
    parts: routine.parts.map((p) => ({ ...p, at: Math.max(0, move(p.at)) })),
    excerpt: excerpt && excerpt.end > excerpt.start ? excerpt : null,
  }
}
