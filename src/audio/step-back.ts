import { joinSaid, type Said, stepBackLevel, stepsBack } from '@/core/loudness'
import type { Seconds } from '@/core/time'

/** What the song goes through: it steps back while something is said. */
export class StepBack {
  readonly node: GainNode
  private said: Said[] = []
  private decibels = 0

  constructor(private readonly context: BaseAudioContext) {
    this.node = context.createGain()
  }

  /** By how many decibels it steps back from now on. */
  setDecibels(decibels: number): void {
    if (decibels === this.decibels) return
    this.decibels = decibels
    this.put()
  }

  /** More that will be said. */
  add(said: readonly Said[]): void {
    const { currentTime } = this.context
    const known = this.said.filter((s) => s.to > currentTime - 1)
    this.said = joinSaid([...known, ...said])
    this.put()
  }

  /** What would begin at a time or later is not said. */
  takeBack(at: Seconds): void {
    this.said = this.said.filter((s) => s.from < at)
    this.put()
  }

  /** Nothing is said any more. */
  stop(): void {
    this.said = []
    this.put()
  }

  /** Puts all that is to come on the clock anew. */
  private put(): void {
    const { gain } = this.node
    const now = this.context.currentTime
    gain.cancelScheduledValues(now)
    const steps = stepsBack(this.said, stepBackLevel(this.decibels))
    // Where it stands now, then what comes.
    const { level, within } = steps.findLast((s) => s.at <= now) ?? { level: 1, within: 0.05 }
    gain.setTargetAtTime(level, now, within)
    for (const s of steps) if (s.at > now) gain.setTargetAtTime(s.level, s.at, s.within)
  }
}
