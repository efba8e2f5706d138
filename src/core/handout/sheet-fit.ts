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

/**
 * Sets the cues of a row. One that is longer in words than in counts has the free room after it; what fits nowhere stands
 * below the row, under a number.
 * @param across how wide the counts are, in points or pixels; every row is drawn in the width there is
 * @param sizes of the type, the largest first
 * @param frame what of a cue's width is its border and what is around its words
 */
export function setRow(
  row: Pick<SheetRow, 'length' | 'lanes' | 'indent' | 'across'>,
  across: number,
  sizes: readonly number[],
  measure: Measure,
  frame: number,
): { lanes: { layer: Layer; lines: SetCue[][] }[]; foot: string[] } {
  const x = (t: Ticks) => (t / row.across) * across
  const foot: string[] = []
  const lanes = row.lanes.map(({ layer, lines }) => ({
    layer,
    lines: lines.map((line) =>
      line.map((c, i): SetCue => {
        const [own, free] = [x(c.length), x((line[i + 1]?.at ?? row.across - row.indent) - c.at)]
        const within = fitOf(c.text, own - frame, sizes.slice(0, 1), measure, 2)
        const fit = within.footnote ? fitOf(c.text, free - frame, sizes, measure) : within
        if (fit.footnote) foot.push(c.text)
        const wide = within.footnote && !fit.footnote
        return {
          ...c,
          left: x(row.indent + c.at),
          width: wide
            ? roomOf({ own, free, frame }, (room) => !fitOf(c.text, room, [fit.size], measure).footnote)
            : own,
          size: fit.size,
          words: fit.footnote ? `(${foot.length})` : c.text,
        }
      }),
    ),
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
