'use client'

import { useMemo } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { asDanced } from '@/core/choreo'
import { type Prompt, promptOf } from '@/core/lesson'
import { danced, type LessonStep, mirrorCue, ofPass, type Routine } from '@/core/routine'
import { useBook } from './moves-store'
import type { Page } from './page'
import { useView } from './view'

/** Steps that are explained: their words are read from the floor. */
const EXPLAINED: readonly LessonStep['kind'][] = ['show', 'break down']

/** True for a step with something to read out: what is shown or broken down, and what is danced slowly. */
export const isExplained = (step: LessonStep | null): step is LessonStep =>
  step !== null && step.stretch !== null && EXPLAINED.includes(step.kind)

/** The prompter of a step; null where there is nothing to read. */
export function usePrompt(page: Page, routine: Routine, step: LessonStep | null): Prompt | null {
  const { role, option, mirrored } = useView(
    useShallow(({ role, option, mirrored }) => ({ role, option, mirrored })),
  )
  const book = useBook()
  return useMemo(() => {
    if (!step?.stretch) return null
    const all = danced(routine)
    const version = step.version || option
    const seen = <T extends (typeof all)[number]>(list: readonly T[]) =>
      mirrored ? list.map((c) => mirrorCue(c)) : [...list]
    const own = ofPass(asDanced(all, role, version), step.pass)
    const base = asDanced(all, role, 'base')
    const { positions } = routine
    // Followed as it is written; only the words are seen in the mirror.
    const plain = promptOf(own, base, positions, step.stretch, page.placed, book)
    if (!mirrored) return plain
    const turned = promptOf(seen(own), seen(base), positions, step.stretch, page.placed, book)
    return { ...turned, begin: plain.begin, end: plain.end }
  }, [page, routine, step, role, option, mirrored, book])
}
