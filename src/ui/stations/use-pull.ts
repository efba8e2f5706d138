'use client'

import { type PointerEvent as ReactPointerEvent, useEffect, useRef } from 'react'
import { type Pointed, placeUnder } from '../sheet/row'
import type { Page } from '../state/page'

/** A press that moves less than this, in pixels, is a click. */
const STILL = 6

/**
 * Pulling over the sheet: from a press until it is let go, the places under the pointer are told, on whichever row they
 * are. The first is told only once the pointer has moved. A finger scrolls instead.
 */
export function usePull(
  page: Page,
  told: (at: Pointed, first: boolean) => void,
): (event: ReactPointerEvent) => void {
  const latest = useRef({ page, told })
  useEffect(() => {
    latest.current = { page, told }
  })
  const letGo = useRef(() => {})
  useEffect(() => () => letGo.current(), [])
  return (press) => {
    letGo.current()
    if (press.pointerType === 'touch' || press.button !== 0) return
    let pulling = false
    const move = (e: PointerEvent) => {
      if (!pulling && Math.hypot(e.clientX - press.clientX, e.clientY - press.clientY) < STILL) return
      const at = placeUnder(latest.current.page, e.clientX, e.clientY)
      if (!at) return
      latest.current.told(at, !pulling)
      pulling = true
    }
    const end = () => letGo.current()
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', end)
    window.addEventListener('pointercancel', end)
    letGo.current = () => {
      window.removeEventListener('pointermove', move)
      window.removeEventListener('pointerup', end)
      window.removeEventListener('pointercancel', end)
    }
  }
}
