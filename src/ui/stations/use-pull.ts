'use client'

import { type PointerEvent as ReactPointerEvent, useEffect, useRef } from 'react'
import { followPress } from '../sheet/follow-press'
import { type Pointed, placeUnder } from '../sheet/row'
import type { Page } from '../state/page'
import { say } from '../state/spoken'

/**
 * Pulling over the sheet: from a press until it is let go, the places under the pointer are told, on whichever row they
 * are. The first is told only once the pointer has moved. A finger scrolls, unless it rested first.
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
    if (press.button !== 0) return
    let pulling = false
    letGo.current = followPress(press, {
      held: () => say('Held: pull to mark counts.'),
      moved: (e) => {
        const at = placeUnder(latest.current.page, e.clientX, e.clientY)
        if (!at) return
        latest.current.told(at, !pulling)
        pulling = true
      },
    })
  }
}
