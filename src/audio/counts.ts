import type { DrillEvent, SaidEvent } from '@/core/drill'
import type { Seconds } from '@/core/time'
import { type CountOutputs, type CountSound, countSounds, scheduleEvents } from './schedule'
import type { Sounds } from './sounds'

/** Clicks and words are put on the clock so far ahead: their stress lies up to a second after their beginning. */
const WINDOW: Seconds = 3

/** An event, and when time 0 of its repetition is on the clock. */
interface Waiting {
  at: Seconds
  origin: Seconds
  event: DrillEvent | SaidEvent
}

/** Clicks and words on the clock of a device. */
export class Counts {
  /** Sounds that are on the clock, and when each begins. */
  private readonly pending = new Map<AudioBufferSourceNode, Seconds>()
  /** Events not on the clock yet, in order. A device carries every sound that waits, so few do. */
  private waiting: Waiting[] = []

  constructor(
    private readonly context: BaseAudioContext,
    private readonly out: CountOutputs,
    private readonly sounds: Sounds,
  ) {}

  /** What is to sound from now on too. @param origin when time 0 of the events is @returns what sounds in them */
  add(events: readonly (DrillEvent | SaidEvent)[], origin: Seconds): CountSound[] {
    for (const event of events) this.waiting.push({ at: origin + event.time, origin, event })
    this.fill()
    return events.flatMap((e) => countSounds(this.context, this.sounds, e, origin))
  }

  /** Puts what is due soon on the clock. */
  fill(): void {
    const until = this.context.currentTime + WINDOW
    const due = this.waiting.findIndex((w) => w.at >= until)
    const now = this.waiting.splice(0, due < 0 ? this.waiting.length : due)
    for (const { event, origin, at } of now)
      for (const source of scheduleEvents(this.context, this.out, this.sounds, [event], origin)) {
        this.pending.set(source, at)
        source.onended = () => this.pending.delete(source)
      }
  }

  /** Whatever would begin at a time or later is not heard. */
  takeBack(at: Seconds): void {
    // To a hair before, so that what begins at that very moment goes too.
    const from = at - 1e-6
    this.waiting = this.waiting.filter((w) => w.at < from)
    for (const [source, when] of this.pending)
      if (when >= from) {
        source.stop()
        this.pending.delete(source)
      }
  }

  /** Nothing more is heard. */
  stop(): void {
    for (const source of this.pending.keys()) source.stop()
    this.pending.clear()
    this.waiting = []
  }
}
