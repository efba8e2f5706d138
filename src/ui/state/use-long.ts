'use client'

import { useEffect, useState } from 'react'

/** What takes longer than this is spoken of, and then its end, in ms. */
export const LONG_MS = 3000

/** True where something goes on for long, and still when it is over, until it begins anew. */
export function useLong(goesOn: boolean): boolean {
  const [long, setLong] = useState(false)
  useEffect(() => {
    if (!goesOn) return
    const timer = setTimeout(() => setLong(true), LONG_MS)
    return () => clearTimeout(timer)
  }, [goesOn])
  const [before, setBefore] = useState(goesOn)
  if (before !== goesOn) {
    setBefore(goesOn)
    if (goesOn) setLong(false)
  }
  return long
}
