'use client'

import { createContext, useContext } from 'react'
import { temporal } from 'zundo'
import { createStore, useStore } from 'zustand'
import { type Clash, commit, type Edit, NEWER_WORDS, type Routine } from '@/core/routine'
import { DocumentSaves, type PageState } from './document-saves'
import { outbox, outboxReady } from './outbox-window'
import { keepPast } from './routine-past'
import { type RoutineSaves, savedRoutine } from './routine-saves'
import { say } from './spoken'

/** What an edit said beside doing what was asked: what it took away, or why it was refused. */
export interface Notice {
  kind: 'took' | 'refused'
  text: string
}

/** Why a routine is looked at and not changed, as it is told and as an edit is refused. */
export const CLOSED = {
  newer: { told: NEWER_WORDS, why: 'a newer version of Azalea wrote this routine.' },
  shared: {
    told: 'This routine is shared with you to look at, to dance and to log for yourself. What is its owner’s to change is not changed here.',
    why: 'this routine is shared with you to look at.',
  },
} as const
export type Closed = keyof typeof CLOSED

/** Why a routine is not changed here; null where it is. */
export const closedBy = (newer: boolean, right: 'look' | 'teach' | 'edit' | 'own'): Closed | null =>
  newer ? 'newer' : right === 'look' || right === 'teach' ? 'shared' : null

interface RoutineState {
  id: string
  routine: Routine
  /** What the last edit did, for the undo button. */
  did: string
  notice: Notice | null
  /** Done, and not yet handed to the outbox. */
  pending: boolean
  /** Why every edit is refused; null where it may be changed. */
  closed: Closed | null
  /** Makes an edit through the gate: one undo step, saved at once. @returns false where it was refused */
  edit: (did: string, change: Edit) => boolean
  /** Replaces the page by what was just heard; not a step a person made. */
  laidOut: (change: Edit) => void
  /** The notice was read. */
  read: () => void
  /** What somebody else changed too, otherwise: nothing of this is saved until the person chose. */
  clashes: readonly Clash[]
}

const STEPS = 300
/** So many of them are carried over what somebody else did. */
const CARRIED = 60
/** Open routines that are kept in the window beside the one that is shown. */
const KEPT = 6

/** The open routine: its document, undo and redo, and saving. */
function makeRoutineStore(id: string, routine: Routine, page: PageState, closed: Closed | null) {
  /** What the person did before it was known what a closed window left. */
  let early: { did: string; change: Edit }[] = []
  const store = createStore<RoutineState>()(
    temporal(
      (set, get) => ({
        id,
        routine,
        did: '',
        notice: null as Notice | null,
        pending: false,
        closed,
        edit: (did, change) => {
          if (closed) {
            set({ notice: { kind: 'refused', text: `Nothing was changed: ${CLOSED[closed].why}` } })
            return false
          }
          const result = commit(get().routine, change)
          if (!result.done) {
            set({ notice: { kind: 'refused', text: result.why } })
            return false
          }
          const notice = result.said.length ? { kind: 'took' as const, text: result.said.join(' ') } : null
          if (!saves.isReady && result.routine !== get().routine) early.push({ did, change })
          if (result.routine !== get().routine) {
            set({ routine: result.routine, did, notice })
            say(`Done: ${did}.`)
          } else if (notice || get().notice) set({ notice })
          return true
        },
        laidOut: (change) => {
          if (closed) return
          const result = commit(get().routine, change)
          if (!result.done) return
          quietly(result.routine)
        },
        read: () => set({ notice: null }),
        clashes: [],
      }),
      {
        limit: STEPS,
        partialize: ({ routine: r, did }) => ({ routine: r, did }),
        equality: (a, b) => a.routine === b.routine,
      },
    ),
  )
  const quietly = (next: Routine) => {
    const time = store.temporal.getState()
    time.pause()
    store.setState({ routine: next, did: '', notice: null })
    time.resume()
    time.clear()
  }
  const saves: RoutineSaves = new DocumentSaves(
    savedRoutine(id),
    page,
    {
      content: () => store.getState().routine,
      pending: (pending) => store.setState({ pending }),
      show: (next) => {
        quietly(next)
        const again = early
        early = []
        for (const { did, change } of again) store.getState().edit(did, change)
      },
      together: (next, said, carry, own) => {
        const { pastStates } = store.temporal.getState()
        // Nearest first: before a step that touched what they changed there is no way back.
        const past: typeof pastStates = []
        for (const step of pastStates.slice(-CARRIED).reverse()) {
          const routine = step.routine && carry(step.routine)
          if (!routine) break
          past.unshift({ ...step, routine })
        }
        const { did } = store.getState()
        if (own) past.push({ routine: own, did })
        quietly(next)
        store.temporal.setState({ pastStates: past })
        // What one could not keep beside what the other did is told like what an edit takes away.
        const notice = said.length ? { kind: 'took' as const, text: said.join(' ') } : null
        store.setState({ did: own ? 'take what they did' : past.length ? did : '', notice })
        say('What somebody else did here was taken over.')
      },
      clashes: (clashes) => store.setState({ clashes }),
      closed: closed !== null,
    },
    { box: outbox, ready: outboxReady },
  )
  store.subscribe((now, before) => {
    if (now.routine !== before.routine) saves.changed()
  })
  return Object.assign(store, { saves })
}

