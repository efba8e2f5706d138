import type { Ticks } from '../../time'
import type { Routine } from '../document/schema'
import type { NewId } from './phrase-edits'

/** Begins a part of the dance at a place, or names the one that begins there anew. */
export function beginPart(routine: Routine, at: Ticks, name: string, newId: NewId): Routine {
  const old = routine.parts.find((p) => p.at === at)
  const parts = old
    ? routine.parts.map((p) => (p === old ? { ...p, name } : p))
    : [...routine.parts, { id: newId(), at, name }]
  return { ...routine, parts: parts.sort((a, b) => a.at - b.at) }
}

/** Takes the beginning of a part away: what it held belongs to the part before. */
export function removePart(routine: Routine, id: string): Routine {
  return { ...routine, parts: routine.parts.filter((p) => p.id !== id) }
}
