'use client'

import { useEffect, useState } from 'react'
import type { Strength } from '@/core/password/chosen'

/** So long after the last letter it is looked at: it takes some hundredths of a second, and loads a list of 400 KB once. */
const REST_MS = 200

/**
 * How easily a password is guessed that is being chosen; null until that is known.
 * @param own words whoever chooses it is known by
 */
export function useStrength(password: string, own: readonly string[]): Strength | null {
  const [found, setFound] = useState<Strength | null>(null)
  const words = own.join('\n')
  useEffect(() => {
    if (!password) return
    let late = false
    const rest = setTimeout(async () => {
      // Where it cannot be loaded nothing is said: the server looks at it too.
      const known = await import('@/core/password/strength').catch(() => null)
      if (known && !late) setFound(known.strengthOf(password, words.split('\n')))
    }, REST_MS)
    return () => {
      late = true
      clearTimeout(rest)
    }
  }, [password, words])
  // What is said of fewer letters stands until more is known.
  return password ? found : null
}
