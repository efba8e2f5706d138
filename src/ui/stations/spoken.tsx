'use client'

import { useEffect } from 'react'
import { Unseen } from '../parts/unseen'
import { useSpoken } from '../state/spoken'
import { useView } from '../state/view'

/** What was done last, for those who hear the page. */
export function SpokenWords() {
  const words = useSpoken((s) => s.words)
  const say = useSpoken((s) => s.say)
  useEffect(
    () =>
      useView.subscribe((now, before) => {
        // What the device kept is read once, and is no news.
        if (now.mirrored === before.mirrored || !useView.persist.hasHydrated()) return
        say(now.mirrored ? 'Mirrored: left and right as in a mirror.' : 'True sides.')
      }),
    [say],
  )
  return (
    <Unseen role="status" data-testid="spoken">
      {words}
    </Unseen>
  )
}
