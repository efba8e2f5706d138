'use client'

import { create } from 'zustand'
import type { Layer } from '@/core/routine'
import { type Anchor, CURSOR, type Cursor, markFrom, markStretch, moveTo } from '@/core/station'
import type { Stretch, Ticks } from '@/core/time'

interface CursorState extends Cursor {
  to: (tick: Ticks, layer?: Layer, cue?: string) => void
  /** Begins to mark, up to the cursor; null unmarks. */
  markFrom: (anchor: Anchor | null) => void
  /** Marks some counts in all layers. */
  mark: (stretch: Stretch | null) => void
  setLoop: (loop: Stretch | null) => void
}

/** The place on the page that keys and buttons act on; shared by the stations. */
export const useCursor = create<CursorState>((set) => ({
  ...CURSOR,
  to: (tick, layer, cue) => set((s) => moveTo(s, tick, layer, cue)),
  markFrom: (anchor) => set((s) => markFrom(s, anchor)),
  mark: (stretch) => set((s) => markStretch(s, stretch)),
  setLoop: (loop) => set({ loop }),
}))
