'use client'

import { lateBy } from '@/core/floor'
import type { Seconds } from '@/core/time'
import { Button } from '../../parts/button'
import { useFloor } from './floor-store'

/** So much later than planned is said: less is how lessons are. */
const SAID: Seconds = 60

/** By how much the lesson is late, in seconds, as of the step that is shown; null where it is not late enough to be said. */
export function useLate(since: Seconds): Seconds | null {
  return useFloor(({ floor }) => {
    const late = Math.round(lateBy(floor, (floor.going?.shown ?? 0) + since * 1000))
    return late >= SAID ? late : null
  })
}

const minutesOf = (seconds: Seconds): number => Math.max(1, Math.round(seconds / 60))

/** "4 min late", with a press that leaves as much out of what is left. */
export function Late({ since }: { since: Seconds }) {
  const late = useLate(since)
  const short = useFloor((s) => s.floor.lesson?.whole !== undefined)
  const send = useFloor((s) => s.send)
  if (late === null && !short) return null
  return (
    <span style={{ display: 'flex', gap: 8, alignItems: 'baseline', flexWrap: 'wrap' }} data-testid="late">
      {late !== null && (
        <>
          {minutesOf(late)} min late
          <Button
            look="dark"
            small
            onPress={() => send({ kind: 'leave out', seconds: null })}
            hotkey="leaveOut"
          >
            Leave out {minutesOf(late)} min
          </Button>
        </>
      )}
      {short && (
        <Button look="dark" small onPress={() => send({ kind: 'put back' })}>
          Put back what was left out
        </Button>
      )}
    </span>
  )
}
