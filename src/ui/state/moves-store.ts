'use client'

import { useEffect } from 'react'
import * as v from 'valibot'
import { create } from 'zustand'
import { type Move, type MoveBook, MoveListSchema, mergeMoves, moveBook, STARTING_MOVES } from '@/core/choreo'
import { wordsOf } from '@/core/formats/said'
import { fetchMoves, mayPass, readMoves } from './api'
import { keepLast } from './keep-last'
import type { Outbox } from './outbox'
import { outbox, outboxReady } from './outbox-window'
import { SaveLine } from './save-line'
import { MOVES_DOCUMENT, putMoves } from './saved'

const RETRY_MS = 2000
/** Lists as they were, the last one before the list of now. */
type Past = readonly (readonly Move[])[]
const KEY = 'azalea-moves-past'
const Body = v.pipe(v.string(), v.parseJson(), v.object({ moves: MoveListSchema }))
/** The list in the body of a save; null where there is none, or none that can be read. */
function listIn(body: string | undefined): Move[] | null {
  const read = v.safeParse(Body, body)
  return read.success ? read.output.moves : null
}
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

/** The instructor's move list: one for all routines, saved as it is changed, with its own undo. */
export const useMoves = create<MovesState>()((set, get) => {
  let line = new SaveLine(0)
  /** The list at the revision this one stands on. */
  let base: readonly Move[] = STARTING_MOVES
  let forget = () => {}
  const save = () => {
    const { moves } = get()
    // How it stands is told by the outbox.
    putMoves(line.next(), moves, base).then(
      () => {
        base = moves
      },
      () => {},
    )
  }
  /** Takes a list that stands on a revision. @param on the list there */
  const take = (
    moves: readonly Move[],
    from: { revision: number; after: readonly string[] },
    on: readonly Move[],
    past: Past,
  ) => {
    forget()
    line = new SaveLine(from.revision)
    line.goOnFrom(from)
    base = on
    forget = follow()
    set({ moves, loaded: true, problem: '', past })
  }
  const overtaken = () => outbox().state.getState().conflicts.has(MOVES_DOCUMENT)
  /** Does what was done here once more on what was saved elsewhere, and with it each state undo knows. Where both changed one move otherwise it waits, as told. */
  const bringTogether = async () => {
    const now = await fetchMoves().catch((error: unknown) => {
      // Asked again as long as it waits for that.
      if (mayPass(error)) setTimeout(() => overtaken() && bringTogether(), RETRY_MS)
      return null
    })
    if (!now || now.revision <= line.revision) return
    const { moves, past } = get()
    const merged = mergeMoves(base, moves, now.moves)
    if (merged.clashes.length) return
    const carried = past.map((list) => mergeMoves(base, list, now.moves).moves)
    const { writers } = line
    take(merged.moves, { revision: now.revision, after: [] }, now.moves, carried)
    if (merged.moves !== now.moves) save()
    outbox().giveUp(MOVES_DOCUMENT, writers)
  }
  /** What a window that is gone had not saved either is done here once more, where nothing clashes. */
  const takeIn = (writer: string) => {
    const left = outbox().newestOf(MOVES_DOCUMENT, writer)
    const [did, on] = [listIn(left?.body), listIn(left?.base)]
    if (!did || !on) return
    const { moves, past } = get()
    const merged = mergeMoves(on, did, moves)
    if (merged.clashes.length) return
    set({ moves: merged.moves, past: past.map((list) => mergeMoves(on, did, list).moves) })
    if (merged.moves !== moves) save()
    outbox().giveUp(MOVES_DOCUMENT, [writer])
  }
  /** Hears what becomes of the list. @returns what ends it */
  const follow = () => {
    const deaf = outbox().listen((news) => {
      if (news.document !== MOVES_DOCUMENT || !line.hear(news)) return
      // It had been saved by a window that is gone, and others may have saved since.
      if (news.of === 'left') {
        base = listIn(news.body) ?? base
        // Where something of this window waits too, its answer says so.
        if (!line.writers.some((writer) => outbox().newestOf(MOVES_DOCUMENT, writer))) bringTogether()
      }
    })
    let seen: string | undefined
    const meet = async () => {
      const writer = outbox().state.getState().conflicts.get(MOVES_DOCUMENT)?.writer
      const before = seen
      seen = writer
      if (writer === undefined || writer === before) return
      // It is on its way until all have heard of it.
      await null
      if (line.standsOn(writer)) await bringTogether()
      else takeIn(writer)
    }
    const blind = outbox().state.subscribe(meet)
    // What was left may have come back before the list was here.
    meet()
    return () => {
      deaf()
      blind()
    }
  }
  /** What a window that is gone left of the list; null where there is nothing, or nothing that can be read. */
  const leftOf = (page: Parameters<Outbox['takeUp']>[1]) => {
    const left = outbox().takeUp(MOVES_DOCUMENT, page)
    if (!left) return null
    const moves = listIn(left.body)
    return moves && { ...left, moves }
  }
  let loading: Promise<void> | null = null
  const load = async () => {
    await outboxReady()
    if (get().loaded) return
    try {
      const { moves, ...page } = await fetchMoves()
      const left = leftOf(page)
      const list = left?.moves ?? moves
      // What was left stands on the page's list, or on an older one that is known.
      take(list, left ?? { revision: page.revision, after: [] }, listIn(left?.base) ?? moves, pastOf(list))
    } catch (error) {
      // Where the server is away it goes on from what was left here.
      const left = leftOf(null)
      if (left) return take(left.moves, left, listIn(left.base) ?? left.moves, pastOf(left.moves))
      set({ problem: wordsOf(error) })
      if (mayPass(error)) setTimeout(get().load, RETRY_MS)
    }
  }
  return {
    moves: STARTING_MOVES,
    loaded: false,
    problem: '',
    past: [],
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
      const next = read.output
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
      try {
        const { moves, revision } = await fetchMoves()
        const own = mergeMoves(base, moves, get().moves).moves
        outbox().giveUp(MOVES_DOCUMENT)
        // What both changed is as it was here once this is taken back; what they did otherwise stays.
        take(moves, { revision, after: [] }, moves, [own])
      } catch (error) {
        set({ problem: wordsOf(error) })
      }
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
