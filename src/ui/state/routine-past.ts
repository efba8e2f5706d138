'use client'

import type { StoreApi } from 'zustand'
import { type PastStep, type Routine, readPast, writePast } from '@/core/routine'

/** An open routine with its undo, as far as it is needed here. */
interface Undone extends Pick<StoreApi<{ routine: Routine; did: string }>, 'getState' | 'setState'> {
  temporal: Pick<StoreApi<{ pastStates: unknown[]; futureStates: unknown[] }>, 'getState' | 'setState'>
}

const keyOf = (id: string) => `azalea-past ${id}`
/** Letters at most of each routine: a browser keeps some five million for a window, and seven routines are open at most. */
const MOST = 600_000

/** Writes down what undo knows of an open routine, for this window's next page. */
export function keepPast(id: string, store: Undone): void {
  const { routine, did } = store.getState()
  const { pastStates, futureStates } = store.temporal.getState()
  try {
    sessionStorage.removeItem(keyOf(id))
    if (pastStates.length + futureStates.length === 0) return
    const past = { did, past: pastStates as PastStep[], future: futureStates as PastStep[] }
    const text = writePast(routine, past, MOST)
    try {
      sessionStorage.setItem(keyOf(id), text)
    } catch {
      // It is full: of routines that were worked on before.
      for (const key of Object.keys(sessionStorage))
        if (key.startsWith(keyOf(''))) sessionStorage.removeItem(key)
      sessionStorage.setItem(keyOf(id), text)
    }
  } catch {
    // A browser that keeps nothing begins undo anew with each page, as a new window does.
  }
}

/** Takes up what undo knew before the page was loaded, where the routine is still what it was then and nothing was done since. */
export function bringPast(id: string, store: Undone): void {
  const known = store.temporal.getState()
  if (known.pastStates.length + known.futureStates.length > 0) return
  let text: string | null = null
  try {
    text = sessionStorage.getItem(keyOf(id))
  } catch {
    return
  }
  const found = text === null ? null : readPast(text, store.getState().routine)
  if (!found) return
  store.setState({ did: found.did })
  store.temporal.setState({ pastStates: [...found.past], futureStates: [...found.future] })
}
