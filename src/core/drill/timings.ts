import type { Ratio, Seconds } from '../time'

/** One go at the timing trainer, from the log. Milliseconds, negative for early. */
export interface LoggedTiming {
  id: string
  doneAt: number
  /** What was danced, in seconds of the song; null for old rows whose phrases were gone. */
  from: Seconds | null
  to: Seconds | null
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
  key: string
  label: string
  /** Oldest first. */
  goes: LoggedTiming[]
}

/** Goes by stretch, the one that was tried last first. */
export function timingCourses(log: readonly LoggedTiming[]): TimingCourse[] {
  const all = new Map<string, TimingCourse>()
  for (const t of [...log].sort((a, b) => a.doneAt - b.doneAt)) {
    // A grid moved by some hundredths is the same stretch.
    const key = t.from === null || t.to === null ? t.label : `${t.from.toFixed(1)} ${t.to.toFixed(1)}`
    const goes = all.get(key)?.goes ?? []
    goes.push(t)
    // Moved to the end, under the name it had last.
    all.delete(key)
    all.set(key, { key, label: t.label, goes })
  }
  return [...all.values()].reverse()
}

/** "12 ms late", "40 ms early", "on the beat" where it is off by no more than 5 ms. */
export function lateness(ms: number): string {
  const whole = Math.round(ms)
  if (Math.abs(whole) <= 5) return 'on the beat'
  return `${Math.abs(whole)} ms ${whole < 0 ? 'early' : 'late'}`
}
