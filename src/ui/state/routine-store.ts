'use client'

import { createContext, useContext } from 'react'
import { temporal } from 'zundo'
import { createStore, type StoreApi, useStore } from 'zustand'
import type { Routine } from '@/core/routine'
import { ApiError, saveRoutine } from './api'

/** Whether what is on the screen is in the database. */
export type Saving =
  | { kind: 'saved' }
  | { kind: 'saving' }
  | { kind: 'failed'; why: string }
  | { kind: 'conflict'; why: string }

interface RoutineState {
  routine: Routine
  /** What the last edit did, for the undo button. */
  did: string
  saving: Saving
  /** Number of the last saved edit. */
  revision: number
  /** Makes an edit: one undo step, saved at once. An edit that changes nothing is none. */
  edit: (did: string, change: (routine: Routine) => Routine) => void
  /** Replaces the page by what was just heard; not a step a person made. */
  laidOut: (change: (routine: Routine) => Routine) => void
}

const RETRY_MS = 2000
const STEPS = 300

/** The open routine: its document, undo and redo, and saving. */
function makeRoutineStore(id: string, routine: Routine, revision: number) {
  const store = createStore<RoutineState>()(
    temporal(
      (set, get) => ({
        routine,
        did: '',
        saving: { kind: 'saved' } as Saving,
        revision,
        edit: (did, change) => {
          const next = change(get().routine)
          if (next !== get().routine) set({ routine: next, did })
        },
        laidOut: (change) => {
          const time = store.temporal.getState()
          time.pause()
          set({ routine: change(get().routine), did: '' })
          time.resume()
          time.clear()
        },
      }),
      {
        limit: STEPS,
        partialize: ({ routine: r, did }) => ({ routine: r, did }),
        equality: (a, b) => a.routine === b.routine,
      },
    ),
  )
  autosave(store, id)
  return store
}

export type RoutineStore = ReturnType<typeof makeRoutineStore>

const opened = new Map<string, RoutineStore>()

/**
 * The store of a routine: the one already open in this window unless the server has something newer. Going back in the
 * browser's history shows a page as it was first sent, which is older than what was edited since.
 */
export function openRoutineStore(id: string, routine: Routine, revision: number): RoutineStore {
  const known = opened.get(id)
  if (known && known.getState().revision >= revision && known.getState().saving.kind !== 'conflict')
    return known
  const store = makeRoutineStore(id, routine, revision)
  if (typeof window !== 'undefined') opened.set(id, store)
  return store
}

/** Saves each new document; edits made while one is on its way are saved together after it. */
function autosave(store: StoreApi<RoutineState>, id: string) {
  let saved = store.getState().routine
  let busy = false
  const say = (saving: Saving) => store.setState({ saving })

  async function save() {
    const { routine, saving, revision } = store.getState()
    if (busy || saving.kind === 'conflict') return
    // Done and undone before it was written down: there is nothing to save.
    if (routine === saved) {
      if (saving.kind === 'saving') say({ kind: 'saved' })
      return
    }
    busy = true
    say({ kind: 'saving' })
    let again = 0
    try {
      store.setState({ revision: await saveRoutine(id, revision, routine) })
      saved = routine
      say({ kind: 'saved' })
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error)
      const code = error instanceof ApiError ? error.code : 'failed'
      say({ kind: code === 'conflict' ? 'conflict' : 'failed', why })
      // Refused content will not pass by trying again; a server that is away may come back.
      if (code === 'offline' || code === 'failed') again = RETRY_MS
    }
    busy = false
    if (again) setTimeout(save, again)
    else if (store.getState().routine !== saved && store.getState().saving.kind === 'saved') save()
  }
  let due = false
  const go = () => {
    if (!due) return
    due = false
    save()
  }
  /** What was done is painted first; writing a large document down takes a moment. */
  const soon = () => {
    if (due) return
    due = true
    if (typeof requestAnimationFrame === 'function' && !document.hidden)
      requestAnimationFrame(() => setTimeout(go))
    else go()
  }
  // A page out of sight is not painted any more.
  if (typeof document !== 'undefined')
    document.addEventListener('visibilitychange', () => document.hidden && go())
  store.subscribe((now, before) => {
    if (now.routine === before.routine) return
    if (now.saving.kind === 'saved') say({ kind: 'saving' })
    soon()
  })
}

const Context = createContext<RoutineStore | null>(null)
export const RoutineProvider = Context.Provider

function useRoutineStore(): RoutineStore {
  const store = useContext(Context)
  if (!store) throw new Error('no routine is open here')
  return store
}

/** Reads from the open routine's store. */
export function useRoutine<T>(pick: (state: RoutineState) => T): T {
  return useStore(useRoutineStore(), pick)
}

/** Undo and redo, with what they would take back or bring again. */
export function useUndo() {
  const store = useRoutineStore()
  const past = useStore(store.temporal, (t) => t.pastStates.length)
  const future = useStore(store.temporal, (t) => t.futureStates)
  const did = useStore(store, (s) => s.did)
  return {
    undo: past > 0 ? () => store.temporal.getState().undo() : null,
    redo: future.length > 0 ? () => store.temporal.getState().redo() : null,
    undoName: past > 0 ? did : '',
    redoName: future.at(-1)?.did ?? '',
  }
}
