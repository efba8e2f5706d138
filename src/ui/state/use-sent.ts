'use client'

import { useEffect, useEffectEvent, useRef, useState } from 'react'
import { said } from '@/core/formats/said'
import { cameKey, decideSent } from '@/core/station'
import { useOutbox } from './outbox-window'
import { usePage } from './page'
import { useRoutine, useRoutineStore } from './routine-store'
import { fetchSent, type SentRow, takeOff } from './school'

/** What learners sent by the links of classes, and waits for the instructor. */
export interface Sent {
  /** Whose marks were taken into the dance in this window. */
  brought: readonly string[]
  /** What cannot be, with why; and films, which are taken in by hand. */
  waiting: readonly (SentRow & { why: string })[]
  problem: string
  letGo: (row: SentRow) => Promise<void>
}

/**
 * Takes in what came by the links, through the gate like any edit, so that it can be undone. It waits on the server until it is saved
 * here, and is known by its own id: two windows that take it in took in the same.
 * @param on there are links: a school
 */
export function useSent(routineId: string, on: boolean): Sent {
  const { times } = usePage()
  const saving = useOutbox((s) => s.waiting > 0)
  const closed = useRoutine((s) => s.closed !== null)
  const store = useRoutineStore()
  const taken = useRef(new Set<string>())
  const [state, setState] = useState<Omit<Sent, 'letGo'>>({ brought: [], waiting: [], problem: '' })
  /** @returns why it waits on; null where it is taken in, or was */
  const take = async (row: SentRow): Promise<string | null> => {
    const { routine, edit } = store.getState()
    const decision = decideSent(row, { routine, times, closed, taken: taken.current, now: new Date() })
    if (decision.act === 'wait') return decision.why
    if (decision.act === 'let go') {
      await takeOff(routineId, row)
      return null
    }
    const { learner } = decision
    if (!edit(`bring what ${learner} says`, decision.edit)) return ''
    taken.current.add(cameKey(row))
    setState((s) => ({ ...s, brought: [...new Set([...s.brought, learner])] }))
    return null
  }
  const look = useEffectEvent(async () => {
    try {
      const waiting: (SentRow & { why: string })[] = []
      for (const row of await fetchSent(routineId)) {
        const why = await take(row)
        if (why !== null) waiting.push({ ...row, why })
      }
      setState((s) => ({ ...s, waiting, problem: '' }))
    } catch (error) {
      const problem = said(error)
      setState((s) => ({ ...s, problem }))
    }
  })
  useEffect(() => {
    if (on && !saving) look()
  }, [on, saving])
  const letGo = async (row: SentRow) => {
    try {
      await takeOff(routineId, row)
      setState((s) => ({ ...s, waiting: s.waiting.filter((w) => w.id !== row.id) }))
    } catch (error) {
      const problem = said(error)
      setState((s) => ({ ...s, problem }))
    }
  }
  return { ...state, letGo }
}
