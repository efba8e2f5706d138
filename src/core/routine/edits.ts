import { type Seconds, TICKS_PER_COUNT, type Ticks } from '../time'
import { phraseAt, placePhrases } from './layout'
import { onNewGrid, repairedBeats } from './repairs'
import type { Cue, Phrase, Repair, Routine, Section, SectionKind } from './schema'

/** Makes a fresh id; passed in, so that edits stay deterministic. */
export type NewId = () => string

const sum = (phrases: readonly Phrase[]) => phrases.reduce((n, p) => n + p.length, 0)

/** What a hearing proposes as the page: phrases, and the sections that begin on them. */
export interface Proposal {
  counts: number
  /** Count index where each phrase begins, ascending. */
  starts: readonly number[]
  /** Sections by the count they begin on. */
  sections: readonly { count: number; letter: string }[]
}

/** Lays the song out as heard; cues and excerpt are kept where they are. */
export function layOut(routine: Routine, p: Proposal, newId: NewId): Routine {
  const starts = p.starts.length ? p.starts : [0]
  const first = starts[0] as number
  const phrases: Phrase[] = first > 0 ? [{ id: newId(), length: first, feel: 'straight', pickUp: true }] : []
  starts.forEach((start, i) => {
    const length = (starts[i + 1] ?? p.counts) - start
    // A longer gap between two 1s is filled with eights and the rest.
    for (let left = length; left > 0; left -= 8)
      phrases.push({ id: newId(), length: Math.min(8, left), feel: 'straight', pickUp: false })
  })
  return { ...routine, phrases, sections: seated(phrases, p.sections, newId) }
}

function seated(phrases: readonly Phrase[], heard: Proposal['sections'], newId: NewId): Section[] {
  const placed = placePhrases({ phrases: [...phrases], sections: [] })
  const sections: Section[] = []
  for (const { count, letter } of heard) {
    const at = phraseAt(placed, count * TICKS_PER_COUNT)
    if (at && !sections.some((s) => s.phrase === at.phrase.id))
      sections.push({ id: newId(), phrase: at.phrase.id, name: '', kind: 'part', letter })
  }
  return sections
}

/** The count indices of a 1 every eight counts through `one`. */
export function everyEight(one: number, counts: number): number[] {
  const out: number[] = []
  for (let k = ((one % 8) + 8) % 8; k < counts; k += 8) out.push(k)
  return out
}

/** Keeps the sections of a routine beside the boundaries nearest to where they began. */
function reseat(before: Routine, phrases: Phrase[]): Routine {
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
  const total = sum(routine.phrases)
  if (counts === 0 || Math.abs(counts) >= total) return routine
  const list: Phrase[] = []
  for (const { phrase, start } of placePhrases(routine)) {
    const from = start / TICKS_PER_COUNT + counts
    const length = Math.min(phrase.length, from + phrase.length)
    // What is pushed off the front is gone; the rest of that phrase still ends on its last count.
    if (length > 0) list.push(length === phrase.length ? phrase : { ...phrase, length, pickUp: length < 8 })
  }
  return reseat(routine, fitTo(counts > 0 ? padFront(list, counts, newId) : list, total, newId))
}

/** Fills some counts in front with a pick-up, whole eights cut off it where it grows that long. */
function padFront(phrases: readonly Phrase[], counts: number, newId: NewId): Phrase[] {
  const [head, ...rest] = phrases
  const old = head?.pickUp ? head : null
  const after = old ? rest : [...phrases]
  return [...eightsEndingAt(counts + (old?.length ?? 0), newId, old?.id), ...after]
}

function eightsEndingAt(counts: number, newId: NewId, id?: string): Phrase[] {
  const lead = counts % 8
  const out: Phrase[] = lead ? [{ id: id ?? newId(), length: lead, feel: 'straight', pickUp: true }] : []
  for (let n = lead; n < counts; n += 8) out.push({ id: newId(), length: 8, feel: 'straight', pickUp: false })
  return out
}