export type RoutineStore = ReturnType<typeof makeRoutineStore>

const opened = new Map<string, RoutineStore>()

/** What undo knows outlives a load of the page. */
function keepPasts(): void {
  for (const [id, store] of opened) keepPast(id, store)
}

/** Hands what was done last to the outbox without waiting for the paint. */
export function writeDown(): void {
  for (const store of opened.values()) store.saves.write()
}

/**
 * The store of a routine: the one already open in this window unless the server has something newer. Going back in the
 * browser's history shows a page as it was first sent, which is older than what was edited since.
 */
export function openRoutineStore(
  id: string,
  routine: Routine,
  page: PageState,
  closed: Closed | null = null,
): RoutineStore {
  const known = opened.get(id)
  if (
    known &&
    known.getState().closed === closed &&
    (known.saves.busy || known.saves.revision >= page.revision)
  ) {
    // Opened last, evicted last.
    opened.delete(id)
    opened.set(id, known)
    return known
  }
  known?.saves.close()
  const store = makeRoutineStore(id, routine, page, closed)
  if (typeof window === 'undefined') return store
  if (opened.size === 0) window.addEventListener('pagehide', keepPasts)
  opened.set(id, store)
  for (const [old, kept] of opened) {
    if (opened.size <= KEPT + 1 || old === id) break
    if (kept.saves.busy) continue
    kept.saves.close()
    opened.delete(old)
  }
  return store
}

const Context = createContext<RoutineStore | null>(null)
export const RoutineProvider = Context.Provider

/** The store of the open routine, for what reads it when something happens. */
export function useRoutineStore(): RoutineStore {
  const store = useContext(Context)
  if (!store) throw new Error('no routine is open here')
  return store
}

/** Reads from the open routine's store. */
export function useRoutine<T>(pick: (state: RoutineState) => T): T {
  return useStore(useRoutineStore(), pick)
}

/** True where the page stands on the saves of a window: its own, or those it took up of one that is gone. */
export const useStandsOn = (writer: string): boolean => useRoutineStore().saves.standsOn(writer)

/** Undo and redo, with what they would take back or bring again. */
export function useUndo() {
  const store = useRoutineStore()
  const past = useStore(store.temporal, (t) => t.pastStates.length)
  const future = useStore(store.temporal, (t) => t.futureStates)
  const did = useStore(store, (s) => s.did)
  const undoName = past > 0 ? did : ''
  const redoName = future.at(-1)?.did ?? ''
  const step = (by: 'undo' | 'redo') => () => {
    store.getState().read()
    store.temporal.getState()[by]()
    say(by === 'undo' ? `Undone: ${undoName}.` : `Done again: ${redoName}.`)
  }
  return {
    undo: past > 0 ? step('undo') : null,
    redo: future.length > 0 ? step('redo') : null,
    undoName,
    redoName,
  }
}
