import { LAYERS, type Layer, layerOrder, type Marked, type PlacedPhrase, phraseAt, pieceOf } from '../routine'
import { holds, type Stretch, subCount, TICKS_PER_COUNT, type Ticks, usualLength } from '../time'
import { COLUMNS, type SheetLine } from './lines'

/** Where marking began; what is marked reaches from here to the cursor. */
export interface Anchor {
  tick: Ticks
  layer: Layer
  /** Marked by pulling over the sheet: the next click ends it. */
  pulled?: boolean
}

/** The place on the page that keys and buttons act on, the same on every station. */
export interface Cursor {
  /** Where it stands on the count line. */
  tick: Ticks
  layer: Layer
  /** Which cue is meant where several stand at one place; null for the first. */
  cue: string | null
  /** What is marked, or null. */
  marked: Marked | null
  anchor: Anchor | null
  /** What is played again and again, or null. */
  loop: Stretch | null
}

export const CURSOR: Cursor = {
  tick: 0,
  layer: 'feet',
  cue: null,
  marked: null,
  anchor: null,
  loop: null,
}

/** Sub-counts of a triplet lie at thirds; everything else divides in halves and quarters. */
const unitAt = (tick: Ticks) =>
  usualLength(tick, tick % TICKS_PER_COUNT === 8 || tick % TICKS_PER_COUNT === 16 ? 'triplet' : 'straight')

/** The part of the sheet between an anchor and the cursor, both included. */
function between(anchor: Anchor, tick: Ticks, layer: Layer): Marked {
  const [a, b] = [layerOrder(anchor.layer), layerOrder(layer)]
  const end = Math.max(anchor.tick, tick)
  return {
    from: Math.min(anchor.tick, tick),
    to: end + unitAt(end),
    layers: LAYERS.slice(Math.min(a, b), Math.max(a, b) + 1),
  }
}

/** The cursor at another place; what is being marked reaches to it. */
export function moveTo(c: Cursor, tick: Ticks, layer: Layer = c.layer, cue: string | null = null): Cursor {
  return { ...c, tick, layer, cue, marked: c.anchor ? between(c.anchor, tick, layer) : c.marked }
}

/** Begins to mark, up to the cursor; null unmarks. */
export const markFrom = (c: Cursor, anchor: Anchor | null): Cursor => ({
  ...c,
  anchor,
  marked: anchor && between(anchor, c.tick, c.layer),
})

/** Marks some counts in all layers, or nothing. */
export const markStretch = (c: Cursor, stretch: Stretch | null): Cursor => ({
  ...c,
  anchor: null,
  marked: stretch && { ...stretch, layers: LAYERS },
})

/**
 * A place is pressed: with shift the stretch up to it is marked, from where marking began or the cursor stood; else what was
 * pulled is marked no longer.
 */
export function pressAt(
  c: Cursor,
  tick: Ticks,
  layer: Layer | undefined,
  shift: boolean,
  cue?: string,
): Cursor {
  const marking =
    shift && layer
      ? markFrom(c, c.anchor ?? { tick: c.tick, layer: c.layer, pulled: true })
      : c.anchor?.pulled || (c.marked && !c.anchor)
        ? markFrom(c, null)
        : c
  return moveTo(marking, tick, layer, cue ?? null)
}

/**
 * What loops once that is asked for: what is marked at the cursor, or else the row there; nothing where something looped before.
 * @param reach what loops takes in what is at the cursor, instead of ending
 */
export function loopHere(
  { tick, marked, loop }: Pick<Cursor, 'tick' | 'marked' | 'loop'>,
  placed: readonly PlacedPhrase[],
  reach: boolean,
): Stretch | null {
  const row = phraseAt(placed, tick)
  if (!row) return loop
  if (loop && !reach) return null
  const isMarked = marked && (holds(marked, tick) || marked.to === tick)
  const { from, to } = isMarked ? marked : pieceOf(placed, { from: row.start, to: row.end })
  return loop ? { from: Math.min(loop.from, from), to: Math.max(loop.to, to) } : { from, to }
}

/** Ways to go over the sheet by keys. */
export type SheetMove =
  | 'countBack'
  | 'countOn'
  | 'subBack'
  | 'subOn'
  | 'up'
  | 'down'
  | 'phraseBack'
  | 'phraseOn'
  | 'toFirst'
  | 'toLast'
  /** To a numbered count of the phrase, where it has one. */
  | { count: number }

/** The same count so many lines, or phrases, away. */
function lineAway(list: readonly SheetLine[], tick: Ticks, n: number): Ticks {
  const here = phraseAt(list, tick)
  const there = here && list[Math.max(0, Math.min(list.length - 1, list.indexOf(here) + n))]
  if (!there) return tick
  // The same number in the other phrase, also when one of them is a pick-up; below one another in a long phrase.
  const begins = (l: SheetLine) => l.first - l.piece * COLUMNS
  const within = tick - here.start + (begins(here) - begins(there)) * TICKS_PER_COUNT
  return there.start + Math.max(0, Math.min(there.end - there.start - TICKS_PER_COUNT, within))
}

/** Where a move over the sheet leads from a place; the same place where it leads nowhere. */
export function placeAfter(tick: Ticks, move: SheetMove, lines: readonly SheetLine[]): Ticks {
  const here = phraseAt(lines, tick)
  const end = lines.at(-1)?.end ?? 0
  const part = subCount(here?.phrase.feel ?? 'straight')
  const by = (ticks: Ticks) => Math.max(0, Math.min(end - part, tick + ticks))
  const rest = tick % TICKS_PER_COUNT
  const firsts = () => lines.filter((l) => l.piece === 0)
  if (typeof move === 'object') {
    const phrase = lines.filter((l) => l.index === here?.index)
    const [first, last] = [phrase[0], phrase.at(-1)]
    if (!first || !last) return tick
    const at = first.start + (move.count - first.first) * TICKS_PER_COUNT
    return at >= first.start && at < last.end ? at : tick
  }
  switch (move) {
    case 'countBack':
      return by(rest === 0 ? -TICKS_PER_COUNT : -rest)
    case 'countOn':
      return by(TICKS_PER_COUNT - rest)
    case 'subBack':
      return by(-part)
    case 'subOn':
      return by(part)
    case 'up':
      return lineAway(lines, tick, -1)
    case 'down':
      return lineAway(lines, tick, 1)
    case 'phraseBack':
      return lineAway(firsts(), tick, -1)
    case 'phraseOn':
      return lineAway(firsts(), tick, 1)
    case 'toFirst':
      return 0
    case 'toLast':
      return firsts().at(-1)?.start ?? 0
  }
}
