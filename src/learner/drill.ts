import { Conductor } from '@/audio/conductor'
import { type DrillTimeline, drillTimeline, eventsOf, leadWordsOf } from '@/core/drill'
import { base64Of } from '@/core/formats/base64'
import {
  cuesFor,
  type PageCalls,
  type PageVoice,
  type PracticePage,
  pageCalls,
  pageContents,
  timesInCopy,
} from '@/core/handout'
import type { Volumes } from '@/core/loudness'
import { placePhrases } from '@/core/routine'
import type { SongMeasure } from '@/core/stretch'
import type { Stretch, Ticks } from '@/core/time'
import { measureInWorker, measureOf } from '@/ui/state/measure'
import type { Copy } from './copy'
import { voiceOf } from './voice'

declare const MUSIC_WORKLET: string
declare const MEASURE_WORKER: string

/** What is drilled, and how. */
export interface Drill {
  stretch: Stretch
  speed: number
  calls: PageCalls
  mirrored: boolean
  countIn: number
  /** Again and again until it is stopped; once otherwise. */
  again: boolean
}

/** Where the drill is: the count that is heard, and whether it is counted in. */
export interface Heard {
  tick: Ticks
  call: string
  countedIn: boolean
}

/** A repetition of it, and whether the song can be heard with it. */
export function timelineOf(
  page: PracticePage,
  drill: Drill,
  copy: Copy | null,
): { timeline: DrillTimeline; song: boolean } {
  const inCopy = copy && timesInCopy(page.times, copy.places, drill.stretch)
  const times = inCopy ?? page.times
  const { words, wordsOnly, voices } = pageCalls(page, drill.calls, drill.mirrored, page.times)
  const cues = cuesFor(page.routine, { ...pageContents(page, drill.mirrored), stretch: drill.stretch })
  const timeline = drillTimeline(
    {
      ...{ times, placed: placePhrases(page.routine), ...drill.stretch, cues: cues.map((c) => c.at) },
      ...{ words, wordsOnly, voices, leadWords: leadWordsOf(page.routine.leadWords) },
    },
    drill.speed,
    drill.countIn,
  )
  return { timeline, song: inCopy !== null }
}

/** What playing a copy needs to know of it, found by a program inside the page. */
async function measured(song: AudioBuffer): Promise<SongMeasure> {
  const program = URL.createObjectURL(new Blob([MEASURE_WORKER], { type: 'text/javascript' }))
  try {
    return measureOf(await measureInWorker(song, () => new Worker(program)))
  } finally {
    URL.revokeObjectURL(program)
  }
}

/** Plays the page's drills. */
export class Player {
  private conductor: Conductor | null = null
  private loaded: AudioBuffer | null = null
  /** Told when it stops by itself, with the reason where there is one. */
  onEnd: (why: string) => void = () => {}

  constructor(
    private readonly page: PracticePage,
    private readonly voice: PageVoice | null,
  ) {}

  /**
   * Plays a drill from its count-in on. Call it from a key press or a touch.
   * @returns what the learner should know: that the song is not heard, and why; '' otherwise
   */
  async play(drill: Drill, copy: Copy | null, volumes: Volumes): Promise<string> {
    this.conductor ??= await Conductor.open({
      voice: (context) => voiceOf(context, this.voice),
      // A page that was opened from a file gets no worklet from a blob.
      worklet: `data:text/javascript;base64,${base64Of(new TextEncoder().encode(MUSIC_WORKLET))}`,
    })
    const { conductor } = this
    const { timeline, song } = timelineOf(this.page, drill, copy)
    let said = copy && !song ? 'Your copy of the song has not got these counts: they are counted alone.' : ''
    const heard = copy && song ? copy.audio : null
    // Speed without pitch is worked out by a worklet, which browsers give to safe addresses only.
    const able = drill.speed === 1 || Boolean(conductor.context.audioWorklet)
    if (heard && !able)
      said = 'This address is not a safe one (https): your browser plays the song at full speed only.'
    if (heard && this.loaded !== heard) {
      await conductor.setSong(heard, measured(heard))
      this.loaded = heard
    }
    conductor.setVolumes({ ...volumes, music: heard ? volumes.music : 0 })
    conductor.onInterrupted = () => {
      conductor.stop()
      this.onEnd('The sound was interrupted.')
    }
    await conductor.play({
      first: timeline,
      next: () => (drill.again ? { timeline, countIn: true } : null),
      onEnd: () => this.onEnd(''),
    })
    return said
  }

  setVolumes(volumes: Volumes, song: boolean): void {
    this.conductor?.setVolumes({ ...volumes, music: song ? volumes.music : 0 })
  }

  stop(): void {
    this.conductor?.stop()
  }

  /** The count that is heard now; null where nothing plays. */
  heard(): Heard | null {
    const place = this.conductor?.now()
    if (!place) return null
    const { timeline, countedIn } = place.leg
    const events = eventsOf(timeline, countedIn).filter((e) => e.kind !== 'sub' && e.time <= place.into)
    const last = events.at(-1)
    return last ? { tick: last.tick, call: last.call, countedIn: last.kind === 'count-in' } : null
  }
}
