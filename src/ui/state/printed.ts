import type { Printed } from '@/core/formats'
import { beginsSection, countNumbers, placePhrases, type Routine, sectionLabel } from '@/core/routine'
import { TICKS_PER_COUNT, timeOfTick } from '@/core/time'
import type { Page } from './page'

/** The routine's grid and words as files carry them. */
export function contentOf(routine: Routine, page: Page): Printed {
  const numbers = countNumbers(routine)
  const begun = placePhrases(routine).filter(beginsSection)
  return {
    song: { title: routine.title, artist: routine.credit, duration: page.duration },
    numbers,
    // The page may end inside the last phrase's last count; every count has a time.
    beats: numbers.map((_, i) => timeOfTick(page.times, i * TICKS_PER_COUNT)),
    phrases: routine.phrases.map((p) => ({ counts: p.length, pickUp: p.pickUp })),
    sections: begun.map((p, i) => ({
      beat: p.start / TICKS_PER_COUNT,
      start: timeOfTick(page.times, p.start),
      end: timeOfTick(page.times, begun[i + 1]?.start ?? page.placed.at(-1)?.end ?? p.end),
      text: p.section ? sectionLabel(p.section) : '',
    })),
    words: routine.marks
      .filter((m) => m.kind === 'lyric')
      .map((m) => ({ start: m.at, end: m.end, text: m.text })),
  }
}
