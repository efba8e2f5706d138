import { TICKS_PER_COUNT, type Ticks } from '../../time'
import { phraseAt, placePhrases, sectionTitle, totalCounts } from '../counts/layout'
import { LIMITS } from '../document/limits'
import type { Routine } from '../document/schema'
import type { Phrase, Section, SectionKind } from '../document/song-schema'
import { type Edited, Refused } from '../gate/refused'

/*
 * Phrases only number counts: cutting, joining and renumbering them moves no tick, so nothing that is danced changes.
 * Sections go with the phrase they begin with; the gate (commit.ts) seats them where phrases begin.
 */

/** Makes a fresh id; passed in, so that edits stay deterministic. */
export type NewId = () => string

/** What a hearing proposes as the page: phrases, and the sections that begin on them. */
export interface Proposal {
  counts: number
  /** Count index where each phrase begins, ascending. */
  starts: readonly number[]
  /** Counts of a phrase where nothing else is said. */
  usual?: number
  sections: readonly ProposedSection[]
}

/** A section somebody proposes, by the count it begins on. */
export interface ProposedSection {
  count: number
  letter: string
  /** What it is; "part" where nobody said. */
  kind?: SectionKind
}

/** Lays the song out as heard; cues and excerpt are kept where they are. */
export function layOut(routine: Routine, p: Proposal, newId: NewId): Routine {
  const inside = p.starts.filter((s) => s < p.counts)
  const starts = inside.length ? inside : [0]
  const usual = p.usual ?? routine.usual
  const first = starts[0] as number
  const phrases = first > 0 ? leadOf(first, usual) : []
  starts.forEach((start, i) => {
    // A longer gap between two 1s is filled with whole phrases and the rest.
    phrases.push(...filled((starts[i + 1] ?? p.counts) - start, usual))
  })
  return { ...routine, usual, phrases, sections: proposedSections(phrases, p.sections, newId) }
}

const plain = (length: number): Phrase => ({ length, feel: 'straight', pickUp: false })

/** Some counts as usual phrases, the rest at the end. */
export function filled(counts: number, usual: number, like: Phrase = plain(usual)): Phrase[] {
  const out: Phrase[] = []
  for (let left = counts; left > 0; left -= usual)
    out.push({ ...like, length: Math.min(usual, left), pickUp: false })
  return out
}

/** Counts before the first 1: a pick-up, and whole phrases after it where it would be longer than one. */
export function leadOf(counts: number, usual: number, like: Phrase = plain(usual)): Phrase[] {
  if (counts <= usual) return counts > 0 ? [{ ...like, length: counts, pickUp: true }] : []
  const lead = counts % usual
  return [...leadOf(lead, usual, like), ...filled(counts - lead, usual)]
}

/** Proposed sections, each at the phrase its count lies in. */
export function proposedSections(
  phrases: readonly Phrase[],
  heard: readonly ProposedSection[],
  newId: NewId,
): Section[] {
  const placed = placePhrases({ phrases: [...phrases], sections: [], usual: 8 })
  const sections: Section[] = []
  for (const { count, letter, kind = 'part' } of heard) {
    const at = phraseAt(placed, count * TICKS_PER_COUNT)
    if (at && !sections.some((s) => s.at === at.start))
      sections.push({ id: newId(), at: at.start, name: '', kind, letter: letter.slice(0, LIMITS.letter) })
  }
  return sections.sort((a, b) => a.at - b.at)
}

/** The count indices of a 1 every eight (or another number of) counts through `one`. */
export function everyEight(one: number, counts: number, usual = 8): number[] {
  const out: number[] = []
  for (let k = ((one % usual) + usual) % usual; k < counts; k += usual) out.push(k)
  return out
}

/** Other phrases, and what stands at their beginnings with them: sections, borders. @param move where such a place goes */
function renumbered(routine: Routine, phrases: Phrase[], move: (at: Ticks) => Ticks): Routine {
  const along = <T extends { at: Ticks }>(list: readonly T[]): T[] =>
    list.map((x) => {
      const at = move(x.at)
      return at === x.at ? x : { ...x, at }
    })
  return { ...routine, phrases, sections: along(routine.sections), borders: along(routine.borders) }
}

