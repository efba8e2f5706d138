import type { Ratio } from '../time'

/** One go at the timing trainer, from the log. Milliseconds, negative for early. */
export interface LoggedTiming {
  id: string
  doneAt: number
  firstPhrase: string
  lastPhrase: string
  label: string
  speed: Ratio
  by: 'tap' | 'clap'
  n: number
  mean: number
  spread: number
  worst: string
  worstMs: number
}

/** How the timing of a stretch went from one day to another. */
export interface TimingCourse {
  firstPhrase: string
  lastPhrase: string
  label: string
  /** Oldest first. */
  goes: LoggedTiming[]
}

/** Goes by stretch, the one that was tried last first. */
export function timingCourses(log: readonly LoggedTiming[]): TimingCourse[] {
  const all = new Map<string, TimingCourse>()
  for (const t of [...log].sort((a, b) => a.doneAt - b.doneAt)) {
    const key = `${t.firstPhrase} ${t.lastPhrase}`
    const course = all.get(key) ?? { ...t, goes: [] }
    // Moved to the end, under the name it had last.
    all.delete(key)
    all.set(key, {
      firstPhrase: t.firstPhrase,
      lastPhrase: t.lastPhrase,
      label: t.label,
      goes: [...course.goes, t],
    })
  }
  return [...all.values()].reverse()
}

/** "12 ms late", "40 ms early", "on the beat" where it is off by no more than 5 ms. */
export function lateness(ms: number): string {
  const whole = Math.round(ms)
  if (Math.abs(whole) <= 5) return 'on the beat'
  return `${Math.abs(whole)} ms ${whole < 0 ? 'early' : 'late'}`
}
