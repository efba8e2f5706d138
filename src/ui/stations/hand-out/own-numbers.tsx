'use client'

import { useEffect, useState } from 'react'
import { usePlayer } from '../../state/player'

/** Says that numbers are counted in the instructor's own voice, where this device does so on the floor. */
export function OwnNumbers() {
  const player = usePlayer()
  const [own, setOwn] = useState(false)
  useEffect(() => {
    let here = true
    player.ownCounts().then((counts) => here && setOwn(counts.length > 0))
    return () => {
      here = false
    }
  }, [player])
  return own ? <p role="status">Numbers are counted in your own voice, as on the floor.</p> : null
}