/** How many counts to move all phrase boundaries so that one falls on this count, -4 to +4 in an eight. */
function offsetTo(routine: Routine, count: number): number {
  const placed = phraseAt(placePhrases(routine), count * TICKS_PER_COUNT)
  if (!placed) return 0
  const within = count - placed.start / TICKS_PER_COUNT
  // In a pick-up the next phrase is the one that moves here.
  if (placed.phrase.pickUp || within > placed.phrase.length / 2) return within - placed.phrase.length
  return within
}

/** Moves every phrase boundary by some counts; the ends of the song absorb it, lengths between stay. */
export function shiftPhrases(routine: Routine, counts: number): Routine {
  const total = totalCounts(routine.phrases)
  if (counts === 0 || Math.abs(counts) >= total) return routine
  const list: Phrase[] = []
  for (const { phrase, start } of placePhrases(routine)) {
    const from = start / TICKS_PER_COUNT + counts
    const length = Math.min(phrase.length, from + phrase.length)
    // What is pushed off the front is gone; the rest of that phrase still ends on its last count.
    if (length > 0)
      list.push(length === phrase.length ? phrase : { ...phrase, length, pickUp: length < routine.usual })
  }
  const moved = counts > 0 ? padFront(list, counts, routine.usual) : list
  return renumbered(routine, fitTo(moved, total, routine.usual), (at) =>
    at === 0 && routine.phrases[0]?.pickUp ? 0 : Math.max(0, at + counts * TICKS_PER_COUNT),
  )
}

/** Fills some counts in front with a pick-up, whole phrases cut off it where it grows that long. */
function padFront(phrases: readonly Phrase[], counts: number, usual: number): Phrase[] {
  const [head, ...rest] = phrases
  const old = head?.pickUp ? head : null
  return [...leadOf(counts + (old?.length ?? 0), usual, old ?? undefined), ...(old ? rest : phrases)]
}

/** Cuts or fills the end so that the phrases cover exactly `total` counts again. */
export function fitTo(phrases: readonly Phrase[], total: number, usual: number): Phrase[] {
  const out: Phrase[] = []
  let left = total
  for (const p of phrases) {
    if (left <= 0) break
    const length = Math.min(p.length, left)
    out.push(length === p.length ? p : { ...p, length })
    left -= length
  }
  const last = out.at(-1)
  if (left > 0 && last && last.length < usual && !last.pickUp) {
    const add = Math.min(left, usual - last.length)
    out[out.length - 1] = { ...last, length: last.length + add }
    left -= add
  }
  return [...out, ...filled(left, usual)]
}

/** "This is the 1", everywhere: all boundaries move so that one falls on this count. Cues stay on their sound. */
export function oneHere(routine: Routine, count: number): Routine {
  return shiftPhrases(routine, offsetTo(routine, count))
}

/** "This is the 1", from here on: the phrase is cut at this count and eights follow to the end. */
export function oneFromHere(routine: Routine, count: number): Routine {
  const placed = phraseAt(placePhrases(routine), count * TICKS_PER_COUNT)
  if (!placed) return routine
  const within = count - placed.start / TICKS_PER_COUNT
  if (within <= 0 || within >= placed.phrase.length) return routine
  const { index, phrase } = placed
  const before = [...routine.phrases.slice(0, index), { ...phrase, length: within }]
  const moved = routine.phrases.slice(index + 1)
  const by = (phrase.length - within) * TICKS_PER_COUNT
  return renumbered(
    routine,
    fitTo([...before, ...moved], totalCounts(routine.phrases), routine.usual),
    (at) => (at > placed.start ? at - by : at),
  )
}

/** Sets the length of one phrase; the numbers after it move by themselves, the end of the song absorbs it. */
export function setPhraseLength(routine: Routine, index: number, length: number): Routine {
  const placed = placePhrases(routine)[index]
  if (!placed || length === placed.phrase.length) return routine
  if (!Number.isInteger(length) || length < 1 || length > LIMITS.phrase)
    throw new Refused(`A phrase has 1 to ${LIMITS.phrase} counts.`)
  const phrases = routine.phrases.map((p, i) => (i === index ? { ...p, length } : p))
  const by = (length - placed.phrase.length) * TICKS_PER_COUNT
  return renumbered(routine, fitTo(phrases, totalCounts(routine.phrases), routine.usual), (at) =>
    at > placed.start ? at + by : at,
  )
}

