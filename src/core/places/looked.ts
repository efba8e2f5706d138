import type { MoveBook } from '../choreo'
import {
  type DancedCue,
  type FindingAbout,
  type FindingKind,
  labelIn,
  type PlacedPhrase,
  phraseAt,
  placeName,
  type Routine,
} from '../routine'
import { TICKS_PER_COUNT, type Ticks } from '../time'

/** What the findings are worked out from. */
export interface Looked {
  routine: Routine
  placed: readonly PlacedPhrase[]
  all: readonly DancedCue[]
  book: MoveBook
}

/** What a finding is about: one stretch of the dance. @param says what it depends on there, cut to what is kept */
export const about = (kind: FindingKind, at: Ticks, length: Ticks, says: string): FindingAbout => ({
  kind,
  places: [{ at, length: Math.max(1, Math.round(length)), says: says.slice(0, 300) }],
})

/** A count and its place in words; '' where no phrase is. */
export const where = (placed: readonly PlacedPhrase[], tick: number): string => {
  const at = Math.floor(tick)
  const phrase = phraseAt(placed, at)
  // Between two named places the count is said.
  return phrase ? `${labelIn(phrase, nearCount(at, phrase))} of ${placeName(phrase)}` : ''
}

const nearCount = (tick: Ticks, { start, end }: PlacedPhrase): Ticks => {
  const half = TICKS_PER_COUNT / 2
  return Math.min(end - half, Math.max(start, start + Math.round((tick - start) / half) * half))
}

/** A dancer's letters. */
export type Called = (dancer: string) => string
