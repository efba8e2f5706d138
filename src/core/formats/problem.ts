import type { Seconds } from '../time'

/** A file that cannot be read, with the line it breaks on where the format has lines. */
export class FormatProblem extends Error {
  constructor(
    readonly why: string,
    /** Line from 1; null where the format has none. */
    readonly line: number | null = null,
  ) {
    super(line === null ? why : `Line ${line}: ${why}`)
  }
}

/** The lines of a text, whatever ends them. */
export function linesOf(text: string): string[] {
  return text.split(/\r\n|\r|\n/)
}

/** Words or a name that belong to a stretch of the song. */
export interface TimedText {
  start: Seconds
  /** Null where the file names no end. */
  end: Seconds | null
  text: string
}

/** Beats and sections as other programs write them. */
export interface BroughtGrid {
  /** Beat times, strictly increasing; empty where the file names none. */
  beats: Seconds[]
  /** What each beat is counted as (1 begins a bar or a phrase), or null where the file does not say. */
  numbers: number[] | null
  sections: TimedText[]
}

/** Timed words, and how many places of the file could not be read and were passed over. */
export interface BroughtWords {
  words: TimedText[]
  passedOver: number
}
