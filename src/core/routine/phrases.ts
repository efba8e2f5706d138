import { TICKS_PER_COUNT } from '../time'
import { phraseAt, placePhrases, totalCounts } from './layout'
import type { Phrase, Routine, Section, SectionKind } from './schema'

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
  const starts = p.starts.length ? p.starts : [0]
  const usual = p.usual ?? routine.usual
  const first = starts[0] as number
  const phrases: Phrase[] = first > 0 ? [{ id: newId(), length: first, feel: 'straight', pickUp: true }] : []
  starts.forEach((start, i) => {
    const length = (starts[i + 1] ?? p.counts) - start
    // A longer gap between two 1s is filled with whole phrases and the rest.
    for (let left = length; left > 0; left -= usual)
      phrases.push({ id: newId(), length: Math.min(usual, left), feel: 'straight', pickUp: false })
  })
  return { ...routine, usual, phrases, sections: seated(phrases, p.sections, newId) }
}

/** Proposed sections, each at the phrase its count lies in. */
export function seated(
  phrases: readonly Phrase[],
  heard: readonly ProposedSection[],
  newId: NewId,
): Section[] {
  const placed = placePhrases({ phrases: [...phrases], sections: [] })
  const sections: Section[] = []
  for (const { count, letter, kind = 'part' } of heard) {
    const at = phraseAt(placed, count * TICKS_PER_COUNT)
    if (at && !sections.some((s) => s.phrase === at.phrase.id))
      sections.push({ id: newId(), phrase: at.phrase.id, name: '', kind, letter })
  }
  return sections
}

/** The count indices of a 1 every eight (or another number of) counts through `one`. */
export function everyEight(one: number, counts: number, usual = 8): number[] {
  const out: number[] = []
  for (let k = ((one % usual) + usual) % usual; k < counts; k += usual) out.push(k)
  return out
}

