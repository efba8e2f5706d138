'use client'

import { nanoid } from 'nanoid'
import { createContext, useContext, useLayoutEffect, useState } from 'react'
import { createStore, useStore } from 'zustand'
import type { MoveBook } from '@/core/choreo'
import type { LessonPlan } from '@/core/routine'
import { planShown, stepTeach, TEACH_AT_FIRST, type TeachEvent, type TeachState } from '@/core/station'
import { useCursor } from '../../state/cursor'
import { useBook } from '../../state/moves-store'
import { type Page, usePage } from '../../state/page'
import { type RoutineStore, useRoutine, useRoutineStore } from '../../state/routine-store'
import { type ClassLog, useClass } from '../../state/use-class'

/** What the station looks at beside the routine. */
interface Looked {
  page: Page
  book: MoveBook
  /** The log of the plan's class. */
  log: ClassLog
}

interface TeachStore extends TeachState, Looked {
  /** Tells the machine what happened (core/station/teach.ts), and makes the edit it asks for. */
  send: (event: TeachEvent) => void
}

function makeTeachStore(first: Looked, routines: RoutineStore) {
  return createStore<TeachStore>()((set, get) => ({
    ...TEACH_AT_FIRST,
    ...first,
    send: (event) => {
      const { planId, chosen, page, book, log } = get()
      const seen = {
        ...{ routine: routines.getState().routine, times: page.times, book, rows: log.rows },
        ...{ marked: useCursor.getState().marked, now: Date.now(), newId: nanoid },
      }
      const { state, edit } = stepTeach({ planId, chosen }, event, seen)
      set(state)
      if (edit && routines.getState().edit(edit.did, edit.change) && edit.shows)
        get().send({ kind: 'choose plan', id: edit.shows.plan })
    },
  }))
}

/** The store of the station, fed with what is looked at. */
export function useTeachStation(id: string) {
  const page = usePage()
  const book = useBook()
  const routines = useRoutineStore()
  const [planId, setPlanId] = useState<string | null>(null)
  const group = useRoutine((s) => planShown({ planId }, s.routine.plans)?.group ?? '')
  const log = useClass(id, page, group)
  const [store] = useState(() => makeTeachStore({ page, book, log }, routines))
  const shown = useStore(store, (s) => s.planId)
  if (shown !== planId) setPlanId(shown)
  useLayoutEffect(() => store.setState({ page, book, log }), [store, page, book, log])
  return store
}

const Context = createContext<ReturnType<typeof makeTeachStore> | null>(null)
export const TeachProvider = Context.Provider

/** Reads from the Teach station. */
export function useTeach<T>(pick: (state: TeachStore) => T): T {
  const store = useContext(Context)
  if (!store) throw new Error('the Teach station is not open here')
  return useStore(store, pick)
}

/** Reads from the plan that is shown. There is one where this is asked. */
export function usePlan<T>(pick: (plan: LessonPlan) => T): T {
  const planId = useTeach((s) => s.planId)
  return useRoutine((s) => {
    const plan = planShown({ planId }, s.routine.plans)
    if (!plan) throw new Error('there is no plan')
    return pick(plan)
  })
}
