'use client'

import { useSyncExternalStore } from 'react'
import { DAY, NIGHT, NIGHT_ASKED, namedColours, type Palette } from './palette'

let kept: MediaQueryList | undefined
/** Asked for once: each wave of a sheet wants to know with each drawing. */
const asked = () => (kept ??= matchMedia(NIGHT_ASKED))
const watch = (changed: () => void) => {
  const query = asked()
  query.addEventListener('change', changed)
  return () => query.removeEventListener('change', changed)
}

/** The colours that are shown now, as values, for what is drawn by hand. */
export const usePalette = (): Palette =>
  useSyncExternalStore(
    watch,
    () => (asked().matches ? NIGHT : DAY),
    () => DAY,
  )

/** The value of a colour that is named as style sheets name it. */
export function colourValue(colour: string, palette: Palette): string {
  const name = /^var\((--[\w-]+)\)$/.exec(colour)?.[1]
  return name ? (namedColours(palette)[name] ?? colour) : colour
}
