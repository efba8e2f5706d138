'use client'

import { useMemo } from 'react'
import { asDanced, type Calls, callsOf, type DancedCue, danced } from '@/core/choreo'
import type { Routine } from '@/core/routine'
import type { Page } from './page'
import { useRoutine } from './routine-store'
import { useView } from './view'

/** The open routine's cues as they are danced. */
export function useDanced(): readonly DancedCue[] {
  return useRoutine((s) => danced(s.routine))
}

/** The cues of a routine for the role and option this device shows. */
export function useShown(routine: Routine): DancedCue[] {
  const role = useView((s) => s.role)
  const option = useView((s) => s.option)
  return useMemo(() => asDanced(danced(routine), role, option), [routine, role, option])
}

/** Where the open routine's cues start, for counting in and calling sub-counts. */
export function useStarts(): number[] {
  const cues = useDanced()
  return useMemo(() => cues.map((c) => c.at), [cues])
}

/** What the caller of the open routine says. */
export function useCalls(page: Page): Calls {
  const routine = useRoutine((s) => s.routine)
  const cues = useShown(routine)
  const mirrored = useView((s) => s.mirrored)
  const { called, calledAhead, marks } = routine
  return useMemo(
    () => callsOf({ called, calledAhead }, cues, marks, page.times, page.placed, mirrored),
    [called, calledAhead, cues, marks, page, mirrored],
  )
}
