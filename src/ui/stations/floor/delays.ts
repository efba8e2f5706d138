import * as v from 'valibot'
import { LEAST_CLAP } from '@/core/drill'
import type { Delay, Way } from '@/core/station'

const DelaySchema = v.object({
  ms: v.pipe(v.number(), v.minValue(-1000), v.maxValue(2000)),
  least: v.pipe(v.number(), v.minValue(0), v.maxValue(10)),
})

const KEYS: Record<Way, string> = { tap: 'azalea-delay', clap: 'azalea-delay-clap' }

/** The delay of this device, as it was measured here last. */
export function keptDelay(way: Way): Delay {
  const none = { ms: 0, least: LEAST_CLAP }
  if (typeof window === 'undefined') return none
  try {
    return v.parse(DelaySchema, JSON.parse(localStorage.getItem(KEYS[way]) ?? ''))
  } catch {
    return none
  }
}

export function keepDelay(way: Way, delay: Delay): void {
  try {
    localStorage.setItem(KEYS[way], JSON.stringify(delay))
  } catch {
    // A browser that keeps nothing measures it again next time.
  }
}
