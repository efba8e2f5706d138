'use client'

import { nanoid } from 'nanoid'
import { create } from 'zustand'
import {
  type Clip,
  clear,
  clip,
  type DancedCue,
  mirrorStretch,
  paste,
  type Stretch,
  stretchCue,
  written,
} from '@/core/choreo'
import { LAYERS, type Layer, moveCue, type PlacedPhrase, phraseAt, putCue, removeCue } from '@/core/routine'
import { TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import type { Choreo } from './use-choreo'

/** What was copied last; it goes from routine to routine. */
const useTaken = create<{ clip: Clip | null }>(() => ({ clip: null }))
const keep = (clip: Clip) => useTaken.setState({ clip })

/** Where a marked stretch begins; it ends at the cursor. */
export interface Anchor {
  tick: Ticks
  layer: Layer
  /** Marked by pulling over the lanes: the next click ends it. */
  pulled?: boolean
}

/** The part of the sheet between an anchor and the cursor. */
export function stretchOf(anchor: Anchor, tick: Ticks, layer: Layer): Stretch {
  const [a, b] = [LAYERS.indexOf(anchor.layer), LAYERS.indexOf(layer)]
  const step = (t: Ticks) => (t % TICKS_PER_COUNT === 0 ? TICKS_PER_COUNT : TICKS_PER_COUNT / 2)
  const end = Math.max(anchor.tick, tick)
  return {
    from: Math.min(anchor.tick, tick),
    to: end + step(end),
    layers: LAYERS.slice(Math.min(a, b), Math.max(a, b) + 1),
  }
}

/** What keys and buttons do to cues: to the marked stretch, else to the cue at the cursor, else to the phrase. */
export function useEdits(page: Page, choreo: Choreo, here: DancedCue | null, anchor: Anchor | null) {
  const edit = useRoutine((s) => s.edit)
  const { tick, layer, to } = useCursor()
  const from = useTaken((s) => s.clip)
  const row = phraseAt(page.placed, tick)
  const whole = (p: PlacedPhrase): Stretch => ({ from: p.start, to: p.end, layers: LAYERS })
  const one = (c: DancedCue): Stretch => ({ from: c.at, to: c.at + 1, layers: [c.layer] })
  const chosen = (): Stretch | null =>
    anchor ? stretchOf(anchor, tick, layer) : here ? one(here) : row ? whole(row) : null
  const name = anchor ? 'the stretch' : here ? `“${here.move}”` : 'the phrase'
  return {
    canPaste: from !== null,
    copy: () => {
      const s = chosen()
      if (s) keep(clip(choreo.shown, s))
    },
    cut: () => {
      const s = chosen()
      if (!s) return
      keep(clip(choreo.shown, s))
      edit(`cut ${name}`, (r) => clear(r, s))
    },
    paste: () => {
      if (!from || !row) return
      // A whole phrase goes to the beginning of one.
      const at = from.length >= 24 * 4 && !anchor && !here ? row.start : tick
      edit('paste', (r) => paste(r, from, at, nanoid))
    },
    /** Takes away; what is linked from elsewhere is held instead. */
    take: () => {
      if (!anchor && here?.link) {
        const held = { ...written(here), id: nanoid(), move: 'hold', side: 'none' as const, call: '' }
        edit(`leave “${here.move}” out here`, (r) => putCue(r, held))
      } else if (!anchor && here) edit(`delete “${here.move}”`, (r) => removeCue(r, here.id))
      else if (anchor) edit('delete the stretch', (r) => clear(r, stretchOf(anchor, tick, layer)))
    },
    mirror: () => {
      const s = chosen()
      if (s) edit(`${name} to the other side`, (r) => mirrorStretch(r, s))
    },
    mirrorRow: () => {
      if (row) edit('the phrase to the other side', (r) => mirrorStretch(r, whole(row)))
    },
    duplicate: () => {
      const next = row && page.placed[row.index + 1]
      if (!row || !next) return
      edit('copy to the next phrase', (r) => paste(r, clip(choreo.shown, whole(row)), next.start, nanoid))
      to(next.start)
    },
    shift: (by: Ticks) => {
      if (!here || here.link) return
      edit('move a cue', (r) => moveCue(r, here.id, by))
      to(Math.max(0, here.at + by))
    },
    lengthen: (by: Ticks) => {
      if (here && !here.link)
        edit(by > 0 ? 'a longer cue' : 'a shorter cue', (r) => stretchCue(r, here.id, by))
    },
  }
}

export type Edits = ReturnType<typeof useEdits>
