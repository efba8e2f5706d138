import { type Seconds, timeOfTick } from '../../time'
import type { PlacedPhrase } from './layout'

/** A run of phrases of one section in song time, as the ribbon draws it. */
export interface SectionBand {
  letter: string
  name: string
  from: Seconds
  to: Seconds
}

/** The bands of the sections in song time. */
export function sectionBands(
  placed: readonly PlacedPhrase[],
  times: readonly Seconds[],
  duration: Seconds,
): SectionBand[] {
  if (times.length < 2) return []
  const out: SectionBand[] = []
  let last: PlacedPhrase['section'] | undefined
  for (const p of placed) {
    const from = Math.max(0, timeOfTick(times, p.start))
    const to = Math.min(duration, timeOfTick(times, p.end))
    const open = out.at(-1)
    if (open && p.section === last) open.to = to
    else out.push({ letter: p.section?.letter ?? '', name: p.section ? p.title : '', from, to })
    last = p.section
  }
  return out
}
