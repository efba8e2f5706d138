'use client'

import { nanoid } from 'nanoid'
import { createContext, useContext } from 'react'
import { temporal } from 'zundo'
import { createStore, type StoreApi, useStore } from 'zustand'
import { commit, type Edit, type Routine, readRoutine } from '@/core/routine'
import { outbox, outboxReady } from './outbox-window'
import { keepPast } from './routine-past'
import { putRoutine, routineDocument, type Saving } from './saved'

/** What an edit said beside doing what was asked: what it took away, or why it was refused. */
export interface Notice {
  kind: 'took' | 'refused'
  text: string
}

interface RoutineState {
  routine: Routine
  /** What the last edit did, for the undo button. */
  did: string
  notice: Notice | null
  /** Done, and not yet handed to the outbox. */
  pending: boolean
  /** It was written by a newer version: every edit is refused. */
  newer: boolean
  /** Makes an edit through the gate: one undo step, saved at once. @returns false where it was refused */
  edit: (did: string, change: Edit) => boolean
  /** Replaces the page by what was just heard; not a step a person made. */
  laidOut: (change: Edit) => void
  /** The notice was read. */
  read: () => void
}

const STEPS = 300
/** Open routines that are kept in the window beside the one that is shown. */
const KEPT = 6

/** The open routine: its document, undo and redo, and saving. */
function makeRoutineStore(id: string, routine: Routine, revision: number, newer: boolean) {
  const store = createStore<RoutineState>()(
    temporal(
      (set, get) => ({
        routine,
        did: '',
        notice: null as Notice | null,
        pending: false,
        newer,
        edit: (did, change) => {
          if (newer) {
            set({
              notice: {
                kind: 'refused',
                text: 'Nothing was changed: a newer version of Azalea wrote this routine.',
              },
            })
            return false
          }
          const result = commit(get().routine, change)
          if (!result.done) {
            set({ notice: { kind: 'refused', text: result.why } })
            return false
          }
          const notice = result.said.length ? { kind: 'took' as const, text: result.said.join(' ') } : null
          if (result.routine !== get().routine) set({ routine: result.routine, did, notice })
          else if (notice || get().notice) set({ notice })
          return true
        },
        laidOut: (change) => {
          if (newer) return
          const result = commit(get().routine, change)
          if (!result.done) return
          const time = store.temporal.getState()
          time.pause()
          set({ routine: result.routine, did: '', notice: null })
          time.resume()
          time.clear()
        },
        read: () => set({ notice: null }),
      }),
      {
        limit: STEPS,
        partialize: ({ routine: r, did }) => ({ routine: r, did }),
        equality: (a, b) => a.routine === b.routine,
      },
    ),
  )
  const saves = autosave(store, id, revision, (kept) => {
    const time = store.temporal.getState()
    time.pause()
    store.setState({ routine: kept, did: '' })
    time.resume()
    time.clear()
  })
  return Object.assign(store, { saves })
}

export type RoutineStore = ReturnType<typeof makeRoutineStore>
type Store = StoreApi<RoutineState>

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
  revision: number,
  newer = false,
): RoutineStore {
  const known = opened.get(id)
  if (known && (known.saves.busy() || known.saves.revision() >= revision)) {
    // Opened last, evicted last.
    opened.delete(id)
    opened.set(id, known)
    return known
  }
  known?.saves.close()
  const store = makeRoutineStore(id, routine, revision, newer)
  if (typeof window === 'undefined') return store
  if (opened.size === 0) window.addEventListener('pagehide', keepPasts)
  opened.set(id, store)
  for (const [old, kept] of opened) {
    if (opened.size <= KEPT || old === id) break
    if (kept.saves.busy()) continue
    kept.saves.close()
    opened.delete(old)
  }
  return store
}

/**
 * Hands each new document to the outbox. What a window that is gone had not saved yet is taken up again first.
 */
function autosave(store: Store, id: string, opening: number, replace: (routine: Routine) => void) {
  let saving: Saving = { revision: opening, writer: nanoid(12), save: 0 }
  let saved = store.getState().routine
  let last: Routine | null = null
  let answered = 0
  let due = false
  let quiet = false

  const go = () => {
    if (!due) return
    due = false
    const { routine } = store.getState()
    store.setState({ pending: false })
    // Done and undone before it was written down: there is nothing to save.
    if (routine === (last ?? saved)) return outbox().forgive(routineDocument(id))
    const mine = saving.save + 1
    saving = { ...saving, save: mine }
    last = routine
    putRoutine(id, saving, routine).then(
      (answer) => {
        const revision = (answer as { revision?: unknown } | null)?.revision
        if (typeof revision === 'number') saving = { ...saving, revision }
        saved = routine
        answered = Math.max(answered, mine)
      },
      () => {
        // Told by the outbox; the next edit sends the whole document again.
        answered = Math.max(answered, mine)
        if (last === routine) last = null
      },
    )
  }
  /** What was done is painted first; writing a large document down takes a moment. */
  const soon = () => {
    if (due) return
    due = true
    store.setState({ pending: true })
    if (typeof requestAnimationFrame === 'function' && !document.hidden)
      requestAnimationFrame(() => setTimeout(go))
    else go()
  }
  const hidden = () => document.hidden && go()
  // A page out of sight is not painted any more.
  if (typeof document !== 'undefined') document.addEventListener('visibilitychange', hidden)
  const forget = store.subscribe((now, before) => {
    if (now.routine !== before.routine && !quiet) soon()
  })
  return {
    revision: () => saving.revision,
    write: go,
    /** True while something of it is not saved. */
    busy: () => due || answered < saving.save,
    /**
     * Goes on from what a window that is gone had not saved.
     * @returns true where there was something
     */
    resume: async (): Promise<boolean> => {
      if (store.getState().newer) return false
      const waiting = (await outboxReady()).waitingOf(routineDocument(id))
      if (!waiting || saving.save > 0 || due) return false
      try {
        const { routine, ...was } = JSON.parse(waiting.body) as Saving & { routine: unknown }
        const kept = readRoutine(routine).routine
        saving = { revision: was.revision, writer: was.writer, save: was.save }
        answered = was.save
        saved = kept
        last = null
        quiet = true
        replace(kept)
        quiet = false
        return true
      } catch {
        return false
      }
    },
    close: () => {
      go()
      forget()
      if (typeof document !== 'undefined') document.removeEventListener('visibilitychange', hidden)
    },
  }
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
  const step = (by: 'undo' | 'redo') => () => {
    store.getState().read()
    store.temporal.getState()[by]()
  }
  return {
    undo: past > 0 ? step('undo') : null,
    redo: future.length > 0 ? step('redo') : null,
    undoName: past > 0 ? did : '',
    redoName: future.at(-1)?.did ?? '',
  }
}
