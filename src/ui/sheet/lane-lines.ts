import type { Ticks } from '@/core/time'
import { TICKS_PER_COUNT } from '@/core/time'

/** What is to be written into a lane: its place from the lane's beginning, and its words. */
export interface Wanted {
  at: Ticks
  length: Ticks
  text: string
}

/** Where it is written, in pixels from the lane's beginning. */
export interface Written {
  left: number
  width: number
  /** The first of its lines in the lane, from 0, and its words line by line. */
  line: number
  words: readonly string[]
  /** Set smaller, so that it ends where the next begins. */
  small: boolean
  /** From `left` to where it begins, and how long it lasts from there. */
  begins: number
  lasts: number
}

/** How a text is set: its width in pixels, and what stands left and right of it in its box. */
export interface Setting {
  widthOf: (text: string, small: boolean) => number
  around: number
}

/** Words are broken over lines only after so many counts' width, and so many pixels. */
const WIDEST = 2
const LEAST_WIDE = 132
/** No box is narrower than this, in pixels: it can be pressed. */
const NARROWEST = 14

/**
 * Writes what is in a lane so that no word is cut off. Each stands at its place, in the first line of the lane that is free
 * there; where its words are longer than it lasts they take the free room to the right; where that is not quite enough
 * they are set smaller; where they are longer than two counts they are broken over lines; at the lane's end they are moved
 * to the left.
 * @param wanted in order of place
 * @param pixels of one count
 * @param end of the lane in pixels
 */
export function writeLane(
  wanted: readonly Wanted[],
  pixels: number,
  end: number,
  { widthOf, around }: Setting,
): { written: Written[]; lines: number } {
  const full: number[] = []
  const written = wanted.map((cue, i): Written => {
    const from = (cue.at / TICKS_PER_COUNT) * pixels
    const next = wanted.find((c, k) => k > i && c.at > cue.at)
    const free = next ? (next.at / TICKS_PER_COUNT) * pixels - from - around : Number.POSITIVE_INFINITY
    const small = widthOf(cue.text, false) > free && widthOf(cue.text, true) <= free
    const wide = (text: string) => widthOf(text, small)
    const lasts = Math.min((cue.length / TICKS_PER_COUNT) * pixels, end - from)
    const most = Math.max(lasts, Math.min(Math.max(WIDEST * pixels, LEAST_WIDE), end - from)) - around
    const words = broken(cue.text, most, wide)
    const width = Math.max(lasts, NARROWEST, Math.max(...words.map(wide)) + around)
    const left = Math.max(0, Math.min(from, end - width))
    const line = freeLine(full, left, words.length)
    for (let i = 0; i < words.length; i++) full[line + i] = left + width
    return { left, width, line, words, small, begins: from - left, lasts }
  })
  return { written, lines: full.length }
}

/** The first of so many lines, one below the other, that are free from a place on. */
function freeLine(full: readonly number[], from: number, lines: number): number {
  for (let line = 0; ; line++) {
    let free = true
    for (let i = 0; i < lines && free; i++) free = (full[line + i] ?? 0) <= from + 1e-6
    if (free) return line
  }
}

/** A text broken between its words into lines no wider than asked, where its words allow that; as few as can be. */
export function broken(text: string, most: number, widthOf: (text: string) => number): string[] {
  if (widthOf(text) <= most) return [text]
  const lines: string[] = []
  let line = ''
  for (const word of text.split(/(?<=[\s-])/)) {
    if (line && widthOf((line + word).trimEnd()) > most) {
      lines.push(line.trimEnd())
      line = ''
    }
    line += word
  }
  if (line.trim()) lines.push(line.trimEnd())
  return lines.length ? lines : [text]
}
