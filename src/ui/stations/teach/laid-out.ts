import { lessonOf, secondsOf } from '@/core/lesson'
import type { Seconds } from '@/core/time'
import { useDance } from '../../state/choreo'
import { keepLast } from '../../state/keep-last'
import { usePlan, useTeach } from './teach-store'

/** How long each step takes. */
export function useSeconds(): readonly Seconds[] {
  const steps = usePlan((p) => p.steps)
  const settings = usePlan((p) => p.settings)
  const times = useTeach((s) => s.page.times)
  const routine = useDance()
  return steps.map((s) => secondsOf(s, { routine, times, settings }))
}

// Asked by several parts: laid out once for the same dance, settings and log.
const lesson = keepLast(
  (
    dance: Parameters<typeof lessonOf>[0],
    times: Parameters<typeof lessonOf>[1],
    book: Parameters<typeof lessonOf>[2],
    settings: Parameters<typeof lessonOf>[3]['settings'],
    goesOn: number | null,
    rows: Parameters<typeof lessonOf>[4],
  ) => lessonOf(dance, times, book, { settings, goesOn }, rows),
)

/** The lesson as it would be laid out now. */
export function useFresh() {
  const settings = usePlan((p) => p.settings)
  const goesOn = usePlan((p) => p.goesOn)
  const times = useTeach((s) => s.page.times)
  const book = useTeach((s) => s.book)
  const rows = useTeach((s) => s.log.rows)
  return lesson(useDance(), times, book, settings, goesOn, rows)
}
