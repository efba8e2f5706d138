'use client'

import { useEffect } from 'react'
import * as v from 'valibot'
import { create } from 'zustand'
import { type Move, type MoveBook, MoveListSchema, mergeMoves, moveBook, STARTING_MOVES } from '@/core/choreo'
import { wordsOf } from '@/core/formats/said'
import { alike, type Follows } from '@/core/routine'
import { fetchMoves, readMoves } from './api'
import { mayPass } from './ask-server'
import { DocumentSaves, type PageState, type SavedDocument } from './document-saves'
import { keepLast } from './keep-last'
import { outbox, outboxReady } from './outbox-window'
import { MOVES_DOCUMENT, putMoves } from './saved'

const RETRY_MS = 2000
/** Lists as they were, the last one before the list of now. */
type Past = readonly (readonly Move[])[]
const KEY = 'azalea-moves-past'
const Body = v.pipe(v.string(), v.parseJson(), v.object({ moves: MoveListSchema }))
const movesBody = (moves: readonly Move[]) => JSON.stringify({ moves })

/** The move list, as it is saved. */
const SAVED_MOVES: SavedDocument<readonly Move[], string> = {
  name: MOVES_DOCUMENT,
  read: (body) => {
    const read = v.safeParse(Body, body)
    return read.success ? read.output.moves : null
  },
  write: movesBody,
  put: putMoves,
  newer: async (revision) => {
    const now = await fetchMoves()
    if (now.revision <= revision) return null
    return { revision: now.revision, writer: now.madeBy.writer, body: movesBody(now.moves) }
  },
  merge: (base, mine, theirs, follow) => {
    const { moves, clashes } =
      follow === 'mine' ? mergeMoves(base, theirs, mine) : mergeMoves(base, mine, theirs)
    return { made: moves, clashes, said: [] }
  },
  isLarge: false,
}

/** Letters at most of what undo knows over a load of the page. */
const MOST = 300_000

interface MovesState {
  moves: readonly Move[]
  loaded: boolean
  /** Why the list is not here, or an edit was not taken; '' where nothing is wrong. */
  problem: string
  past: Past
  /** Names of the moves that another window changed too, otherwise: nothing is saved until the person chose. */
  clashes: readonly string[]
  load: () => Promise<void>
  edit: (change: (moves: readonly Move[]) => readonly Move[]) => void
  undo: () => void
  /** Chooses how the moves shall be that both changed, each otherwise; undo brings what was not chosen where that is not saved. */
  choose: (who: Follows) => Promise<void>
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
    if (!alike(of, moves) || !Array.isArray(past)) return []
    return past.map(readMoves)
  } catch {
    return []
  }
}

if (typeof window !== 'undefined') window.addEventListener('pagehide', keepPast)

/** The instructor's move list: one for all routines, saved as it is changed, with its own undo. */
export const useMoves = create<MovesState>()((set, get) => {
  let saves: DocumentSaves<readonly Move[], string> | null = null
  /** Shows a list and begins to save it. @returns true where a window that is gone had left something of it */
  const open = (moves: readonly Move[], page: PageState | null) => {
    saves?.close()
    set({ moves })
    saves = new DocumentSaves(
      SAVED_MOVES,
      page ?? { revision: 0 },
      {
        content: () => get().moves,
        pending: () => {},
        show: (list) => set({ moves: list, past: [] }),
        together: (list, _, carry, own) => {
          // Nearest first: before a step that touched what they changed there is no way back.
          const past: (readonly Move[])[] = []
          for (const before of [...get().past].reverse()) {
            const carried = carry(before)
            if (!carried) break
            past.unshift(carried)
          }
          set({ moves: list, past: own ? [...past, own] : past })
        },
        clashes: (clashes) => set({ clashes }),
        closed: false,
      },
      { box: outbox, ready: outboxReady },
    )
    return saves.resume(page, true)
  }
  const begin = () => set({ loaded: true, problem: '', past: pastOf(get().moves) })
  let loading: Promise<void> | null = null
  const load = async () => {
    await outboxReady()
    if (get().loaded) return
    try {
      const { moves, ...page } = await fetchMoves()
      await open(moves, page)
      begin()
    } catch (error) {
      // Where the server is away it goes on from what was left here.
      if (await open(get().moves, null)) return begin()
      set({ problem: wordsOf(error) })
      if (mayPass(error)) setTimeout(get().load, RETRY_MS)
    }
  }
  return {
    moves: STARTING_MOVES,
    loaded: false,
    problem: '',
    past: [],
    clashes: [],
    load: () => {
      // Many parts of a page ask for it: a second answer would take away what was edited after the first.
      loading ??= load().finally(() => {
        loading = null
      })
      return loading
    },
    edit: (change) => {
      const { moves, past, loaded } = get()
      // Before the list is here, an edit would be lost when it comes.
      if (!loaded) {
        set({ problem: 'Your move list is not here yet: nothing was changed.' })
        return
      }
      const changed = change(moves)
      if (changed === moves) return
      // As it will be stored: names in one line, without spaces around them.
      const read = v.safeParse(MoveListSchema, changed)
      if (!read.success) {
        set({ problem: `That cannot be kept: ${read.issues[0].message} Nothing was changed.` })
        return
      }
      if (alike(read.output, moves)) return
      set({ moves: read.output, problem: '', past: [...past.slice(-99), moves] })
      saves?.changed()
    },
    undo: () => {
      const { past } = get()
      const before = past.at(-1)
      if (!before) return
      set({ moves: before, past: past.slice(0, -1) })
      saves?.changed()
    },
    choose: async (who) => {
      const writer = outbox().state.getState().conflicts.get(MOVES_DOCUMENT)?.writer
      if (!saves || writer === undefined) return
      if (saves.standsOn(writer)) {
        set({ problem: await saves.bringTogether(who) })
        return
      }
      // It is a window that is gone that had it otherwise.
      const { moves, past } = get()
      const left = saves.withLeftBy(writer)
      if (!left && who === 'theirs') {
        set({ problem: 'What a closed window left cannot be read here. Nothing was changed.' })
        return
      }
      if (left && who === 'mine') set({ past: [...past, left] })
      if (left && who === 'theirs') {
        set({ moves: left, past: [...past, moves] })
        saves.changed()
      }
      outbox().giveUp(MOVES_DOCUMENT)
    },
  }
})

/** Asked for by many parts of a page: one book for one list. */
const bookOf = keepLast(moveBook)

/** The move list, ready for looking names up; asks the server for it once. */
export function useBook(): MoveBook {
  const moves = useMoves((s) => s.moves)
  const loaded = useMoves((s) => s.loaded)
  useEffect(() => {
    if (!loaded) useMoves.getState().load()
  }, [loaded])
  return bookOf(moves)
}