/** Cuts a phrase in two at a count; the numbers after it begin at 1 again, nothing else moves. */
export function splitPhrase(routine: Routine, count: number): Routine {
  const placed = phraseAt(placePhrases(routine), count * TICKS_PER_COUNT)
  const within = placed ? count - placed.start / TICKS_PER_COUNT : 0
  if (!placed || within <= 0 || within >= placed.phrase.length) return routine
  const { phrase, index } = placed
  const rest = { ...phrase, length: phrase.length - within, pickUp: false }
  return { ...routine, phrases: routine.phrases.toSpliced(index, 1, { ...phrase, length: within }, rest) }
}

/**
 * Joins a phrase with the one after it, as far as they make up no more than 32 counts; nothing else moves. A section that began
 * with the second goes, and is said.
 */
export function joinPhrase(routine: Routine, index: number): Edited<Routine> {
  const [a, b] = [routine.phrases[index], routine.phrases[index + 1]]
  if (!a || !b) throw new Refused('There is no phrase after this one.')
  if (a.length + b.length > LIMITS.phrase)
    throw new Refused(
      `Together they would have ${a.length + b.length} counts; a phrase has ${LIMITS.phrase} at most.`,
    )
  const phrases = routine.phrases.toSpliced(index, 2, { ...a, length: a.length + b.length, pickUp: false })
  const start = placePhrases(routine)[index + 1]?.start
  const gone = routine.sections.find((s) => s.at === start)
  return {
    routine: { ...routine, phrases, sections: routine.sections.filter((s) => s !== gone) },
    said: gone
      ? [`The section “${sectionTitle(gone)}” began there, and went: its phrases belong to the one before.`]
      : [],
  }
}

/** Puts a phrase of so many counts in front of another; what follows moves on, the end of the song absorbs it. */
export function insertPhrase(routine: Routine, index: number, length: number): Routine {
  const placed = placePhrases(routine)[index]
  if (!placed || length < 1 || length > LIMITS.phrase) return routine
  const phrases = routine.phrases.toSpliced(index, 0, plain(length))
  return renumbered(routine, fitTo(phrases, totalCounts(routine.phrases), routine.usual), (at) =>
    at >= placed.start ? at + length * TICKS_PER_COUNT : at,
  )
}

/** How the counts of a phrase divide: straight in halves and quarters, or in threes. */
export function setFeel(routine: Routine, index: number, feel: Phrase['feel']): Routine {
  return { ...routine, phrases: routine.phrases.map((p, i) => (i === index ? { ...p, feel } : p)) }
}

/** Counts in phrases of another length from a phrase to the end of its section: the metre changes there, and back again. */
export function countByInSection(routine: Routine, usual: number, from: number): Routine {
  const placed = placePhrases(routine)
  const after = placed.find((p) => p.index > from && p.section !== placed[from]?.section)
  return countBy(routine, usual, from, after?.index ?? placed.length)
}

/**
 * Counts in phrases of another length from a phrase on, or everywhere: eights, sixes, threes, fours.
 * @param until number of the phrase that is left as it is with all after it; null for the end of the song
 */
export function countBy(
  routine: Routine,
  usual: number,
  from: number | null,
  until: number | null = null,
): Routine {
  const i =
    from ??
    Math.max(
      0,
      routine.phrases.findIndex((p) => !p.pickUp),
    )
  const head = routine.phrases[i]
  if (!head) return routine
  if (!Number.isInteger(usual) || usual < 1 || usual > LIMITS.phrase)
    throw new Refused(`A phrase has 1 to ${LIMITS.phrase} counts.`)
  const [kept, after] = [routine.phrases.slice(0, i), until === null ? [] : routine.phrases.slice(until)]
  const left = totalCounts(routine.phrases) - totalCounts(kept) - totalCounts(after)
  return {
    ...routine,
    // A stretch in another metre leaves what is usual as it is.
    usual: until === null ? usual : routine.usual,
    phrases: [...kept, ...filled(left, usual, head), ...after],
  }
}
