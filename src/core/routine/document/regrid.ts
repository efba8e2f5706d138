import type { Stretch, Ticks } from '../../time'
import type { Phrase } from './song-schema'

/** What things are taken along by when counts get other numbers (edits/rebase.ts). */
export interface Regrid {
  /** Where a tick lies now, however far away. */
  tick: (tick: Ticks) => Ticks
  /** The same within what a document may hold. @param what is told to have been moved where it would lie outside */
  inside: (tick: Ticks, what?: string) => Ticks
  stretch: (stretch: Stretch) => Stretch
  /** A place between ticks. */
  between: (place: number) => number
  /** The phrases on the new grid, and where one that began at a tick begins now. */
  phrases: () => Phrase[]
  phraseStart: (tick: Ticks) => Ticks
}
