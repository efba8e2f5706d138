'use client'

import { startTransition, useEffect, useState } from 'react'

/** So long nothing was changed: a key that is held repeats sooner. */
const REST_MS = 120

/**
 * A value once it rests: what takes long to work out from it waits until the change itself was seen, and is not worked out
 * for each change of many.
 * @param value compared by identity
 */
export function useRested<T>(value: T): T {
  const [rested, setRested] = useState({ value })
  useEffect(() => {
    if (Object.is(rested.value, value)) return
    const timer = setTimeout(() => startTransition(() => setRested({ value })), REST_MS)
    return () => clearTimeout(timer)
  }, [value, rested])
  return rested.value
}
