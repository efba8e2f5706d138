'use client'

import { type RefObject, useCallback, useEffect, useLayoutEffect, useRef } from 'react'

/** Shares of the usual size, the largest that fits is taken. */
const SHARES = [1, 0.86, 0.74, 0.63, 0.54, 0.46, 0.4, 0.34, 0.29, 0.25]

/**
 * Sets words as large as they fit into the room they have, whatever their script, so that nothing beside them moves.
 * @param words what stands there; it is looked at anew when they change, or the room does
 * @returns where they stand: its style's --fit is the share of the usual size
 */
export function useFit<E extends HTMLElement>(words: string): RefObject<E | null> {
  const at = useRef<E>(null)
  const fit = useCallback(() => {
    const element = at.current
    if (!element) return
    const fits = () =>
      element.scrollHeight <= element.clientHeight && element.scrollWidth <= element.clientWidth
    // Words are broken inside only where no size holds them.
    for (const tight of [false, true]) {
      element.toggleAttribute('data-tight', tight)
      for (const share of SHARES) {
        element.style.setProperty('--fit', String(share))
        if (fits()) return
      }
    }
  }, [])
  // biome-ignore lint/correctness/useExhaustiveDependencies: other words are other lines
  useLayoutEffect(fit, [words, fit])
  useEffect(() => {
    if (!at.current) return
    const watch = new ResizeObserver(fit)
    watch.observe(at.current)
    return () => watch.disconnect()
  }, [fit])
  return at
}
