'use client'

import { useEffect, useEffectEvent, useState } from 'react'
import { said } from '@/core/formats/said'

/** A list of the server's, and what is done with it: after each it is read anew. */
export function useList<T>(fetch: () => Promise<T[]>) {
  const [list, setList] = useState<T[] | null>(null)
  const [problem, setProblem] = useState('')
  const look = async () => {
    try {
      setList(await fetch())
      setProblem('')
    } catch (error) {
      setProblem(said(error))
    }
  }
  const first = useEffectEvent(look)
  useEffect(() => {
    first()
  }, [])
  /** @returns what came of it; null where it was refused, which is told */
  async function act<R>(work: () => Promise<R>): Promise<R | null> {
    try {
      const done = await work()
      await look()
      return done
    } catch (error) {
      setProblem(said(error))
      return null
    }
  }
  return { list, problem, act, look }
}