/** Cuts or fills the end so that the phrases cover exactly `total` counts again. */
function fitTo(phrases: readonly Phrase[], total: number, newId: NewId): Phrase[] {
  const out: Phrase[] = []
  let left = total
  for (const p of phrases) {
    if (left <= 0) break
    const length = Math.min(p.length, left)
    out.push(length === p.length ? p : { ...p, length })
    left -= length
  }
  const last = out.at(-1)
  if (left > 0 && last && last.length < 8 && !last.pickUp) {
    const add = Math.min(left, 8 - last.length)
    out[out.length - 1] = { ...last, length: last.length + add }
    left -= add
  }
  while (left > 0) {
    const length = Math.min(8, left)
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
  const total = sum(routine.phrases)
  const moved = routine.phrases.slice(placed.index + 1)
  return reseat(routine, fitTo([...before, ...moved], total, newId))
}

/** Sets the length of one phrase; the numbers after it move by themselves, the end of the song absorbs it. */
export function setPhraseLength(routine: Routine, phraseId: string, length: number, newId: NewId): Routine {
  if (!Number.isInteger(length) || length < 1 || length > 32) return routine
  const total = sum(routine.phrases)
  const phrases = routine.phrases.map((p) => (p.id === phraseId ? { ...p, length } : p))
  return reseat(routine, fitTo(phrases, total, newId))
}

/**
 * Adds one repair of the beats. Cues and the excerpt keep their sound; for ×2 and ÷2 the page is laid out anew
 * around the same 1, with the sections where they were.
 */
export function repair(routine: Routine, heard: readonly Seconds[], change: Repair, newId: NewId): Routine {
  const from = repairedBeats(heard, routine.repairs)
  const repairs = [...routine.repairs, change]
  const to = repairedBeats(heard, repairs)
  if (from.length < 2 || to.length < 2) return routine
  if (change.kind === 'shift') return { ...routine, repairs }
  const factor = change.kind === 'double' ? 2 : 0.5
  const placed = placePhrases(routine)
  const shift = change.kind === 'halve' ? change.keep : 0
  const count = (tick: Ticks) => Math.round((tick / TICKS_PER_COUNT - shift) * factor)
  const begun = placed.filter((p) => p.section?.phrase === p.phrase.id)
  const one = (begun[0] ?? placed.find((p) => !p.phrase.pickUp))?.start ?? 0
  const next = onNewGrid({ ...routine, repairs, phrases: [], sections: [] }, from, to)
  const page = layOut(
    next,
    {
      counts: to.length,
      starts: everyEight(count(one), to.length),
      sections: begun.map((p) => ({ count: count(p.start), letter: p.section?.letter ?? '' })),
    },
    newId,
  )
  const named = page.sections.map((s, i) => ({ ...s, ...pick(begun[i]?.section) }))
  return { ...page, sections: named }
}

const pick = (s: Section | null | undefined) => (s ? { name: s.name, kind: s.kind, letter: s.letter } : {})

/** Begins a section at a phrase, or changes the one that begins there. */
export function beginSection(
  routine: Routine,
  phraseId: string,
  what: { name: string; kind: SectionKind; letter: string },
  newId: NewId,
): Routine {
  const old = routine.sections.find((s) => s.phrase === phraseId)
  const sections = old
    ? routine.sections.map((s) => (s === old ? { ...s, ...what } : s))
    : [...routine.sections, { id: newId(), phrase: phraseId, ...what }]
  const order = new Map(routine.phrases.map((p, i) => [p.id, i]))
  sections.sort((a, b) => (order.get(a.phrase) ?? 0) - (order.get(b.phrase) ?? 0))
  return { ...routine, sections }
}

/** Takes a section's beginning away: its phrases join the section before. */
export function removeSection(routine: Routine, sectionId: string): Routine {
  return { ...routine, sections: routine.sections.filter((s) => s.id !== sectionId) }
}

/** The next unused letter. */
export function nextLetter(sections: readonly Section[]): string {
  const used = new Set(sections.map((s) => s.letter))
  for (let i = 0; i < 26; i++) if (!used.has(String.fromCharCode(65 + i))) return String.fromCharCode(65 + i)
  return `Z${sections.length}`
}

/** Sets where the excerpt starts or ends; the other end gives way when they would cross. */
export function setExcerpt(routine: Routine, edge: 'start' | 'end', tick: Ticks): Routine {
  const whole = { start: 0, end: sum(routine.phrases) * TICKS_PER_COUNT }
  const now = routine.excerpt ?? whole
  const excerpt =
    edge === 'start'
      ? { start: tick, end: now.end > tick ? now.end : whole.end }
      : { start: now.start < tick ? now.start : whole.start, end: tick }
  return excerpt.end > excerpt.start ? { ...routine, excerpt } : routine
}

/** Adds a cue, or replaces the one with the same id. */
export function putCue(routine: Routine, cue: Cue): Routine {
  const known = routine.cues.some((c) => c.id === cue.id)
  return {
    ...routine,
    cues: known ? routine.cues.map((c) => (c.id === cue.id ? cue : c)) : [...routine.cues, cue],
  }
}

/** Moves a cue by some ticks, never before the pick-up room in front of the first count. */
export function moveCue(routine: Routine, cueId: string, by: Ticks): Routine {
  const end = sum(routine.phrases) * TICKS_PER_COUNT
  const cue = routine.cues.find((c) => c.id === cueId)
  if (!cue || cue.at + by < 0 || cue.at + by >= end) return routine
  return putCue(routine, { ...cue, at: cue.at + by })
}

/** Takes a cue away. */
export function removeCue(routine: Routine, cueId: string): Routine {
  return { ...routine, cues: routine.cues.filter((c) => c.id !== cueId) }
}
