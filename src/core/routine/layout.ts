import { countLabel, TICKS_PER_COUNT, type Ticks } from '../time'
import { type Cue, LAYERS } from './cue-schema'
import { mirrorText } from './mirror'
import type { Phrase, Routine, Section } from './schema'

/** A phrase with its place on the count line and what people call it. */
export interface PlacedPhrase {
  phrase: Phrase
  index: number
  start: Ticks
  end: Ticks
  /** Number of its first count: 1, or more for a pick-up that ends on 8. */
  first: number
  /** Number among the phrases of its section that are not pick-ups, from 1. */
  inSection: number
  section: Section | null
}

/** Places every phrase; the first starts at tick 0 and there are no holes. */
export function placePhrases(routine: Pick<Routine, 'phrases' | 'sections'>): PlacedPhrase[] {
  const begins = new Map(routine.sections.map((s) => [s.phrase, s]))
  let start = 0
  let section: Section | null = null
  let inSection = 0
  return routine.phrases.map((phrase, index) => {
    const begun = begins.get(phrase.id)
    if (begun) {
      section = begun
      inSection = 0
    }
    if (!phrase.pickUp) inSection++
    const placed: PlacedPhrase = {
      phrase,
      index,
      start,
      end: start + phrase.length * TICKS_PER_COUNT,
      first: phrase.pickUp ? Math.max(1, 9 - phrase.length) : 1,
      inSection,
      section,
    }
    start = placed.end
    return placed
  })
}

/** The phrase a tick lies in: ticks before the first belong to the first, ticks after the last to the last. */
export function phraseAt(placed: readonly PlacedPhrase[], tick: number): PlacedPhrase | null {
  let low = 0
  let high = placed.length
  while (low < high) {
    const mid = (low + high) >> 1
    if ((placed[mid] as PlacedPhrase).start <= tick) low = mid + 1
    else high = mid
  }
  return placed[Math.max(0, low - 1)] ?? null
}

/** "3&": what a dancer calls an absolute tick inside its phrase. */
export function labelIn(placed: PlacedPhrase, tick: Ticks): string {
  return countLabel(tick - placed.start, placed.phrase.feel, placed.first)
}

/** What the phrase is called where no section is named: "eight 3", "6 counts", "pick-up". */
export function phraseName(placed: PlacedPhrase): string {
  if (placed.phrase.pickUp) return 'pick-up'
  const n = placed.phrase.length
  return n === 8 ? `eight ${placed.inSection}` : `${n} counts (${placed.inSection})`
}

/** "Chorus, eight 3" — the section and the phrase within it. */
export function placeName(placed: PlacedPhrase): string {
  const name = phraseName(placed)
  if (!placed.section) return name.charAt(0).toUpperCase() + name.slice(1)
  return `${sectionTitle(placed.section)}, ${name}`
}

/** What a section is shown as: its own name, or its kind. */
export function sectionTitle(section: Section): string {
  const name = section.name || (section.kind === 'part' ? `Part ${section.letter}` : section.kind)
  return name.charAt(0).toUpperCase() + name.slice(1)
}

/** Cues that start in a span of ticks, by position and then by layer. */
export function cuesIn(cues: readonly Cue[], from: Ticks, to: Ticks): Cue[] {
  return cues.filter((c) => c.at >= from && c.at < to).sort(byPlace)
}

/** Order of cues on the page: by position, then feet first. */
export function byPlace(a: Cue, b: Cue): number {
  return (
    a.at - b.at ||
    LAYERS.indexOf(a.layer) - LAYERS.indexOf(b.layer) ||
    (a.id < b.id ? -1 : a.id > b.id ? 1 : 0)
  )
}

/** How many counts some phrases have together. */
export function totalCounts(phrases: readonly Phrase[]): number {
  return phrases.reduce((n, p) => n + p.length, 0)
}

/** Where the routine's excerpt begins and ends; the whole song when none was chosen. */
export function excerptOf(routine: Routine): { start: Ticks; end: Ticks } {
  const end = totalCounts(routine.phrases) * TICKS_PER_COUNT
  return routine.excerpt ?? { start: 0, end }
}

/** The short word the caller says for a cue. */
export function callOf(cue: Cue): string {
  return cue.call || cue.move
}

/** "step R" — a move with its side, as written on the sheet; what both sides do needs no letter. */
export function cueText(cue: Pick<Cue, 'move' | 'side'>, mirrored = false): string {
  const move = mirrored ? mirrorText(cue.move) : cue.move
  if (cue.side === 'none' || cue.side === 'both') return move
  return `${move} ${(cue.side === 'left') === mirrored ? 'R' : 'L'}`
}
