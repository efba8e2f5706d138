import { isGrid, type Seconds, TICKS_PER_COUNT, tickOfTime } from '../../time'
import { placePhrases, sectionTitle, totalCounts } from '../counts/layout'
import { repairedBeats } from '../counts/repairs'
import { readSectionLabel } from '../counts/section-label'
import type { Routine } from '../document/schema'
import type { Phrase, Section } from '../document/song-schema'
import { type Edited, namesInWords, Refused } from '../gate/refused'
import { repair } from './grid-edits'
import { everyEight, filled, leadOf, type NewId, splitPhrase } from './phrase-edits'

/** A grid somebody made elsewhere. */
export interface Brought {
  beats: readonly Seconds[]
  /** What each beat is counted as, or null. */
  numbers: readonly number[] | null
  sections: readonly { start: Seconds; text: string }[]
}

/**
 * Takes over a grid and what it says of phrases and sections, as one repair of the beats: what was heard stays
 * available. Everything danced keeps its sound.
 * @param pair two bars make one phrase
 * @throws Refused when the beats do not follow one another, a tenth of a second apart or more
 */
export function bringGrid(
  routine: Routine,
  heard: readonly Seconds[],
  brought: Brought,
  pair: boolean,
  newId: NewId,
): Edited<Routine> {
  let next = routine
  let said: readonly string[] = []
  const now = repairedBeats(heard, routine.repairs)
  if (brought.beats.length) {
    if (!isGrid([...brought.beats])) throw new Refused('The beats do not follow one another.')
    const same = now.length === brought.beats.length && now.every((t, i) => t === brought.beats[i])
    if (!same) {
      const change = { kind: 'grid' as const, from: 0, to: now.length, beats: [...brought.beats] }
      const done = repair(routine, heard, change, newId)
      next = done.routine
      said = done.said
    }
    if (brought.numbers) next = numbered(next, brought.numbers, pair)
  }
  const grid = brought.beats.length ? brought.beats : now
  if (!brought.sections.length || grid.length < 2) return { said, routine: next }
  const done = bringSections(next, grid, brought.sections, newId)
  return { said: [...said, ...done.said], routine: done.routine }
}

/** Phrases as the numbers count them: each 1 begins one. */
function numbered(routine: Routine, numbers: readonly number[], pair: boolean): Routine {
  const ones = numbers.flatMap((n, i) => (n === 1 ? [i] : []))
  const starts = pair ? ones.filter((_, i) => i % 2 === 0) : ones
  const counts = numbers.length
  const feels = new Map(placePhrases(routine).map((p) => [p.start, p.phrase.feel]))
  const list = starts.length ? starts : everyEight(0, counts, routine.usual)
  const phrases: Phrase[] = []
  const put = (start: number, length: number) => {
    const like = { length, feel: feels.get(start * TICKS_PER_COUNT) ?? ('straight' as const), pickUp: false }
    // No phrase has more than 32 counts: a longer gap is filled with usual ones.
    phrases.push(...(length <= 32 ? [like] : filled(length, routine.usual, like)))
  }
  const first = list[0] ?? 0
  if (first > 0) {
    const like: Phrase = { length: first, feel: feels.get(0) ?? 'straight', pickUp: true }
    phrases.push(...(first <= 32 ? [like] : leadOf(first, routine.usual, like)))
  }
  for (const [i, start] of list.entries()) put(start, (list[i + 1] ?? counts) - start)
  return { ...routine, phrases }
}

/** Sections by their times, each from the count nearest; a phrase that one begins inside is cut there. Named ones that give way are said. */
export function bringSections(
  routine: Routine,
  times: readonly Seconds[],
  sections: readonly { start: Seconds; text: string }[],
  newId: NewId,
): Edited<Routine> {
  const last = totalCounts(routine.phrases) - 1
  const letters = new Map<string, string>()
  let next: Routine = { ...routine, sections: [] }
  const found: Section[] = []
  for (const { start, text } of sections) {
    const count = Math.max(0, Math.round(tickOfTime([...times], start) / TICKS_PER_COUNT))
    const at = count * TICKS_PER_COUNT
    if (count > last || found.some((s) => s.at === at)) continue
    next = splitPhrase(next, count)
    found.push({ id: newId(), at, ...readSectionLabel(text, letters) })
  }
  if (!found.length) return { routine, said: [] }
  const gone = routine.sections
    .filter((s) => (s.name || s.kind !== 'part') && !found.some((f) => sectionTitle(f) === sectionTitle(s)))
    .map((s) => `“${sectionTitle(s)}”`)
  return {
    routine: { ...next, sections: found.sort((a, b) => a.at - b.at) },
    said: gone.length
      ? [`${namesInWords(gone)} ${gone.length > 1 ? 'give' : 'gives'} way to the sections that were brought.`]
      : [],
  }
}
