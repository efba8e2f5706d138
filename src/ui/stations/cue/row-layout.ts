import { cueText, type DancedCue, type Layer, whoOf } from '@/core/routine'
import type { SheetLine } from '@/core/station'
import type { Ticks } from '@/core/time'
import { type Written, writeLane } from '../../sheet/lane-lines'
import { widthOfText } from '../../sheet/text-width'

/** Height of a row's sound, and where its lanes begin. */
export const WAVE = 30
export const TOP = WAVE + 8
/** Height of one line of a lane. */
export const LINE = 24
/** Room between two lanes. */
const GAP = 5
/** What stands left and right of a text in its box: padding, border, and the room between two boxes. */
const AROUND = { feet: 19, other: 25, differs: 5 }
export const FACE = '550 13px'
export const SMALL_FACE = '600 11.5px'

/** A cue with the words that are shown of it, as they are broken over lines. */
export interface Shown {
  cue: DancedCue
  /** Who does it, where not everybody does; part of the words. */
  who: string
  written: Written
  /** It began on an earlier line. */
  carried: boolean
  /** Pixels below the top of the lanes. */
  top: number
}

/** A row's lanes: where each begins, how high it is, and what is written in it. */
export interface RowLayout {
  lanes: { layer: Layer; top: number; height: number }[]
  shown: Shown[]
  height: number
}

/** All that is written for a cue: who, what starts it, and what is done. */
function wordsOf(cue: DancedCue, carried: boolean, mirrored: boolean): { who: string; text: string } {
  const who = carried ? '' : whoOf(cue)
  const text = `${carried ? '… ' : cue.trigger ? '♪ ' : ''}${cueText(cue, mirrored)}`
  return { who, text: who ? `${who}: ${text}` : text }
}

/** How a sheet is looked at. */
export interface Look {
  /** Of one count. */
  pixels: number
  /** Counts side by side. */
  columns: number
  mirrored: boolean
  /** Pixels over the lanes for stills of a film. */
  strip: number
}

/**
 * Lays out the lanes of one line of the sheet so that every word is read: lanes grow with what is in them.
 * @param cues that begin in the line, in order of place
 * @param carried that began before it and last into it
 */
export function layOutRow(
  line: Pick<SheetLine, 'start' | 'end'>,
  cues: readonly DancedCue[],
  carried: readonly DancedCue[],
  layers: readonly Layer[],
  { pixels, columns, mirrored, strip }: Look,
): RowLayout {
  const out: RowLayout = { lanes: [], shown: [], height: strip }
  for (const layer of layers) {
    const inLane = [
      ...carried.filter((c) => c.layer === layer).map((cue) => ({ cue, carried: true })),
      ...cues.filter((c) => c.layer === layer).map((cue) => ({ cue, carried: false })),
    ]
    const words = inLane.map((c) => wordsOf(c.cue, c.carried, mirrored))
    const wanted = inLane.map(({ cue }, i) => {
      const at: Ticks = Math.max(0, cue.at - line.start)
      return {
        at,
        length: Math.min(line.end, cue.at + cue.length) - line.start - at,
        text: words[i]?.text ?? '',
      }
    })
    const { written, lines } = writeLane(wanted, pixels, pixels * columns, {
      // A fraction of a pixel too few would break the last word of a box.
      widthOf: (text, small) => Math.ceil(widthOfText(text, small ? SMALL_FACE : FACE)),
      around:
        (layer === 'feet' ? AROUND.feet : AROUND.other) +
        (inLane.some((c) => c.cue.differs) ? AROUND.differs : 0),
    })
    const height = Math.max(1, lines) * LINE
    inLane.forEach((c, i) => {
      const w = written[i]
      if (w) out.shown.push({ ...c, who: words[i]?.who ?? '', written: w, top: out.height + w.line * LINE })
    })
    out.lanes.push({ layer, top: out.height, height })
    out.height += height + GAP
  }
  return out
}

/** The lane at so many pixels below the top of the lanes. */
export const laneAt = (layout: RowLayout, y: number): Layer | undefined =>
  y < 0 ? undefined : layout.lanes.find((l) => y < l.top + l.height + GAP)?.layer
