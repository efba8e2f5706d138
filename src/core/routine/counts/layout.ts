import { countLabel, countsText, countWhile, type Stretch, TICKS_PER_COUNT, type Ticks } from '../../time'
import type { Cue } from '../document/cue-schema'
import { layerOrder } from '../document/layers'
import { mirrorText } from '../document/other-side'
import type { Routine } from '../document/schema'
import type { Breath, Phrase, Section } from '../document/song-schema'

/** A phrase with its place on the count line and what people call it. */
export interface PlacedPhrase {
  phrase: Phrase
  index: number
  start: Ticks
  end: Ticks
  /** Number of its first count: 1, or more for a pick-up that ends on the last number of a usual phrase. */
  first: number
  /** Counts of a usual phrase here: what people count up to before a 1. */
  usual: number
  /** Number among the phrases of its section that are not pick-ups, from 1; of a pick-up, among the pick-ups. */
  inSection: number
  section: Section | null
  /** How much before it belongs to it, and how much of it belongs to what comes before, in ticks; never more than there is. */
  lean: Ticks
  resolve: Ticks
  /** What the section is called, told apart from others of that name: "Chorus, 2nd"; '' where no section is named. */
  title: string
}

/** What of a routine says how its counts are called. */
export type Counted = Pick<Routine, 'phrases' | 'sections' | 'usual'> &
  Partial<Pick<Routine, 'borders' | 'usualBorder'>>

const NO_BREATH: Breath = { lean: 0, resolve: 0 }

/** Places every phrase; the first starts at tick 0 and there are no holes. */
export function placePhrases(routine: Counted): PlacedPhrase[] {
  const breaths = new Map<Ticks, Breath>(routine.borders?.map((b) => [b.at, b]))
  const begins = new Map(routine.sections.map((s) => [s.at, s]))
  const titles = sectionTitles(routine.sections)
  const { usual } = routine
  let start = 0
  let section: Section | null = null
  let [whole, pickUps] = [0, 0]
  return routine.phrases.map((phrase, index) => {
    const begun = begins.get(start)
    if (begun) {
      section = begun
      whole = 0
      pickUps = 0
    }
    const breath = breaths.get(start) ?? routine.usualBorder ?? NO_BREATH
    const before = (routine.phrases[index - 1]?.length ?? 0) * TICKS_PER_COUNT
    const inSection = phrase.pickUp ? ++pickUps : ++whole
    const placed: PlacedPhrase = {
      phrase,
      index,
      start,
      end: start + phrase.length * TICKS_PER_COUNT,
      first: phrase.pickUp ? Math.max(1, usual + 1 - phrase.length) : 1,
      usual,
      inSection,
      lean: Math.min(breath.lean, before),
      resolve: before ? Math.min(breath.resolve, phrase.length * TICKS_PER_COUNT) : 0,
      section,
      title: section ? (titles.get(section) ?? '') : routine.sections.length ? OPENING : '',
    }
    start = placed.end
    return placed
  })
}

/** The phrase a tick lies in: ticks before the first belong to the first, ticks after the last to the last. */
export function phraseAt<T extends Pick<PlacedPhrase, 'start'>>(
  placed: readonly T[],
  tick: number,
): T | null {
  const low = countWhile(placed, (p) => p.start <= tick)
  return placed[Math.max(0, low - 1)] ?? null
}

/** "3&": what a dancer calls an absolute tick inside its phrase. */
export function labelIn(placed: PlacedPhrase, tick: Ticks): string {
  return countLabel(tick - placed.start, placed.phrase.feel, placed.first)
}

/** What the phrase is called where no section is named: "eight 3", "6 counts (3)", "pick-up". */
export function phraseName(placed: PlacedPhrase): string {
  if (placed.phrase.pickUp) return placed.inSection > 1 ? `pick-up ${placed.inSection}` : 'pick-up'
  const n = placed.phrase.length
  return n === 8 ? `eight ${placed.inSection}` : `${countsText(n)} (${placed.inSection})`
}

/** "Chorus, eight 3" — the section and the phrase within it. */
export function placeName(placed: PlacedPhrase): string {
  const name = phraseName(placed)
  return placed.title ? `${placed.title}, ${name}` : name.charAt(0).toUpperCase() + name.slice(1)
}

/** True where a section begins with this phrase. */
export const beginsSection = (placed: PlacedPhrase): boolean => placed.section?.at === placed.start

/** What a section is shown as: its own name, or its kind. */
export function sectionTitle(section: Section): string {
  const name = section.name || (section.kind === 'part' ? `Section ${section.letter}` : section.kind)
  return name.charAt(0).toUpperCase() + name.slice(1)
}

/** What stands before the first section. */
const OPENING = 'Opening'

const ORDINAL = new Intl.PluralRules('en', { type: 'ordinal' })
const ENDINGS: Record<string, string> = { one: 'st', two: 'nd', few: 'rd', other: 'th' }

/** A title that could be read as something else on the way back is put in quotes. */
const MISLEADING = /,|[“”]|\b(?:to|until|with)\b|^\s*(?:eights?|pick-?up|counts?|-?\d)/i

/** What each section is called: the second chorus is told from the first. */
export function sectionTitles(sections: readonly Section[]): Map<Section, string> {
  const taken = new Set<string>([OPENING.toLowerCase()])
  const out = new Map<Section, string>()
  for (const s of sections) {
    const plain = sectionTitle(s).replace(/\s+/g, ' ').trim()
    const base = MISLEADING.test(plain) ? `“${plain.replace(/[“”]/g, "'")}”` : plain
    let title = base
    for (let n = 2; taken.has(title.toLowerCase()); n++)
      title = `${base}, ${n}${ENDINGS[ORDINAL.select(n)] ?? 'th'}`
    taken.add(title.toLowerCase())
    out.set(s, title)
  }
  return out
}

/** Cues that start in a stretch, by position and then by layer. */
export function cuesIn<T extends Cue>(cues: readonly T[], { from, to }: Stretch): T[] {
  return cues.filter((c) => c.at >= from && c.at < to).sort(byPlace)
}

/** Order of cues on the page: by position, then feet first. */
export function byPlace(a: Cue, b: Cue): number {
  return a.at - b.at || layerOrder(a.layer) - layerOrder(b.layer) || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0)
}

/** How many counts some phrases have together. */
export function totalCounts(phrases: readonly Phrase[]): number {
  return phrases.reduce((n, p) => n + p.length, 0)
}

/** All that is counted. @returns null before anything is */
export function wholeOf(routine: Pick<Routine, 'phrases'>): Stretch | null {
  const to = totalCounts(routine.phrases) * TICKS_PER_COUNT
  return to > 0 ? { from: 0, to } : null
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

/** Who does a cue, in which version: "rows, easier"; '' for everybody in every version. */
export function whoOf(cue: Pick<Cue, 'role' | 'option'>): string {
  return [cue.role, cue.option === 'base' ? '' : cue.option].filter(Boolean).join(', ')
}

/** "rows: step R" — a cue with who does it, where that is not everybody. */
export function cueLine(cue: Pick<Cue, 'move' | 'side' | 'role' | 'option'>, mirrored = false): string {
  const who = whoOf(cue)
  return `${who ? `${who}: ` : ''}${cueText(cue, mirrored)}`
}

/** What each count of the page is counted as, for files that carry a number a beat. */
export function countNumbers(routine: Pick<Routine, 'phrases' | 'usual'>): number[] {
  return placePhrases({ ...routine, sections: [] }).flatMap((p) =>
    Array.from({ length: p.phrase.length }, (_, i) => p.first + i),
  )
}
