import { type Seconds, timeOfTick } from '../time'
import { type PlacedPhrase, sectionTitle } from './layout'

/** A run of phrases of one section, in song time. */
export interface Stretch {
  letter: string
  name: string
  from: Seconds
  to: Seconds
}

/** Section stretches in song time. */
export function stretches(
  placed: readonly PlacedPhrase[],
  times: readonly Seconds[],
  duration: Seconds,
): Stretch[] {
  if (times.length < 2) return []
  const out: Stretch[] = []
  let last: PlacedPhrase['section'] | undefined
  for (const p of placed) {
    const from = Math.max(0, timeOfTick(times, p.start))
    const to = Math.min(duration, timeOfTick(times, p.end))
    const open = out.at(-1)
    if (open && p.section === last) open.to = to
    else
      out.push({ letter: p.section?.letter ?? '', name: p.section ? sectionTitle(p.section) : '', from, to })
    last = p.section
  }
  return out
}
