'use client'

import { nanoid } from 'nanoid'
import { create } from 'zustand'
import { useShallow } from 'zustand/react/shallow'
import {
  type Copied,
  clear,
  copied,
  type DancedCue,
  LAYERS,
  lengthenCue,
  type Marked,
  mirrorCue,
  mirrorMarked,
  moveCue,
  type PlacedPhrase,
  paste,
  phraseAt,
  printCopied,
  putCue,
  readCopied,
  removeCue,
  written,
} from '@/core/routine'
import { TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import type { Choreo } from './use-choreo'

/** What was copied last, and as what text it went to the clipboard; it goes from routine to routine. */
const useTaken = create<{ taken: Copied | null; text: string }>(() => ({ taken: null, text: '' }))
/** @returns the text for the clipboard */
const keep = (taken: Copied): string => {
  const text = printCopied(taken)
  useTaken.setState({ taken, text })
  return text
}
/** A button may write to the clipboard; where the browser does not let it, what was copied stays in this window. */
const toClipboard = (text: string | null) => {
  if (text) navigator.clipboard?.writeText(text).catch(() => {})
}

/** What keys and buttons do to cues: to what is marked, else to the cue at the cursor, else to the phrase. */
export function useEdits(page: Page, choreo: Choreo, here: DancedCue | null, marked: Marked | null) {
  const edit = useRoutine((s) => s.edit)
  const { tick, layer, to } = useCursor(useShallow(({ tick, layer, to }) => ({ tick, layer, to })))
  const taken = useTaken((s) => s.taken)
  const row = phraseAt(page.placed, tick)
  const whole = (p: PlacedPhrase): Marked => ({ from: p.start, to: p.end, layers: LAYERS })
  const one = (c: DancedCue): Marked => ({ from: c.at, to: c.at + 1, layers: [c.layer] })
  const chosen = (): Marked | null => marked ?? (here ? one(here) : row ? whole(row) : null)
  const name = marked ? 'what is marked' : here ? `“${here.move}”` : 'the phrase'
  const take = (): string | null => {
    const m = chosen()
    // Of several that stand at one place, the one that is meant alone.
    return m ? keep(copied(!marked && here ? [here] : choreo.shown, m)) : null
  }
  const remove = () => {
    if (marked) edit('delete what is marked', (r) => clear(r, marked, nanoid))
    else if (here) edit(`delete “${here.move}”`, (r) => removeCue(r, here.id, nanoid))
  }
  return {
    canPaste: taken !== null,
    take: remove,
    copied: take,
    copy: () => toClipboard(take()),
    cut: () => {
      const m = chosen()
      const text = take()
      if (m)
        edit(`cut ${name}`, (r) => (!marked && here ? removeCue(r, here.id, nanoid) : clear(r, m, nanoid)))
      return text
    },
    paste: (text?: string) => {
      if (!row) return
      // What was copied here is more than its text says; what comes from elsewhere is read.
      const known = useTaken.getState()
      const own = !text?.trim() || text.replace(/\r/g, '').trim() === known.text.trim() ? known.taken : null
      if (!own && !text?.trim()) return
      edit('paste', (r) => {
        const from = own ?? readCopied(text ?? '', layer)
        // A whole phrase goes to the beginning of one.
        const at = from.length >= TICKS_PER_COUNT * 4 && !marked && !here ? row.start : tick
        return paste(r, from, at, nanoid)
      })
    },
    mirror: () => {
      const m = chosen()
      const alone = !marked && here && !here.link ? written(here) : null
      if (m)
        edit(`${name} to the other side`, (r) =>
          alone ? putCue(r, mirrorCue(alone)) : mirrorMarked(r, m, nanoid),
        )
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
