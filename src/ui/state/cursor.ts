'use client'

import { create } from 'zustand'
import { LAYERS, type Layer, layerOrder, type Marked } from '@/core/routine'
import { type Stretch, TICKS_PER_COUNT, type Ticks, usualLength } from '@/core/time'

/** Where marking began; what is marked reaches from here to the cursor. */
export interface Anchor {
  tick: Ticks
  layer: Layer
  /** Marked by pulling over the sheet: the next click ends it. */
  pulled?: boolean
}

interface CursorState {
  /** Where the cursor stands on the count line. */
  tick: Ticks
  layer: Layer
  /** Which cue is meant where several stand at one place; null for the first. */
  cue: string | null
  to: (tick: Ticks, layer?: Layer, cue?: string) => void
  /** What is marked, or null; the same on every station. */
  marked: Marked | null
  anchor: Anchor | null
  /** Begins to mark, up to the cursor; null unmarks. */
  markFrom: (anchor: Anchor | null) => void
  /** Marks some counts in all layers. */
  mark: (stretch: Stretch | null) => void
  /** What is played again and again, or null. */
  loop: Stretch | null
  setLoop: (loop: Stretch | null) => void
}

/** Sub-counts of a triplet lie at thirds; everything else divides in halves and quarters. */
const unitAt = (tick: Ticks) =>
  usualLength(tick, tick % TICKS_PER_COUNT === 8 || tick % TICKS_PER_COUNT === 16 ? 'triplet' : 'straight')

/** The part of the sheet between an anchor and the cursor, both included. */
function between(anchor: Anchor, tick: Ticks, layer: Layer): Marked {
  const [a, b] = [layerOrder(anchor.layer), layerOrder(layer)]
  const end = Math.max(anchor.tick, tick)
  return {
    from: Math.min(anchor.tick, tick),
    to: end + unitAt(end),
    layers: LAYERS.slice(Math.min(a, b), Math.max(a, b) + 1),
  }
}

/** The place on the page that keys and buttons act on; shared by the stations. */
export const useCursor = create<CursorState>((set) => ({
  tick: 0,
  layer: 'feet',
  cue: null,
  to: (tick, layer, cue) =>
    set((s) => {
      const at = { tick, layer: layer ?? s.layer, cue: cue ?? null }
      return s.anchor ? { ...at, marked: between(s.anchor, at.tick, at.layer) } : at
    }),
  marked: null,
  anchor: null,
  markFrom: (anchor) => set((s) => ({ anchor, marked: anchor && between(anchor, s.tick, s.layer) })),
  mark: (stretch) => set({ anchor: null, marked: stretch && { ...stretch, layers: LAYERS } }),
  loop: null,
  setLoop: (loop) => set({ loop }),
}))
