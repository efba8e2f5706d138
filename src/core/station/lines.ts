import type { PlacedPhrase } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'

/** Counts side by side on the sheet; a longer phrase goes on below. */
export const COLUMNS = 8

/** One line of the sheet: a phrase, or as much of a long one as stands side by side. */
export interface SheetLine extends PlacedPhrase {
  /** Its number down the sheet, from 0. */
  row: number
  /** Which line of its phrase it is, from 0. */
  piece: number
}

/** The lines of the sheet. Start, end and first number are the line's own; the phrase is the whole one. */
export function linesOf(placed: readonly PlacedPhrase[]): SheetLine[] {
  const lines: SheetLine[] = []
  for (const p of placed)
    for (let piece = 0; piece * COLUMNS < p.phrase.length; piece++) {
      const start = p.start + piece * COLUMNS * TICKS_PER_COUNT
      lines.push({
        ...p,
        start,
        end: Math.min(p.end, start + COLUMNS * TICKS_PER_COUNT),
        first: p.first + piece * COLUMNS,
        row: lines.length,
        piece,
      })
    }
  return lines
}
