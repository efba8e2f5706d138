'use client'

import { useCallback, useEffect, useRef, useState } from 'react'
import { said } from '@/core/formats/said'
import { useOutbox } from './outbox-window'

/** What is read of a log. */
export interface Read<Row> {
  rows: readonly Row[]
  /** It was read once: what is empty is empty. */
  there: boolean
  /** Why it could not be read the last time; '' where it could. */
  problem: string
  read: () => Promise<void>
}

const NONE: readonly never[] = []

/**
 * Rows of a log, read when the station is entered, again when what waited to be saved is saved, and whenever asked.
 * @param fetch must be the same while what it fetches is
 * @param once whether it is read again only for what waited already when the station was entered: where edits are saved all
 * the time, none of which is in the log
 */
export function useLog<Row>(fetch: (id: string) => Promise<Row[]>, id: string, once = false): Read<Row> {
  const [rows, setRows] = useState<readonly Row[] | null>(null)
  const [problem, setProblem] = useState('')
  const turn = useRef({ asked: 0, answered: 0 })
  const read = useCallback(() => {
    const mine = ++turn.current.asked
    /** An answer that comes after that of a later question is an old one. */
    const isNews = () => {
      if (mine < turn.current.answered) return false
      turn.current.answered = mine
      return true
    }
    return fetch(id).then(
      (r) => {
        if (!isNews()) return
        setRows(r)
        setProblem('')
      },
      (e: unknown) => {
        if (isNews()) setProblem(said(e))
      },
    )
  }, [fetch, id])
  const [settled, setSettled] = useState(false)
  // Once it was read for all that waited, saving an edit draws nothing anew.
  const saved = useOutbox((s) => (once && settled) || s.waiting === 0)
  if (saved && !settled) setSettled(true)
  // biome-ignore lint/correctness/useExhaustiveDependencies: that all is saved is the reason to read again
  useEffect(() => {
    read()
  }, [read, saved])
  return { rows: rows ?? NONE, there: rows !== null, problem, read }
}
