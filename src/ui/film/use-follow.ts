'use client'

import { type RefObject, useEffect, useEffectEvent } from 'react'
import { pictureAt, placeInFilm, type Wanted } from '@/core/film'
import type { Film } from '@/core/routine'
import { type Seconds, timeOfTick } from '@/core/time'
import { useCursor } from '../state/cursor'
import type { Page } from '../state/page'
import { usePlayer } from '../state/player'
import { Follower } from './follower'

/** What should be seen of a film now, and where it goes on after the next join. */
interface Followed {
  wanted: Wanted | null
  next: Seconds | null
}

interface Options {
  film: Film
  page: Page
  /** A picture that is looked at for itself. */
  free: Seconds | null
  /** It is heard, too. */
  sounding?: boolean
  /** Told of the picture that is seen, and of the time of the song it shows; null where it shows none of it. */
  told?: (at: Seconds, song: Seconds | null) => void
}

/** Has two videos follow the cursor, and whatever plays. */
export function useFollow(
  a: RefObject<HTMLVideoElement | null>,
  b: RefObject<HTMLVideoElement | null>,
  options: Options,
): void {
  const player = usePlayer()
  const { sounding = false } = options
  const now = useEffectEvent((): Followed & { song: Seconds | null } => {
    const { film, page, free } = options
    if (free !== null) return { wanted: { at: free, rate: 0 }, next: null, song: null }
    const place = player.now()
    if (!place) {
      if (page.times.length < 2) return { wanted: null, next: null, song: null }
      const song = timeOfTick(page.times, useCursor.getState().tick)
      const there = placeInFilm(film, song)
      return { wanted: there && { at: pictureAt(film, there.at), rate: 0 }, next: null, song }
    }
    const { speed, songStart, songEnd } = place.leg.timeline
    const piece = { from: songStart, to: songEnd }
    const song = songStart + place.into * speed
    const there = placeInFilm(film, song, speed, piece)
    // In a count-in before the song the picture waits on its first count.
    const begin = placeInFilm(film, songStart, speed, piece)
    const lead = place.leg.timeline.lead * speed
    const next = begin && placeInFilm(film, songStart - lead, speed, piece)
    return {
      wanted: there
        ? { at: there.at, rate: speed / there.take.rate }
        : place.into < 0 && begin
          ? { at: pictureAt(film, begin.at), rate: 0 }
          : null,
      next: (next ?? begin)?.at ?? null,
      song,
    }
  })
  const tell = useEffectEvent((at: Seconds, song: Seconds | null) => options.told?.(at, song))
  useEffect(() => {
    if (!a.current || !b.current) return
    const follower = new Follower(a.current, b.current, sounding)
    let frame = 0
    const step = () => {
      const { wanted, next, song } = now()
      follower.tick(wanted, next)
      tell(wanted ? follower.at : Number.NaN, wanted ? song : null)
      frame = requestAnimationFrame(step)
    }
    step()
    return () => cancelAnimationFrame(frame)
  }, [a, b, sounding])
}
