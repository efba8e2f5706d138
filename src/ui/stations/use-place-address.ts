'use client'

import { useEffect, useEffectEvent } from 'react'
import { firstPlace, hashOf, tickOfHash } from '@/core/station'
import type { Ticks } from '@/core/time'
import { useCursor } from '../state/cursor'
import { type Page, useSong } from '../state/page'
import { useRoutineStore } from '../state/routine-store'

/** The address follows the cursor when it rests this long, in ms: holding an arrow key down writes no history. */
const REST_MS = 250

/**
 * The address of the page names the place of the cursor, unless that is where the page begins: it can be kept, handed to
 * somebody, and gone back to.
 */
export function usePlaceAddress(page: Page): void {
  const { heard } = useSong()
  const routines = useRoutineStore()
  const arrive = useEffectEvent(() => {
    const at = tickOfHash(page.placed, location.hash)
    if (at !== null && at !== useCursor.getState().tick) useCursor.getState().to(at)
  })
  const write = useEffectEvent((tick: Ticks) => {
    const { routine } = routines.getState()
    if (!page.placed.length) return
    const begins =
      routine.excerpt?.from ?? firstPlace({ placed: page.placed, hearing: heard?.hearing ?? null, routine })
    const hash = tick === begins ? '' : hashOf(page.placed, tick)
    if (hash === location.hash) return
    // The router's own state stays: it is the same page.
    history.replaceState(history.state, '', `${location.pathname}${location.search}${hash}`)
  })
  useEffect(() => {
    arrive()
    let resting: ReturnType<typeof setTimeout> | undefined
    const stop = useCursor.subscribe((now, before) => {
      if (now.tick === before.tick) return
      clearTimeout(resting)
      resting = setTimeout(() => write(useCursor.getState().tick), REST_MS)
    })
    const arrived = () => arrive()
    window.addEventListener('hashchange', arrived)
    return () => {
      clearTimeout(resting)
      stop()
      window.removeEventListener('hashchange', arrived)
    }
  }, [])
}
