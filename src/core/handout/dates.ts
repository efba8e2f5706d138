import type { LaidCourse } from '../lesson'
import { type PlacedPhrase, stretchName } from '../routine'
import { joined, type Stretch } from '../time'

/** Stretches by their names, those that follow one another as one. */
export const stretchNames = (placed: readonly PlacedPhrase[], list: readonly Stretch[]): string =>
  joined(list)
    .map((s) => stretchName(placed, s))
    .join('; ')

/** What a lesson of a course says of itself, a line each: what is new, what comes back. */
export function lessonWords(lesson: LaidCourse['lessons'][0], placed: readonly PlacedPhrase[]): string[] {
  return [
    lesson.fresh.length ? `New: ${stretchNames(placed, lesson.fresh)}` : 'Nothing new: it is run.',
    ...(lesson.again.length ? [`Again: ${stretchNames(placed, lesson.again)}`] : []),
  ]
}
