'use client'

import { nanoid } from 'nanoid'
import { create } from 'zustand'
import {
  type Copied,
  clear,
  copied,
  type DancedCue,
  LAYERS,
  lengthenCue,
  type Marked,
  mirrorMarked,
  moveCue,
  type PlacedPhrase,
  paste,
  phraseAt,
  removeCue,
} from '@/core/routine'
import { TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import type { Choreo } from './use-choreo'

/** What was copied last; it goes from routine to routine. */
const useTaken = create<{ taken: Copied | null }>(() => ({ taken: null }))
const keep = (taken: Copied) => useTaken.setState({ taken })

/** What keys and buttons do to cues: to what is marked, else to the cue at the cursor, else to the phrase. */
export function useEdits(page: Page, choreo: Choreo, here: DancedCue | null, marked: Marked | null) {
  const edit = useRoutine((s) => s.edit)
  const { tick, to } = useCursor()
  const taken = useTaken((s) => s.taken)
  const row = phraseAt(page.placed, tick)
  const whole = (p: PlacedPhrase): Marked => ({ from: p.start, to: p.end, layers: LAYERS })
  const one = (c: DancedCue): Marked => ({ from: c.at, to: c.at + 1, layers: [c.layer] })
  const chosen = (): Marked | null => marked ?? (here ? one(here) : row ? whole(row) : null)
  const name = marked ? 'what is marked' : here ? `“${here.move}”` : 'the phrase'
  return {
    canPaste: taken !== null,
    copy: () => {
      const m = chosen()
      if (m) keep(copied(choreo.shown, m))
    },
    cut: () => {
      const m = chosen()
      if (!m) return
      keep(copied(choreo.shown, m))
      edit(`cut ${name}`, (r) => clear(r, m, nanoid))
    },
    paste: () => {
      if (!taken || !row) return
      // A whole phrase goes to the beginning of one.
      const at = taken.length >= TICKS_PER_COUNT * 4 && !marked && !here ? row.start : tick
      edit('paste', (r) => paste(r, taken, at, nanoid))
    },
    take: () => {
      if (marked) edit('delete what is marked', (r) => clear(r, marked, nanoid))
      else if (here) edit(`delete “${here.move}”`, (r) => removeCue(r, here.id, nanoid))
    },
    mirror: () => {
      const m = chosen()
      if (m) edit(`${name} to the other side`, (r) => mirrorMarked(r, m, nanoid))
    },
    mirrorRow: () => {
      if (row) edit('the phrase to the other side', (r) => mirrorMarked(r, whole(row), nanoid))
    },
    duplicate: () => {
      const next = row && page.placed[row.index + 1]
      if (!row || !next) return
      edit('copy to the next phrase', (r) => paste(r, copied(choreo.shown, whole(row)), next.start, nanoid))
      to(next.start)
    },
    shift: (by: Ticks) => {
      if (!here || here.link) return
      if (edit('move a cue', (r) => moveCue(r, here.id, by))) to(Math.max(0, here.at + by))
    },
    lengthen: (by: Ticks) => {
      if (here && !here.link)
        edit(by > 0 ? 'a longer cue' : 'a shorter cue', (r) => lengthenCue(r, here.id, by))
    },
  }
}

export type Edits = ReturnType<typeof useEdits>
