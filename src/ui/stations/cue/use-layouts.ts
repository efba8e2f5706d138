'use client'

import { useRef } from 'react'
import { LAYERS, type Layer } from '@/core/routine'
import type { SheetLine } from '../../sheet/lines'
import { useTypeLoaded } from '../../sheet/text-width'
import { layOutRow, type RowLayout } from './row-layout'
import type { Choreo } from './use-choreo'

const NONE: readonly never[] = []

interface Look {
  pixels: number
  columns: number
  mirrored: boolean
}

/** How each line of the sheet is laid out, the cursor's with its layer; worked out again only for lines whose cues, or whose look, changed. */
export function useLayouts(
  choreo: Choreo,
  layers: readonly Layer[],
  cursor: { row: number; layer: Layer },
  look: Look,
): (line: SheetLine) => RowLayout {
  const loaded = useTypeLoaded()
  const known = useRef<{ key: string; rows: Map<number, [unknown, unknown, string, RowLayout]> }>({
    key: '',
    rows: new Map(),
  })
  const key = `${look.pixels} ${look.columns} ${look.mirrored} ${layers.join()} ${loaded}`
  if (known.current.key !== key) known.current = { key, rows: new Map() }
  const { rows } = known.current
  return (line) => {
    const [cues, carried] = [choreo.rows[line.row] ?? NONE, choreo.carried[line.row] ?? NONE]
    // The cursor's own row has its layer's lane, also where nobody has used it yet.
    const own = line.row === cursor.row && !layers.includes(cursor.layer)
    const place = `${line.start} ${line.end}${own ? ` ${cursor.layer}` : ''}`
    const last = rows.get(line.row)
    if (last && last[0] === cues && last[1] === carried && last[2] === place) return last[3]
    const layout = layOutRow(
      line,
      cues,
      carried,
      own ? LAYERS.filter((l) => l === cursor.layer || layers.includes(l)) : layers,
      look,
    )
    rows.set(line.row, [cues, carried, place, layout])
    return layout
  }
}
