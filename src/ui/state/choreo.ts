'use client'

import { useCallback, useMemo, useState } from 'react'
import { asDanced, asSeen, type Calls, callsOf } from '@/core/choreo'
import { type DrillPlan, leadWordsOf } from '@/core/drill'
import {
  type CalledVoice,
  calledVoices,
  type DancedCue,
  danced,
  fieldsWhere,
  type Routine,
} from '@/core/routine'
import type { Page } from './page'
import { useRoutine } from './routine-store'
import { useView } from './view'

/** The cues of a routine for the role and option this device shows. */
export function useShown(routine: Routine): DancedCue[] {
  const role = useView((s) => s.role)
  const option = useView((s) => s.option)
  return useMemo(() => asDanced(danced(routine), role, option), [routine, role, option])
}

/** The cues there are to see: for everybody, those of all roles. */
export function useSeen(routine: Routine): DancedCue[] {
  const role = useView((s) => s.role)
  const option = useView((s) => s.option)
  return useMemo(() => asSeen(danced(routine), role, option), [routine, role, option])
}

/** Where the cues that are shown start, for counting in and calling sub-counts. */
export function useStarts(): number[] {
  const cues = useShown(useDance())
  return useMemo(() => cues.map((c) => c.at), [cues])
}

const NO_VOICES: readonly CalledVoice[] = []

/** What is called in the instructor's own voice; nothing where that is not asked for. */
function useVoices(wanted: boolean): readonly CalledVoice[] {
  const voices = useRoutine((s) => s.routine.voices)
  const { repeats, cues } = useDance()
  return useMemo(
    () => (wanted && voices.length ? calledVoices({ voices, repeats, cues }) : NO_VOICES),
    [wanted, voices, repeats, cues],
  )
}

/** What the caller of the open routine says. */
export function useCalls(page: Page): Calls {
  const cues = useShown(useDance())
  const mirrored = useView((s) => s.mirrored)
  const called = useRoutine((s) => s.routine.called)
  const calledAhead = useRoutine((s) => s.routine.calledAhead)
  const marks = useRoutine((s) => s.routine.marks)
  const voices = useVoices(called === 'own')
  return useMemo(
    () => ({ ...callsOf({ called, calledAhead }, cues, marks, page.times, page.placed, mirrored), voices }),
    [called, calledAhead, cues, marks, page, mirrored, voices],
  )
}

/** What the caller says in a drill: what the routine says, or what the drill asks for. */
export function useCallsFor(page: Page): (plan: Pick<DrillPlan, 'calls'>) => Calls & { leadWords: string[] } {
  const routine = useRoutine((s) => s.routine)
  const cues = useShown(routine)
  const mirrored = useView((s) => s.mirrored)
  const voices = useVoices(true)
  return useCallback(
    ({ calls = 'as set' }) => {
      const { called, calledAhead, marks } = routine
      const leadWords = leadWordsOf(routine.leadWords)
      if (calls === 'none') return { words: new Map(), wordsOnly: true, leadWords }
      const said = { called: calls === 'as set' ? called : calls, calledAhead }
      return {
        ...callsOf(said, cues, marks, page.times, page.placed, mirrored),
        leadWords,
        voices: said.called === 'own' ? voices : NO_VOICES,
      }
    },
    [routine, cues, page, mirrored, voices],
  )
}

const DANCED = fieldsWhere((field) => field.danced)

/** Selects the routine, and goes on with the one it has as long as nothing that is danced is another. */
function selectDance(): (state: { routine: Routine }) => Routine {
  let last: Routine | null = null
  return ({ routine }) => {
    if (!last || DANCED.some((name) => last?.[name] !== routine[name])) last = routine
    return last
  }
}

/** What of a routine says what is danced: the same object as long as none of it changes, whatever else does (a plan, say). */
export function useDance(): Routine {
  const [select] = useState(selectDance)
  return useRoutine(select)
}
