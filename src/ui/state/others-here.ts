'use client'

import { createContext, useContext, useEffect, useState } from 'react'
import { outbox } from './outbox-window'
import { personHere } from './person'
import type { RoutineStore } from './routine-store'
import { tellHere } from './school'

/** So often a page that is seen says that it is there. */
const EVERY_MS = 15_000

const NOBODY: readonly string[] = []
const Context = createContext(NOBODY)
export const OthersProvider = Context.Provider

/** Who else has the routine open. */
export const useOthers = (): readonly string[] => useContext(Context)

/**
 * Says in a school that this page has a routine open, and hears who else has; what they saved meanwhile is taken over.
 * @returns their names
 */
export function useOthersHere(id: string, store: RoutineStore): readonly string[] {
  const [others, setOthers] = useState(NOBODY)
  useEffect(() => {
    if (!personHere()) return
    const tell = async () => {
      if (document.hidden) return
      // Where nobody answers it is said by what is saved.
      const heard = await tellHere(id, outbox().window).catch(() => null)
      if (!heard) return
      setOthers((known) => (known.join() === heard.others.join() ? known : heard.others))
      if (heard.revision > store.saves.revision) await store.saves.look()
    }
    tell()
    const timer = setInterval(tell, EVERY_MS)
    document.addEventListener('visibilitychange', tell)
    return () => {
      clearInterval(timer)
      document.removeEventListener('visibilitychange', tell)
    }
  }, [id, store])
  return others
}
