'use client'

import { useEffect, useMemo } from 'react'
import { create } from 'zustand'
import { type Move, type MoveBook, moveBook, STARTING_MOVES } from '@/core/choreo'
import { ApiError, fetchMoves, saveMoves } from './api'

const RETRY_MS = 2000

interface MovesState {
  moves: readonly Move[]
  revision: number
  loaded: boolean
  /** True while the list holds changes that the server does not have. */
  unsaved: boolean
  problem: string
  /** True when another window has saved a newer list: nothing is saved over it. */
  overtaken: boolean
  past: readonly (readonly Move[])[]
  load: () => Promise<void>
  edit: (change: (moves: readonly Move[]) => readonly Move[]) => void
  undo: () => void
  /** Takes the newer list of the other window; undo brings the own one back. */
  takeNewer: () => Promise<void>
}

/** A server that is away, or that failed, may come back; what it refuses will not pass by trying again. */
const mayPass = (error: unknown) =>
  error instanceof ApiError && (error.code === 'offline' || error.code === 'failed')
const wordsOf = (error: unknown) => (error instanceof Error ? error.message : String(error))

/** The instructor's move list: one for all routines, saved as it is changed, with its own undo. */
export const useMoves = create<MovesState>()((set, get) => {
  let busy = false
  let saved: readonly Move[] = STARTING_MOVES
  const save = async (): Promise<void> => {
    const { moves, revision, loaded, overtaken } = get()
    if (busy || !loaded || overtaken) return
    if (moves === saved) {
      set({ unsaved: false, problem: '' })
      return
    }
    busy = true
    try {
      const next = await saveMoves(revision, moves)
      saved = moves
      set({ revision: next, problem: '', unsaved: get().moves !== moves })
    } catch (error) {
      set({
        problem: wordsOf(error),
        overtaken: error instanceof ApiError && error.code === 'conflict',
      })
      busy = false
      if (mayPass(error)) setTimeout(save, RETRY_MS)
      return
    }
    busy = false
    if (get().moves !== moves) await save()
  }
  /** Takes the server's list; resolves to what went wrong, if anything did. */
  const take = async (past: readonly (readonly Move[])[]): Promise<unknown> => {
    try {
      const { moves, revision } = await fetchMoves()
      saved = moves
      set({ moves, revision, loaded: true, unsaved: false, problem: '', overtaken: false, past })
      return null
    } catch (error) {
      set({ problem: wordsOf(error) })
      return error
    }
  }
  return {
    moves: STARTING_MOVES,
    revision: 0,
    loaded: false,
    unsaved: false,
    problem: '',
    overtaken: false,
    past: [],
    load: async () => {
      const error = await take([])
      if (mayPass(error)) setTimeout(get().load, RETRY_MS)
    },
    edit: (change) => {
      const { moves, past, loaded } = get()
      // Before the list is here, an edit would be lost when it comes.
      if (!loaded) {
        set({ problem: 'Your move list is not here yet: nothing was changed.' })
        return
      }
      const next = change(moves)
      if (next === moves) return
      set({ moves: next, unsaved: true, past: [...past.slice(-99), moves] })
      save()
    },
    undo: () => {
      const { past } = get()
      const before = past.at(-1)
      if (!before) return
      set({ moves: before, unsaved: true, past: past.slice(0, -1) })
      save()
    },
    takeNewer: async () => {
      await take([get().moves])
    },
  }
})

/** The move list, ready for looking names up; asks the server for it once. */
export function useBook(): MoveBook {
  const moves = useMoves((s) => s.moves)
  const loaded = useMoves((s) => s.loaded)
  useEffect(() => {
    if (!loaded) useMoves.getState().load()
  }, [loaded])
  return useMemo(() => moveBook(moves), [moves])
}
