import { useState } from 'react'
import { nextChange } from '@/core/drill'
import { BEFORE_SOUND, laterMoment, type Moment, momentOf, QUARTER } from '@/core/floor'
import { useMoments } from '../../sheet/playhead'
import { usePlayer } from '../../state/player'
import { useFloor } from './floor-store'

/** How long after a change it is looked for, and the longest time between two looks; before the first sound this often. */
const [AFTER_MS, LONGEST_MS, LOOK_MS] = [2, 150, 30]

/** What sounds now, looked at whenever it changes. */
export function useMoment(): Moment {
  const page = useFloor((s) => s.page)
  const player = usePlayer()
  const [moment, setMoment] = useState(BEFORE_SOUND)
  useMoments(
    page,
    () => {
      const place = player.now()
      const at = player.tickNow(page)
      if (!place || at === null) return
      const next = momentOf(place, at)
      setMoment((before) => laterMoment(before, next))
      const wait = 1000 * nextChange(page.times, place.leg.timeline, place.into, QUARTER)
      return Math.min(LONGEST_MS, wait + AFTER_MS)
    },
    LOOK_MS,
  )
  return moment
}
