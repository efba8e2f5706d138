import {
  elsewhereIn,
  inAllLayers,
  type Layer,
  type LineCue,
  type LinePhrase,
  LineProblem,
  type NewId,
  type PlacedPhrase,
  parseLine,
  putLineInLayers,
  type Routine,
} from '../routine'
import type { Seconds } from '../time'

/** What lines are read and written in. */
export interface LineSeen {
  routine: Routine
  placed: readonly PlacedPhrase[]
  /** When each count falls. */
  times: readonly Seconds[]
  newId: NewId
}

/** A phrase as lines know it. */
export const linePhrase = (p: PlacedPhrase): LinePhrase => ({
  length: p.phrase.length,
  feel: p.phrase.feel,
  first: p.first,
})

/** What a line says, or why it says nothing. */
export type ReadLine = { cues: LineCue[] } | { problem: LineProblem }

/** Reads a line where it would stand. */
export function readLineAt(
  text: string,
  { routine, placed, times }: Omit<LineSeen, 'newId'>,
  p: PlacedPhrase,
  layer: Layer,
): ReadLine {
  try {
    const { line } = inAllLayers(text)
    return { cues: parseLine(line, linePhrase(p), elsewhereIn(routine, placed, times, p, layer)) }
  } catch (e) {
    if (e instanceof LineProblem) return { problem: e }
    throw e
  }
}

/** The routine with what a line says, in its layer and where it says so in all. */
export function writeLine(
  routine: Routine,
  { text, layer }: { text: string; layer: Layer },
  row: PlacedPhrase,
  cues: readonly LineCue[],
  { placed, times, newId }: Omit<LineSeen, 'routine'>,
): Routine {
  const elsewhere = (of: Layer) => elsewhereIn(routine, placed, times, row, of)
  const { shared } = inAllLayers(text)
  return putLineInLayers(routine, row, linePhrase(row), layer, cues, shared, elsewhere, newId)
}
