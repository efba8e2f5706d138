import { LAYERS, type Layer, type LineProblem, type PlacedPhrase, type Routine } from '../routine'
import { type LineSeen, readLineAt, writeLine } from './line-reading'

/** Layers by the words a pasted line may begin with. */
const PREFIX = new RegExp(`^(${LAYERS.join('|')})\\s*:\\s*`, 'i')

/**
 * Several lines at once: each is a layer of a phrase; "arms: ..." names the layer, a line without a name belongs to the
 * next phrase, an empty line goes on to the next phrase.
 */
export function readLines(text: string, layer: Layer): { row: number; layer: Layer; text: string }[] {
  const out: { row: number; layer: Layer; text: string }[] = []
  let row = 0
  const begun = new Set<Layer>()
  for (const raw of text.split(/\r?\n/)) {
    const line = raw.trim()
    const named = PREFIX.exec(line)
    const own = (named?.[1]?.toLowerCase() as Layer | undefined) ?? layer
    if (!line || begun.has(own)) {
      if (begun.size) row++
      begun.clear()
    }
    if (!line) continue
    begun.add(own)
    out.push({ row, layer: own, text: line.slice(named?.[0].length ?? 0) })
  }
  return out
}

/** True for a text of several lines, which is not typed into one. */
export const isSeveralLines = (text: string): boolean => /\S\s*\n\s*\S/.test(text)

/** Letters that are put in at once: three lines for each of 150 eights. */
export const MOST_PASTED = 100_000

/** A pasted line as it is read. */
export interface PastedLine {
  text: string
  layer: Layer
  /** The phrase it goes to; null where none is left for it. */
  phrase: PlacedPhrase | null
  /** How many cues it says. */
  cues: number
  /** Why it cannot be read. */
  problem: LineProblem | null
}

/** Several pasted lines as they are read, and the routine with all of them that can be. */
export interface PastedLines {
  list: readonly PastedLine[]
  /** All of them can be put in. */
  good: boolean
  routine: Routine
}

/**
 * @param row the phrase the first of them goes to
 * @param layer of lines that name none
 */
export function readPastedLines(text: string, row: PlacedPhrase, layer: Layer, seen: LineSeen): PastedLines {
  let { routine } = seen
  const list = readLines(text, layer).map((l): PastedLine => {
    const phrase = seen.placed[row.index + l.row] ?? null
    const line = { text: l.text, layer: l.layer, phrase, cues: 0, problem: null }
    if (!phrase) return line
    const read = readLineAt(l.text, { ...seen, routine }, phrase, l.layer)
    if ('problem' in read) return { ...line, problem: read.problem }
    routine = writeLine(routine, l, phrase, read.cues, seen)
    return { ...line, cues: read.cues.length }
  })
  return {
    list,
    good: text.length <= MOST_PASTED && list.length > 0 && list.every((l) => l.phrase && !l.problem),
    routine,
  }
}
