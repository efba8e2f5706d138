'use client'

import { useEffect, useEffectEvent, useState } from 'react'
import { useFilms } from '../../state/films'
import { useView } from '../../state/view'
import type { Filmed } from './reel'

/** What becomes of the repetition the camera saw last. */
export interface KeptSeen {
  /** It is kept with the dance. */
  kept: boolean
  keep: () => void
}

/**
 * Keeps what the camera saw as a film of the dance: when it is asked for, or by itself, where this device is to, as soon as a
 * drill is over.
 * @param still nothing is danced now
 */
export function useKeepSeen(filmed: Filmed | null, still: boolean): KeptSeen {
  const films = useFilms()
  const wish = useView((v) => v.keepSeen)
  /** The film that is kept, or is being kept: each once. */
  const [mine, setMine] = useState({ url: '', kept: false })
  const keep = useEffectEvent(async (wanted: Filmed) => {
    if (wanted.at === null || mine.url === wanted.url) return
    setMine({ url: wanted.url, kept: false })
    const kept = await films.keepSeen(wanted.film, wanted.label, { at: wanted.at, speed: wanted.speed })
    // What did not work may be asked for again.
    setMine((now) => (now.url === wanted.url ? { url: kept ? now.url : '', kept } : now))
  })
  const [asked, setAsked] = useState('')
  const due = filmed !== null && (asked === filmed.url || (wish && still))
  useEffect(() => {
    if (due && filmed) {
      keep(filmed)
      setAsked('')
    }
  }, [due, filmed])
  return {
    kept: filmed !== null && mine.url === filmed.url && mine.kept,
    keep: () => filmed && setAsked(filmed.url),
  }
}
