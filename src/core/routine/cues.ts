import { TICKS_PER_COUNT, type Ticks } from '../time'
import type { Cue } from './cue-schema'
import { totalCounts } from './layout'
import type { Routine } from './schema'

/** Sets where the excerpt starts or ends; the other end gives way when they would cross. */
export function setExcerpt(routine: Routine, edge: 'start' | 'end', tick: Ticks): Routine {
  const whole = { start: 0, end: totalCounts(routine.phrases) * TICKS_PER_COUNT }
  const now = routine.excerpt ?? whole
  const excerpt =
    edge === 'start'
      ? { start: tick, end: now.end > tick ? now.end : whole.end }
      : { start: now.start < tick ? now.start : whole.start, end: tick }
  return excerpt.end > excerpt.start ? { ...routine, excerpt } : routine
}

/** Adds a cue, or replaces the one with the same id. */
export function putCue(routine: Routine, cue: Cue): Routine {
  const known = routine.cues.some((c) => c.id === cue.id)
  return {
    ...routine,
    cues: known ? routine.cues.map((c) => (c.id === cue.id ? cue : c)) : [...routine.cues, cue],
  }
}

/** Moves a cue by some ticks, never before the pick-up room in front of the first count. */
export function moveCue(routine: Routine, cueId: string, by: Ticks): Routine {
  const end = totalCounts(routine.phrases) * TICKS_PER_COUNT
  const cue = routine.cues.find((c) => c.id === cueId)
  if (!cue || cue.at + by < 0 || cue.at + by >= end) return routine
  return putCue(routine, { ...cue, at: cue.at + by })
}

/** Takes a cue away. */
export function removeCue(routine: Routine, cueId: string): Routine {
  return { ...routine, cues: routine.cues.filter((c) => c.id !== cueId) }
}

/** Cues of the layer that is drilled: feet are all that is not arms. */
export function ofLayer<T extends Pick<Cue, 'layer'>>(
  cues: readonly T[],
  layer: 'feet' | 'arms' | 'all' = 'all',
): T[] {
  return cues.filter((c) => layer === 'all' || (layer === 'arms') === (c.layer === 'arms'))
}
