import type { Ticks } from '../../time'
import type { Part } from '../document/song-schema'

/** The part a place lies in. */
export function partAt(parts: readonly Part[], tick: Ticks): Part | null {
  return parts.reduce<Part | null>((best, p) => (p.at <= tick && (!best || p.at >= best.at) ? p : best), null)
}

/** "Part 3": a name nobody has used yet. */
export function nextPartName(parts: readonly Part[]): string {
  for (let n = 1; ; n++) if (!parts.some((p) => p.name === `Part ${n}`)) return `Part ${n}`
}
