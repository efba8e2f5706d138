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
  problem: string
  past: readonly (readonly Move[])[]
  load: () => Promise<void>
  edit: (change: (moves: readonly Move[]) => readonly Move[]) => void
  undo: () => void
}

/** The instructor's move list: one for all routines, saved as it is changed, with its own undo. */
export const useMoves = create<MovesState>()((set, get) => {
  let busy = false
  let saved: readonly Move[] = STARTING_MOVES
  const save = async (): Promise<void> => {
    const { moves, revision, loaded } = get()
    if (busy || !loaded || moves === saved) return
    busy = true
    try {
      const next = await saveMoves(revision, moves)
      saved = moves
      set({ revision: next, problem: '' })
    } catch (error) {
      set({ problem: error instanceof Error ? error.message : String(error) })
      busy = false
      // A server that is away may come back; what was changed elsewhere will not pass by trying again.
      if (error instanceof ApiError && error.code === 'offline') setTimeout(save, RETRY_MS)
      return
    }
    busy = false
    if (get().moves !== moves) await save()
  }
  return {
    moves: STARTING_MOVES,
    revision: 0,
    loaded: false,
    problem: '',
    past: [],
    load: async () => {
      try {
        const { moves, revision } = await fetchMoves()
        saved = moves
        set({ moves, revision, loaded: true, problem: '', past: [] })
      } catch (error) {
        set({ problem: error instanceof Error ? error.message : String(error) })
      }
    },
    edit: (change) => {
      const { moves, past, loaded } = get()
      // Before the list is here, an edit would be lost when it comes.
      if (!loaded) return
      const next = change(moves)
      if (next === moves) return
      set({ moves: next, past: [...past.slice(-99), moves] })
      save()
    },
    undo: () => {
      const { past } = get()
      const before = past.at(-1)
      if (!before) return
      set({ moves: before, past: past.slice(0, -1) })
      save()
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
