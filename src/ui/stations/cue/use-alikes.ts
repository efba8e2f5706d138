'use client'

import { useDeferredValue, useMemo } from 'react'
import { type Alike, alikes, type MoveBook, soundsAlike } from '@/core/choreo'
import type { Hearing } from '@/core/hear'
import type { Routine } from '@/core/routine'
import { soundsLike } from '../../sheet/doubt'
import { type Page, useSong } from '../../state/page'
import { useRoutine } from '../../state/routine-store'

let last: { routine: Pick<Routine, 'cues' | 'repeats'>; page: Page; book: MoveBook; found: Alike[] } | null =
  null

/** Worked out once for all that ask. */
function known(routine: Routine, page: Page, book: MoveBook, hearing: Hearing | null): Alike[] {
  if (
    last?.page === page &&
    last.book === book &&
    last.routine.cues === routine.cues &&
    last.routine.repeats === routine.repeats
  )
    return last.found
  const like = soundsLike(page, hearing)
  const found = [...alikes(routine, page.placed, book), ...soundsAlike(routine, page.placed, like)].sort(
    (a, b) => a.to.from - b.to.from,
  )
  last = { routine, page, book, found }
  return found
}

/** Stretches that could be danced as an earlier one: written alike, or sounding alike and not yet cued. A moment after what was written. */
export function useAlikes(page: Page, book: MoveBook): readonly Alike[] {
  const { heard } = useSong()
  const routine = useDeferredValue(useRoutine((s) => s.routine))
  return useMemo(() => known(routine, page, book, heard?.hearing ?? null), [routine, page, book, heard])
}
