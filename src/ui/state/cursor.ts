'use client'

import { create } from 'zustand'
import type { Layer } from '@/core/routine'
import type { Ticks } from '@/core/time'

interface CursorState {
  /** Where the cursor stands on the count line. */
  tick: Ticks
  layer: Layer
  to: (tick: Ticks, layer?: Layer) => void
  /** What is played again and again, or null. */
  loop: { from: Ticks; to: Ticks } | null
  setLoop: (loop: { from: Ticks; to: Ticks } | null) => void
}

/** The place on the page that keys and buttons act on; shared by the stations. */
export const useCursor = create<CursorState>((set) => ({
  tick: 0,
  layer: 'feet',
  to: (tick, layer) => set((s) => ({ tick, layer: layer ?? s.layer })),
  loop: null,
  setLoop: (loop) => set({ loop }),
}))
