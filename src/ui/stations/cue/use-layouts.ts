'use client'

import { useState } from 'react'
import { LAYERS, type Layer, phraseAt } from '@/core/routine'
import type { SheetLine } from '@/core/station'
import { useTypeLoaded } from '../../sheet/text-width'
import { useCursor } from '../../state/cursor'
import { type Look, layOutRow, type RowLayout } from './row-layout'
import type { Choreo } from './use-choreo'

const NONE: readonly never[] = []

/** How lines of the sheet were laid out, for as long as their cues and their look are the same. */
class KnownLayouts {
  private key = ''
  private rows = new Map<number, readonly [unknown, unknown, string, RowLayout]>()

  /**
   * @param own the layer whose lane the line has beside the usual ones; null for none
   * @param more pixels over the lanes of this line alone
   */
  layoutOf(
    line: SheetLine,
    { rows, carried }: Pick<Choreo, 'rows' | 'carried'>,
    layers: readonly Layer[],
    own: Layer | null,
    look: Look,
    key: string,
    more: number,
  ): RowLayout {
    if (this.key !== key) {
      this.key = key
      this.rows = new Map()
    }
    const [cues, over] = [rows[line.row] ?? NONE, carried[line.row] ?? NONE]
    const place = `${line.start} ${line.end} ${more}${own ? ` ${own}` : ''}`
    const last = this.rows.get(line.row)
    if (last && last[0] === cues && last[1] === over && last[2] === place) return last[3]
    const shown = own ? LAYERS.filter((l) => l === own || layers.includes(l)) : layers
    const layout = layOutRow(line, cues, over, shown, { ...look, strip: look.strip + more })
    this.rows.set(line.row, [cues, over, place, layout])
    return layout
  }
}

/**
 * How each line of the sheet is laid out; worked out again only for lines whose cues, or whose look, changed. The cursor's own row
 * has its layer's lane, also where nobody has used it yet.
 */
export function useLayouts(
  lines: readonly SheetLine[],
  choreo: Choreo,
  layers: readonly Layer[],
  look: Look,
  moreOver: (line: SheetLine) => number,
): (line: SheetLine) => RowLayout {
  const loaded = useTypeLoaded()
  const [known] = useState(() => new KnownLayouts())
  const own = useCursor((s) => (layers.includes(s.layer) ? null : s.layer))
  const ownRow = useCursor((s) => (layers.includes(s.layer) ? -1 : (phraseAt(lines, s.tick)?.row ?? -1)))
  const { pixels, columns, mirrored, strip } = look
  const key = `${pixels} ${columns} ${mirrored} ${strip} ${layers.join()} ${loaded}`
  return (line) =>
    known.layoutOf(line, choreo, layers, line.row === ownRow ? own : null, look, key, moreOver(line))
}
