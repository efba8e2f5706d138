'use client'

import type { PointerEvent as ReactPointerEvent, RefObject } from 'react'
import { useEffect } from 'react'

/** A press that moves less than this, in pixels, is a click. */
const STILL = 6
/** A finger that rests so long, in ms, holds what it is on; one that moves before that scrolls. Common practice, no published source. */
const HOLD_MS = 400

/** A finger holds something: nothing scrolls under it. */
let holding = false

/**
 * Lets a held finger move without scrolling what it is on. Whether a touch may scroll is decided as it begins, before it is known
 * that it will hold: the listener has to be there already.
 */
export function useHeldStill(frame: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const element = frame.current
    if (!element) return
    const stay = (e: TouchEvent) => {
      if (holding && e.cancelable) e.preventDefault()
    }
    element.addEventListener('touchmove', stay, { passive: false })
    return () => element.removeEventListener('touchmove', stay)
  }, [frame])
}

interface Told {
  /** A finger has rested long enough. */
  held?: () => void
  /** The pointer is elsewhere than it was pressed. @param first for the first time */
  moved: (event: PointerEvent, first: boolean) => void
  /** It was let go, or taken away (by a call, a gesture of the system) and nothing is meant. */
  over?: (letGo: boolean) => void
}

/**
 * Follows a pointer from a press until it is let go: a mouse at once, a finger only where it rested first.
 * @returns ends that
 */
export function followPress(press: ReactPointerEvent, { held, moved, over }: Told): () => void {
  const isFinger = press.pointerType === 'touch'
  let follows = !isFinger
  let first = true
  const noMenu = (e: Event) => e.preventDefault()
  const resting = isFinger
    ? setTimeout(() => {
        follows = true
        holding = true
        window.addEventListener('contextmenu', noMenu)
        navigator.vibrate?.(12)
        held?.()
      }, HOLD_MS)
    : undefined
  const move = (e: PointerEvent) => {
    if (e.pointerId !== press.pointerId) return
    const away = Math.hypot(e.clientX - press.clientX, e.clientY - press.clientY) >= STILL
    if (!follows) {
      if (away) stop()
      return
    }
    if (first && !away) return
    // On a busy machine it may be told late: what moved before it had rested was to scroll.
    if (isFinger && first && e.timeStamp - press.timeStamp < HOLD_MS) {
      stop()
      over?.(false)
      return
    }
    moved(e, first)
    first = false
  }
  const end = (letGo: boolean) => (e: PointerEvent) => {
    if (e.pointerId !== press.pointerId) return
    const told = follows
    stop()
    if (told) over?.(letGo)
  }
  const [up, cancel] = [end(true), end(false)]
  function stop() {
    clearTimeout(resting)
    if (isFinger) holding = false
    window.removeEventListener('contextmenu', noMenu)
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', up)
    window.removeEventListener('pointercancel', cancel)
  }
  window.addEventListener('pointermove', move)
  window.addEventListener('pointerup', up)
  window.addEventListener('pointercancel', cancel)
  return stop
}
