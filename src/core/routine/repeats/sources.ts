import { type Seconds, type Stretch, TICKS_PER_COUNT, timeOfTick } from '../../time'
import { cuesIn, cueText, type PlacedPhrase, placeName } from '../counts/layout'
import { Refused } from '../gate/refused'
import { readPiece } from '../names/go-to'
import { stretchName } from '../names/names'
import type { DancedCue } from './danced-cue'

/** A piece of the dance that another may be danced as, with what people know it by. */
export interface Source {
  name: string
  stretch: Stretch
  /** When it begins in the song; null before anything is counted. */
  at: Seconds | null
  /** Its first moves; '' where nothing is danced. */
  words: string
}

/** Moves that tell a piece from others. */
const FIRST_WORDS = 3

function sourceOf(
  name: string,
  stretch: Stretch,
  cues: readonly DancedCue[],
  times: readonly Seconds[],
): Source {
  const own = cuesIn(cues, stretch)
  const layer = own[0]?.layer
  const words = own.filter((c) => c.layer === layer).slice(0, FIRST_WORDS)
  return {
    ...{ name, stretch },
    at: times.length > 1 ? timeOfTick(times, stretch.from) : null,
    words: words.map((c) => cueText(c)).join(', '),
  }
}

/**
 * The pieces of a page that may be repeated, sections of several phrases first where they begin; and what a typed text names
 * beside them ("chorus 2, first four"), before all others.
 * @param text what was typed to find one; '' for all. Words of names and of moves are found
 * @param here the phrase that is meant where none is named
 */
export function sources(
  placed: readonly PlacedPhrase[],
  cues: readonly DancedCue[],
  times: readonly Seconds[],
  text: string,
  here: PlacedPhrase | null,
): Source[] {
  const all = placed.flatMap((p) => {
    const row = { from: p.start, to: p.end }
    const one = { name: placeName(p), stretch: row }
    const begins = p.section !== null && placed[p.index - 1]?.section !== p.section
    if (!begins) return [one]
    const rows = placed.filter((q) => q.section === p.section)
    const section = { from: p.start, to: rows.at(-1)?.end ?? p.end }
    return rows.length > 1 ? [{ name: p.title, stretch: section }, one] : [one]
  })
  const words = text
    .toLowerCase()
    .split(/[\s,]+/)
    .filter(Boolean)
  const made = all.map(({ name, stretch }) => sourceOf(name, stretch, cues, times))
  const found = made.filter((s) => {
    const known = `${s.name} ${s.words}`.toLowerCase()
    return words.every((w) => known.includes(w))
  })
  const said = text.trim() ? named(placed, text, here) : null
  if (!said) return found
  const same = (s: Source) => s.stretch.from === said.from && s.stretch.to === said.to
  const first = found.find(same) ?? sourceOf(stretchName(placed, said), said, cues, times)
  return [first, ...found.filter((s) => !same(s))]
}

function named(placed: readonly PlacedPhrase[], text: string, here: PlacedPhrase | null): Stretch | null {
  try {
    return readPiece(placed, text, here)
  } catch (error) {
    if (error instanceof Refused) return null
    throw error
  }
}

/**
 * Where a source is danced again: what is marked, as far as both go; else from the beginning of the phrase on, up to the end
 * of the section that begins there, or of all that is counted.
 */
export function targetOf(
  placed: readonly PlacedPhrase[],
  source: Stretch,
  here: PlacedPhrase,
  marked: Stretch | null,
): Stretch {
  const length = source.to - source.from
  if (marked) return { from: marked.from, to: Math.min(marked.to, marked.from + length) }
  const end = placed.at(-1)?.end ?? here.end
  const opens = here.section?.at === here.start
  const section = opens ? (placed.findLast((p) => p.section === here.section)?.end ?? end) : end
  // A phrase is danced as one of another length as far as both go.
  const room = length <= here.end - here.start ? here.end : section
  return { from: here.start, to: Math.min(here.start + length, room) }
}

/** Whole counts of a stretch. */
export const countsIn = ({ from, to }: Stretch): number => Math.round((to - from) / TICKS_PER_COUNT)
