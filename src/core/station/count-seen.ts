import type { Hearing, Peaks } from '../hear'
import type { NewId, PlacedPhrase, Routine } from '../routine'
import type { Seconds, Ticks } from '../time'

/** What the Count station looks at while an event comes in. */
export interface CountSeen {
  routine: Routine
  placed: readonly PlacedPhrase[]
  /** When each count falls, as repaired. */
  times: readonly Seconds[]
  tempo: number
  renumbered: boolean
  hearing: Hearing | null
  /** The beats as heard. */
  beats: readonly Seconds[]
  /** The stored strokes of the song, where they were kept. */
  strokes: Peaks | null
  playing: boolean
  /** Where the song is playing; null where it is not. */
  playingAt: Ticks | null
  newId: NewId
}
