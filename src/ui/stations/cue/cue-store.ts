'use client'

import { nanoid } from 'nanoid'
import { createContext, useContext } from 'react'
import { createStore, useStore } from 'zustand'
import type { Alike, Leaning } from '@/core/choreo'
import type { DancedCue, Edit, Layer, Routine } from '@/core/routine'
import {
  CUE_AT_FIRST,
  type CueEffect,
  type CueEvent,
  type CueState,
  cueHere,
  cueOfFields,
  draftFor,
  type LineState,
  NO_LINE,
  type PastedLines,
  type ReadLine,
  type SheetLine,
  stepCue,
} from '@/core/station'
import type { Ticks } from '@/core/time'
import { keepCopied } from '../../state/copied'
import { useCursor } from '../../state/cursor'
import { didFirst } from '../../state/first-steps'
import type { Page } from '../../state/page'
import { say } from '../../state/spoken'
import type { RowLayout } from './row-layout'
import type { Choreo } from './use-choreo'

/** What the station looks at: worked out from the routine and the view, again when they change. */
export interface Looked {
  page: Page
  choreo: Choreo
  /** Layers that every row shows. */
  layers: readonly Layer[]
  layoutOf: (line: SheetLine) => RowLayout
  /** Pixels of one count. */
  pixels: number
  mirrored: boolean
  alikes: readonly Alike[]
  /** Where a move goes over the line between two phrases. */
  leaning: readonly Leaning[]
  /** The open line as it is read. */
  read: ReadLine | null
  /** Pasted lines as they are read; null where none were. */
  several: PastedLines | null
  playFrom: (tick: Ticks) => void
}

/** The world around the station. */
interface Around {
  routine: () => Routine
  edit: (did: string, change: Edit) => boolean
  playing: () => boolean
}

/** The line that is typed: what is looked at depends on it, so it is there before. */
export const makeLineStore = () => createStore<LineState>()(() => NO_LINE)
type LineStore = ReturnType<typeof makeLineStore>

interface CueStore extends Omit<CueState, 'cursor' | 'line'>, Looked {
  /** What stands at the cursor, and which of it is meant. */
  stack: readonly DancedCue[]
  here: DancedCue | null
  /** The cue whose fields are shown; null for a new one. */
  edited: DancedCue | null
  /** Tells the machine what happened (core/station/cue.ts), and does what it asks for. */
  send: (event: CueEvent) => void
  /** Takes over what is looked at now. */
  look: (looked: Looked) => void
  /** The cursor was moved, by whomever. */
  follow: () => void
}

export function makeCueStore(first: Looked, lines: LineStore, around: Around) {
  return createStore<CueStore>()((set, get) => {
    const obey = (effect: CueEffect) => {
      if (effect.kind === 'keep copied') keepCopied(effect.copied)
      else if (effect.kind === 'say') say(effect.words)
      else if (effect.kind === 'play from') get().playFrom(effect.tick)
      else if (effect.kind === 'wrote a line') didFirst('write')
      else if (effect.kind === 'focus sheet') focusSheet()
      else if (effect.kind === 'focus sheet later') requestAnimationFrame(takeFocusBack)
      else if (around.edit(effect.did, effect.change) && effect.after) get().send(effect.after)
    }
    /** What stands at the cursor, and the fields of it. */
    const hereNow = (shown: readonly DancedCue[], known?: Pick<CueStore, 'beside' | 'draft'>) => {
      const cursor = useCursor.getState()
      const found = cueHere(shown, cursor)
      const place = { beside: known?.beside ?? null, cursor }
      return {
        ...found,
        edited: cueOfFields(place, found.here),
        draft: draftFor(known?.draft ?? null, place, found.here, nanoid),
      }
    }
    return {
      ...CUE_AT_FIRST,
      ...first,
      ...hereNow(first.choreo.shown),
      send: (event) => {
        const { page, choreo, layers } = get()
        const seen = {
          ...{ lines: page.lines, placed: page.placed, shown: choreo.shown, findings: choreo.findings },
          times: page.times,
          ...{ layers, routine: around.routine(), playing: around.playing(), newId: nanoid },
        }
        const { state, effects } = stepCue(stateOf(get(), lines.getState()), event, seen)
        const { cursor, line, ...own } = state
        useCursor.setState(cursor)
        lines.setState(line)
        set({ ...own, ...hereNow(choreo.shown, own) })
        effects.forEach(obey)
      },
      look: (looked) => set({ ...looked, ...hereNow(looked.choreo.shown, get()) }),
      follow: () => set(hereNow(get().choreo.shown, get())),
    }
  })
}

/** The machine's state: the station's own, and the cursor all stations share. */
function stateOf(store: CueStore, line: LineState): CueState {
  const { tab, writing, beside, replacing, pressing, namingFrom, whole, draft } = store
  const { tick, layer, cue, marked, anchor, loop } = useCursor.getState()
  return {
    tab,
    writing,
    beside,
    replacing,
    pressing,
    namingFrom,
    whole,
    draft,
    line,
    cursor: { tick, layer, cue, marked, anchor, loop },
  }
}

const focusSheet = () => document.querySelector<HTMLElement>('[data-testid=sheet]')?.focus()

/** Once what had the focus is gone. On a busy page the next line may be open by then: whoever types in it goes on. */
function takeFocusBack(): void {
  if (!document.activeElement?.matches('input, textarea')) focusSheet()
}

type Store = ReturnType<typeof makeCueStore>

const Context = createContext<{ store: Store; lines: LineStore } | null>(null)
export const CueProvider = Context.Provider

function useStores() {
  const stores = useContext(Context)
  if (!stores) throw new Error('the Cue station is not open here')
  return stores
}

/** Reads from the Cue station. */
export const useCue = <T>(pick: (state: CueStore) => T): T => useStore(useStores().store, pick)

/** Reads the line that is typed. */
export const useCueLine = <T>(pick: (state: LineState) => T): T => useStore(useStores().lines, pick)
