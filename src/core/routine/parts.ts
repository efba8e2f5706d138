import type { Ticks } from '../time'
import type { NewId } from './phrases'
import type { Part, Routine } from './schema'

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

/** The part a place lies in. */
export function partAt(parts: readonly Part[], tick: Ticks): Part | null {
  return parts.reduce<Part | null>((best, p) => (p.at <= tick && (!best || p.at >= best.at) ? p : best), null)
}

/** "Part 3": a name nobody has used yet. */
export function nextPartName(parts: readonly Part[]): string {
  for (let n = 1; ; n++) if (!parts.some((p) => p.name === `Part ${n}`)) return `Part ${n}`
}
