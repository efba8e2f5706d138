'use client'

import { useDeferredValue, useMemo } from 'react'
import { type Alike, alikes, type Leaning, leanings, type MoveBook, soundsAlike } from '@/core/choreo'
import { contains } from '@/core/time'
import { soundsLike } from '../../sheet/doubt'
import { type Page, useSong } from '../../state/page'
import { useRoutine } from '../../state/routine-store'

const NONE: readonly never[] = []

/**
 * Stretches that could be danced as an earlier one, a moment after what was written: those that sound alike and are not yet
 * cued, and, where they are asked for, those that are written alike (a tenth of a second on a dance of 150 eights).
 */
export function useAlikes(page: Page, book: MoveBook, written: boolean): readonly Alike[] {
  const { heard } = useSong()
  const routine = useDeferredValue(useRoutine((s) => s.routine))
  const { cues, repeats, excerpt } = routine
  const like = useMemo(() => soundsLike(page, heard?.hearing ?? null), [page, heard])
  const sounding = useMemo(
    () => soundsAlike({ cues, repeats }, page.placed, like),
    [cues, repeats, page, like],
  )
  const wanted = useDeferredValue(written)
  const alike = useMemo(
    () => (wanted ? alikes({ cues, repeats }, page.placed, book) : NONE),
    [wanted, cues, repeats, page, book],
  )
  return useMemo(() => {
    // Of a dance whose ends were set, only what lies within them.
    const inside = (a: Alike) => excerpt === null || contains(excerpt, a.to)
    return [...alike, ...sounding].filter(inside).sort((a, b) => a.to.from - b.to.from)
  }, [alike, sounding, excerpt])
}

/** Where moves go over the line between two phrases, a moment after what was written. @param wanted nobody looks otherwise */
export function useLeanings(page: Page, wanted: boolean): readonly Leaning[] {
  const { cues, repeats, voices } = useDeferredValue(useRoutine((s) => s.routine))
  const looked = useDeferredValue(wanted)
  return useMemo(
    () => (looked ? leanings({ cues, repeats, voices }, page.placed) : NONE),
    [looked, cues, repeats, voices, page],
  )
}
