'use client'

import { nanoid } from 'nanoid'
import { useEffect, useMemo } from 'react'
import { create } from 'zustand'
import { type Move, type MoveBook, moveBook, STARTING_MOVES } from '@/core/choreo'
import { ApiError, fetchMoves, readMoves } from './api'
import { outboxReady } from './outbox-window'
import { MOVES_DOCUMENT, putMoves, type Saving } from './saved'

const RETRY_MS = 2000
/** Lists as they were, the last one before the list of now. */
type Past = readonly (readonly Move[])[]
const KEY = 'azalea-moves-past'
/** Letters at most of what undo knows over a load of the page. */
const MOST = 300_000

interface MovesState {
  moves: readonly Move[]
  loaded: boolean
  /** Why the list is not here, or an edit was not taken; '' where nothing is wrong. */
  problem: string
  past: Past
  load: () => Promise<void>
  edit: (change: (moves: readonly Move[]) => readonly Move[]) => void
  undo: () => void
  /** Takes the newer list of the other window; undo brings the own one back. */
  takeNewer: () => Promise<void>
}

/** Writes down what undo of the list knows, for this window's next page. */
function keepPast(): void {
  const { moves, past, loaded } = useMoves.getState()
  // A page that never asked for the list leaves what is known of it.
  if (!loaded) return
  const of = JSON.stringify(moves)
  const lists: string[] = []
  let room = MOST - of.length
  for (const list of [...past].reverse()) {
    const text = JSON.stringify(list)
    room -= text.length
    if (room < 0) break
    lists.unshift(text)
  }
  try {
    sessionStorage.setItem(KEY, `{"of":${of},"past":[${lists.join()}]}`)
  } catch {
    // A browser that keeps nothing begins undo anew with each page.
  }
}

/** What undo knew of this very list before the page was loaded. */
function pastOf(moves: readonly Move[]): Past {
  try {
    const { of, past } = JSON.parse(sessionStorage.getItem(KEY) ?? '') as Record<'of' | 'past', unknown>
    if (JSON.stringify(of) !== JSON.stringify(moves) || !Array.isArray(past)) return []
    return past.map(readMoves)
  } catch {
    return []
  }
}

if (typeof window !== 'undefined') window.addEventListener('pagehide', keepPast)

/** A server that is away, or that failed, may come back; what it refuses will not pass by trying again. */
const mayPass = (error: unknown) =>
  error instanceof ApiError && (error.code === 'offline' || error.code === 'failed')
const wordsOf = (error: unknown) => (error instanceof Error ? error.message : String(error))

/** The instructor's move list: one for all routines, saved as it is changed, with its own undo. */
export const useMoves = create<MovesState>()((set, get) => {
  let saving: Saving = { revision: 0, writer: nanoid(12), save: 0 }
  const save = () => {
    saving = { ...saving, save: saving.save + 1 }
    // How it stands is told by the outbox.
    putMoves(saving, get().moves).catch(() => {})
  }
  /** Takes the server's list; resolves to what went wrong, if anything did. */
  const take = async (past: (moves: readonly Move[]) => Past): Promise<unknown> => {
    try {
      const { moves, revision } = await fetchMoves()
      saving = { revision, writer: nanoid(12), save: 0 }
      set({ moves, loaded: true, problem: '', past: past(moves) })
      return null
    } catch (error) {
      set({ problem: wordsOf(error) })
      return error
    }
  }
  return {
    moves: STARTING_MOVES,
    loaded: false,
    problem: '',
    past: [],
    load: async () => {
      const box = await outboxReady()
      const waiting = box.waitingOf(MOVES_DOCUMENT)
      if (waiting && !get().loaded) {
        // A window that is gone left changes behind: it goes on from them.
        try {
          const { moves, ...was } = JSON.parse(waiting.body) as Saving & { moves: unknown }
          saving = { revision: was.revision, writer: was.writer, save: was.save }
          const list = readMoves(moves)
          set({ moves: list, loaded: true, problem: '', past: pastOf(list) })
          return
        } catch {
          // It cannot be read: the server's list it is.
        }
      }
      const error = await take(pastOf)
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
      set({ moves: next, problem: '', past: [...past.slice(-99), moves] })
      save()
    },
    undo: () => {
      const { past } = get()
      const before = past.at(-1)
      if (!before) return
      set({ moves: before, past: past.slice(0, -1) })
      save()
    },
    takeNewer: async () => {
      const mine = get().moves
      const error = await take(() => [mine])
      if (!error) (await outboxReady()).giveUp(MOVES_DOCUMENT)
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
