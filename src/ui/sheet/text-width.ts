'use client'

import { useEffect, useState } from 'react'
import { font, LETTERS } from '../theme/tokens'

const known = new Map<string, number>()
let pen: CanvasRenderingContext2D | null = null

/** A canvas knows no properties of the page: what stands there now. */
export const familiesNow = (of: string = font.text) =>
  of.replace(/var\([^)]*\)/, document.documentElement.style.getPropertyValue(LETTERS) || 'system-ui')

/** How wide a text is in the page's type, in pixels. @param face weight and size, as in "550 13px" */
export function widthOfText(text: string, face: string): number {
  const key = `${face} ${text}`
  let width = known.get(key)
  if (width === undefined) {
    if (typeof document === 'undefined') return 0
    pen ??= document.createElement('canvas').getContext('2d')
    if (!pen) return 0
    pen.font = `${face} ${familiesNow()}`
    width = pen.measureText(text).width
    known.set(key, width)
  }
  return width
}

/** How often something that was measured turned out to be wider or narrower in the type that had come. */
let changes = 0

/** Measures everything once more: in a browser that has the page's type at once it is as it was. */
function measureAgain(): void {
  const before = [...known]
  known.clear()
  const differs = before.some(([key, width]) => {
    const [weight, size, ...text] = key.split(' ')
    return widthOfText(text.join(' '), `${weight} ${size}`) !== width
  })
  if (differs) changes++
}

/** Goes up when the page's type was loaded and what was measured before that is no longer right. */
export function useTypeLoaded(): number {
  const [loaded, setLoaded] = useState(changes)
  useEffect(() => {
    let gone = false
    const again = () => {
      measureAgain()
      if (!gone) setLoaded(changes)
    }
    if (document.fonts.status !== 'loaded') document.fonts.ready.then(again)
    document.fonts.addEventListener('loadingdone', again)
    return () => {
      gone = true
      document.fonts.removeEventListener('loadingdone', again)
    }
  }, [])
  return loaded
}
