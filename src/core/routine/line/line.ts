import type { Feel, Ticks } from '../../time'
import type { Option, Side } from '../document/cue-words'

/** One cue of a line: its place counted from the first tick of its phrase. */
export interface LineCue {
  at: Ticks
  length: Ticks
  move: string
  side: Side
  call: string
  role: string
  option: Option | null
  /** Held or free in its version alone: `#easier #open`. */
  step?: 'hold' | 'open'
}

/** A phrase as far as a line must know it. */
export interface LinePhrase {
  length: number
  feel: Feel
  /** Number of its first count: 1, or more for a pick-up. */
  first: number
}

/** A line that cannot be read: where, counted from 0, and why. */
export class LineProblem extends Error {
  constructor(
    readonly why: string,
    readonly at: number,
  ) {
    super(`Character ${at + 1}: ${why}`)
  }
}