/** Keeps the sections of a routine beside the boundaries nearest to where they began. */
export function reseat(before: Routine, phrases: Phrase[]): Routine {
  const kept = new Set(phrases.map((p) => p.id))
  const old = new Map(placePhrases(before).map((p) => [p.phrase.id, p.start]))
  const now = placePhrases({ phrases, sections: [] })
  const taken = new Set<string>()
  const sections: Section[] = []
  for (const s of before.sections) {
    const half = 4 * TICKS_PER_COUNT
    const id = kept.has(s.phrase) ? s.phrase : phraseAt(now, (old.get(s.phrase) ?? 0) + half)?.phrase.id
    if (id && !taken.has(id)) {
      taken.add(id)
      sections.push({ ...s, phrase: id })
    }
  }
  return { ...before, phrases, sections }
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
export function shiftPhrases(routine: Routine, counts: number, newId: NewId): Routine {
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
  return reseat(
    routine,
    fitTo(counts > 0 ? padFront(list, counts, routine.usual, newId) : list, total, routine.usual, newId),
  )
}

/** Fills some counts in front with a pick-up, whole phrases cut off it where it grows that long. */
function padFront(phrases: readonly Phrase[], counts: number, usual: number, newId: NewId): Phrase[] {
  const [head, ...rest] = phrases
  const old = head?.pickUp ? head : null
  const after = old ? rest : [...phrases]
  return [...wholeEndingAt(counts + (old?.length ?? 0), usual, newId, old?.id), ...after]
}

function wholeEndingAt(counts: number, usual: number, newId: NewId, id?: string): Phrase[] {
  const lead = counts % usual
  const out: Phrase[] = lead ? [{ id: id ?? newId(), length: lead, feel: 'straight', pickUp: true }] : []
  for (let n = lead; n < counts; n += usual)
    out.push({ id: newId(), length: usual, feel: 'straight', pickUp: false })
  return out
}

/** Cuts or fills the end so that the phrases cover exactly `total` counts again. */
function fitTo(phrases: readonly Phrase[], total: number, usual: number, newId: NewId): Phrase[] {
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
  while (left > 0) {
    const length = Math.min(usual, left)
    out.push({ id: newId(), length, feel: 'straight', pickUp: false })
    left -= length
  }
  return out
}

/** "This is the 1", everywhere: all boundaries move so that one falls on this count. Cues stay on their sound. */
export function oneHere(routine: Routine, count: number, newId: NewId): Routine {
  return shiftPhrases(routine, offsetTo(routine, count), newId)
}

/** "This is the 1", from here on: the phrase is cut at this count and eights follow to the end. */
export function oneFromHere(routine: Routine, count: number, newId: NewId): Routine {
  const placed = phraseAt(placePhrases(routine), count * TICKS_PER_COUNT)
  if (!placed) return routine
  const within = count - placed.start / TICKS_PER_COUNT
  if (within <= 0) return routine
  const before = [...routine.phrases.slice(0, placed.index), { ...placed.phrase, length: within }]
  const total = totalCounts(routine.phrases)
  const moved = routine.phrases.slice(placed.index + 1)
  return reseat(routine, fitTo([...before, ...moved], total, routine.usual, newId))
}

/** Sets the length of one phrase; the numbers after it move by themselves, the end of the song absorbs it. */
export function setPhraseLength(routine: Routine, phraseId: string, length: number, newId: NewId): Routine {
  if (!Number.isInteger(length) || length < 1 || length > 32) return routine
  const total = totalCounts(routine.phrases)
  const phrases = routine.phrases.map((p) => (p.id === phraseId ? { ...p, length } : p))
  return reseat(routine, fitTo(phrases, total, routine.usual, newId))
}

/** Cuts a phrase in two at a count; the numbers after it begin at 1 again, nothing else moves. */
export function splitPhrase(routine: Routine, count: number, newId: NewId): Routine {
  const placed = phraseAt(placePhrases(routine), count * TICKS_PER_COUNT)
  const within = placed ? count - placed.start / TICKS_PER_COUNT : 0
  if (!placed || within <= 0 || within >= placed.phrase.length) return routine
  const { phrase, index } = placed
  return {
    ...routine,
    phrases: routine.phrases.toSpliced(
      index,
      1,
      { ...phrase, length: within },
      { ...phrase, id: newId(), length: phrase.length - within, pickUp: false },
    ),
  }
}

/** Joins a phrase with the one after it, as far as they make up no more than 32 counts; nothing else moves. */
export function joinPhrase(routine: Routine, phraseId: string): Routine {
  const i = routine.phrases.findIndex((p) => p.id === phraseId)
  const [a, b] = [routine.phrases[i], routine.phrases[i + 1]]
  if (!a || !b || a.length + b.length > 32) return routine
  const phrases = routine.phrases.toSpliced(i, 2, { ...a, length: a.length + b.length, pickUp: false })
  return { ...routine, phrases, sections: routine.sections.filter((s) => s.phrase !== b.id) }
}

/** Puts a phrase of so many counts in front of another; what follows moves on, the end of the song absorbs it. */
export function insertPhrase(routine: Routine, phraseId: string, length: number, newId: NewId): Routine {
  const i = routine.phrases.findIndex((p) => p.id === phraseId)
  if (i < 0 || length < 1 || length > 32) return routine
  const total = totalCounts(routine.phrases)
  const phrases = routine.phrases.toSpliced(i, 0, { id: newId(), length, feel: 'straight', pickUp: false })
  return reseat(routine, fitTo(phrases, total, routine.usual, newId))
}

/** How the counts of a phrase divide: straight in halves and quarters, or in threes. */
export function setFeel(routine: Routine, phraseId: string, feel: Phrase['feel']): Routine {
  return { ...routine, phrases: routine.phrases.map((p) => (p.id === phraseId ? { ...p, feel } : p)) }
}

/** Counts in phrases of another length from here on, or everywhere: eights, sixes, threes, fours. */
export function countIn(routine: Routine, usual: number, fromPhrase: string | null, newId: NewId): Routine {
  const total = totalCounts(routine.phrases)
  const first = routine.phrases.findIndex((p) => !p.pickUp)
  const i = fromPhrase === null ? Math.max(0, first) : routine.phrases.findIndex((p) => p.id === fromPhrase)
  if (i < 0 || usual < 1 || usual > 32) return routine
  const kept = routine.phrases.slice(0, i)
  // The first of the new phrases keeps its id, so that a section that begins there stays.
  const head = routine.phrases[i] as Phrase
  const left = total - totalCounts(kept)
  const start: Phrase = { ...head, length: Math.min(usual, left), pickUp: false }
  return reseat({ ...routine, usual }, fitTo([...kept, start], total, usual, newId))
}
