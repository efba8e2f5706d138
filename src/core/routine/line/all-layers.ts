import { TICKS_PER_COUNT, type Ticks } from '../../time'
import type { PlacedPhrase } from '../counts/layout'
import { LAYERS, type Layer } from '../document/layers'
import type { Routine } from '../document/schema'
import { lineOf, putLine } from '../edits/cue-edits'
import type { NewId } from '../edits/phrase-edits'
import { type LineCue, type LinePhrase, LineProblem } from './line'
import { printLine } from './line-print'
import type { Elsewhere } from './line-runs'
import { linePieces, parseLine } from './shorthand'

/*
 * "5-8 as 1-4 other side, all layers": what a line says is danced again is danced again in every layer that has something there.
 */

const ALL = /^(.*?\bas\s.*?)[\s,]+(?:in\s+)?all\s+layers\s*$/i

/** A line as one layer reads it, and the pieces of it that are of all layers. */
export function inAllLayers(text: string): { line: string; shared: string[] } {
  const shared: string[] = []
  const line = linePieces(text)
    .map((piece) => {
      const m = ALL.exec(piece)
      if (!m) return piece
      shared.push((m[1] as string).trim())
      return m[1] as string
    })
    .join(';')
  return { line, shared }
}

/** The counts a piece is about: those before its "as", else the whole phrase. */
function countsOf(piece: string, phrase: LinePhrase): { at: Ticks; length: Ticks } {
  const counts = piece.slice(0, /\bas\s/i.exec(piece)?.index ?? 0).trim()
  const [place] = counts ? parseLine(`${counts} x`, phrase) : []
  return place ?? { at: 0, length: phrase.length * TICKS_PER_COUNT }
}

/**
 * Writes one layer of a phrase, and what the line says of all layers into the others. A layer that has nothing there to be danced
 * again stays as it is.
 * @param elsewhere what another layer dances at a place that is named
 */
export function putLineInLayers(
  routine: Routine,
  placed: PlacedPhrase,
  phrase: LinePhrase,
  layer: Layer,
  cues: readonly LineCue[],
  shared: readonly string[],
  elsewhere: (layer: Layer) => Elsewhere,
  newId: NewId,
): Routine {
  let next = putLine(routine, placed, layer, cues, newId)
  for (const piece of shared)
    for (const other of LAYERS) {
      if (other === layer) continue
      const { at, length } = countsOf(piece, phrase)
      const kept = lineOf(next, placed, other).filter((c) => c.at < at || c.at >= at + length)
      const again = readOrNothing(
        [printLine(kept, phrase), piece].filter(Boolean).join('; '),
        phrase,
        elsewhere(other),
      )
      if (again && again.length > kept.length) next = putLine(next, placed, other, again, newId)
    }
  return next
}

function readOrNothing(line: string, phrase: LinePhrase, elsewhere: Elsewhere): LineCue[] | null {
  try {
    return parseLine(line, phrase, elsewhere)
  } catch (e) {
    if (e instanceof LineProblem) return null
    throw e
  }
}
