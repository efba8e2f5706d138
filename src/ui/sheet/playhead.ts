'use client'

import { useEffect, useRef } from 'react'
import { phraseAt } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
import type { Page } from '../state/page'
import { usePlayer, usePlayerState } from '../state/player'

/** Calls back with the position at every frame while something plays, and once with null when it stops. */
export function useEachFrame(page: Page, tell: (tick: number | null) => void): void {
  const player = usePlayer()
  const playing = usePlayerState((s) => s.playing)
  const latest = useRef(tell)
  latest.current = tell
  useEffect(() => {
    if (!playing) {
      latest.current(null)
      return
    }
    let frame = 0
    const step = () => {
      latest.current(player.tickInFrame(page))
      frame = requestAnimationFrame(step)
    }
    frame = requestAnimationFrame(step)
    return () => cancelAnimationFrame(frame)
  }, [playing, player, page])
}

/** Where a tick stands on the sheet: its row and its share of the row's full width. */
export function placeOnSheet(
  page: Page,
  tick: number,
  columns: number,
): { row: number; share: number } | null {
  const at = phraseAt(page.placed, tick)
  if (!at) return null
  return { row: at.index, share: (tick - at.start) / TICKS_PER_COUNT / columns }
}
