import type { Layer } from '../routine'
import type { Ticks } from '../time'
import type { SheetCue, SheetRow } from './cue-sheet'

/* How the words of a cue sheet are set, on paper and on the page alike. */

/** How wide a text is at a size, in the unit the sheet is set in. */
export type Measure = (text: string, size: number) => number

/** How a cue's words fit into its width. */
export interface Fit {
  size: number
  /** The words do not fit at any size: a number stands for them, and they are said below the row. */
  footnote: boolean
}

/**
 * The largest size at which a cue is read whole: words wrap between them, none is cut.
 * @param room points across
 * @param measure points a text is wide at a size
 */
export function fitOf(text: string, room: number, sizes: readonly number[], measure: Measure, most = 3): Fit {
  for (const size of sizes) {
    const words = text.split(/\s+/).map((w) => measure(w, size))
    if (words.some((w) => w > room)) continue
    const space = measure(' ', size)
    let [lines, across] = [1, 0]
    for (const w of words) {
      if (across && across + space + w > room) {
        lines++
        across = w
      } else across += (across ? space : 0) + w
    }
    if (lines <= most) return { size, footnote: false }
  }
  return { size: sizes.at(-1) ?? 7, footnote: true }
}

/** A cue as it is set: where it begins and how wide it is, and what stands in it. */
export interface SetCue extends SheetCue {
  left: number
  width: number
  size: number
  /** Its words, or the number of its footnote. */
  words: string
}

/** What a row is set with. */
interface Setting {
  /** Points or pixels, of some ticks. */
  x: (t: Ticks) => number
  /** How wide the counts are. */
  across: number
  /** Of the type, the largest first. */
  sizes: readonly number[]
  measure: Measure
  /** What of a cue's width is its border and what is around its words. */
  frame: number
}

type Line = readonly SheetCue[]
type Row = Pick<SheetRow, 'length' | 'lanes' | 'indent' | 'across'>

/** How the words of each cue of a line fit: into its own counts at the largest size, or with the free room after it. */
function fitsOf(line: Line, row: Row, { x, sizes, measure, frame }: Setting) {
  return line.map((c, i) => {
    const [own, free] = [x(c.length), x((line[i + 1]?.at ?? row.across - row.indent) - c.at)]
    const within = fitOf(c.text, own - frame, sizes.slice(0, 1), measure, 2)
    const fit = within.footnote ? fitOf(c.text, free - frame, sizes, measure) : within
    const wide = within.footnote && !fit.footnote
    const width = wide
      ? roomOf({ own, free, frame }, (room) => !fitOf(c.text, room, [fit.size], measure).footnote)
      : own
    return { cue: c, fit, width }
  })
}

/**
 * The sizes of a row: all of its words have one size, that of its longest word. A word that would take the others down more
 * than one step is smaller by itself.
 */
function rowSizes(row: Row, setting: Setting): readonly number[] {
  const { sizes } = setting
  const used = row.lanes
    .flatMap((l) => l.lines.flatMap((line) => fitsOf(line, row, setting)))
    .flatMap(({ fit }) => (fit.footnote ? [] : [sizes.indexOf(fit.size)]))
  return sizes.slice(used.includes(1) ? 1 : 0)
}

/**
 * Sets the cues of a row. One that is longer in words than in counts has the free room after it, or a line of its own below
 * the others; what fits nowhere stands below the row, under a number.
 * @param across how wide the counts are, in points or pixels; every row is drawn in the width there is
 * @param sizes of the type, the largest first
 * @param frame what of a cue's width is its border and what is around its words
 */
export function setRow(
  row: Row,
  across: number,
  sizes: readonly number[],
  measure: Measure,
  frame: number,
): { lanes: { layer: Layer; lines: SetCue[][] }[]; foot: string[] } {
  const x = (t: Ticks) => (t / row.across) * across
  const foot: string[] = []
  const setting = { x, across, sizes, measure, frame }
  const own = { ...setting, sizes: rowSizes(row, setting) }
  const placed = ({ cue, fit, width }: ReturnType<typeof fitsOf>[number]): SetCue => {
    if (fit.footnote) foot.push(cue.text)
    const words = fit.footnote ? `(${foot.length})` : cue.text
    return { ...cue, left: x(row.indent + cue.at), width, size: fit.size, words }
  }
  const lanes = row.lanes.map(({ layer, lines }) => ({
    layer,
    lines: lines.flatMap((line) => {
      const fits = fitsOf(line, row, own)
      const none = fits.filter((f) => f.fit.footnote).map((f) => f.cue)
      const below = fitsOf(none, row, own).filter((f) => !f.fit.footnote)
      const isBelow = (cue: SheetCue) => below.some((b) => b.cue === cue)
      return [fits.filter((f) => !isBelow(f.cue)), below].filter((l) => l.length).map((l) => l.map(placed))
    }),
  }))
  return { lanes, foot }
}

/** The least width between its own and the free room in which a text is read. */
function roomOf(
  { own, free, frame }: { own: number; free: number; frame: number },
  fits: (room: number) => boolean,
): number {
  for (let width = own; width < free; width += 6) if (fits(width - frame)) return width
  return free
}
