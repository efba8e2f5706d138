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

/** The lines of a text file: any line ending, no byte order mark. */
export function linesOf(text: string): string[] {
  return text.replace(/^\uFEFF/, '').split(/\r\n|\r|\n/)
}

/** Words or a name that belong to a stretch of the song. */
export interface TimedText {
  start: number
  /** Seconds; null where the file names no end. */
  end: number | null
  text: string
}
