'use client'

import { create } from 'zustand'

/** What a newcomer does first, in order: listen to the counts, write an eight, drill it. */
export const FIRST_STEPS = ['listen', 'write', 'drill'] as const
export type FirstStep = (typeof FIRST_STEPS)[number]

/** Where the newcomer stands. */
export interface FirstFacts {
  station: 'count' | 'cue'
  /** True once there are counts. */
  counted: boolean
  cues: number
}

/**
 * The one thing to do next, where it is done or from where it is gone to; null where there is none, or where all was done
 * once: what was done is never said again on this device.
 */
export function nextFirstStep(
  { station, counted, cues }: FirstFacts,
  done: ReadonlySet<FirstStep>,
): FirstStep | null {
  if (!counted || done.has('drill')) return null
  if (station === 'count' && !done.has('listen')) return 'listen'
  if (cues === 0) return done.has('write') ? null : 'write'
  return 'drill'
}

const KEPT = 'azalea.first-steps'

/** What was done before; a browser that keeps nothing begins anew. */
function kept(): FirstStep[] {
  try {
    const list = JSON.parse(localStorage.getItem(KEPT) ?? '[]')
    return FIRST_STEPS.filter((s) => Array.isArray(list) && list.includes(s))
  } catch {
    return []
  }
}

/** What of the first steps was done on this device; null before it is known. */
export const useFirstSteps = create<{ done: ReadonlySet<FirstStep> | null }>(() => ({ done: null }))

/** Reads what was done; once a page. */
export function loadFirstSteps() {
  if (!useFirstSteps.getState().done) useFirstSteps.setState({ done: new Set(kept()) })
}

/** A first step was done, or all of them are not wanted. */
export function didFirst(...steps: readonly FirstStep[]) {
  loadFirstSteps()
  const done = new Set([...(useFirstSteps.getState().done ?? []), ...steps])
  if (done.size === useFirstSteps.getState().done?.size) return
  useFirstSteps.setState({ done })
  try {
    localStorage.setItem(KEPT, JSON.stringify([...done]))
  } catch {
    // Said once more next time: nothing of the work is lost.
  }
}
