'use client'

import { useMemo } from 'react'
import { asDanced } from '@/core/choreo'
import { beginOf, cuesOfDancers, type Path, pathOf, type Standing, standingOf } from '@/core/places'
import { danced, danceOf, mirrorSpot, type Spot } from '@/core/routine'
import { holds } from '@/core/time'
import { useBook } from '../state/moves-store'
import { useRoutine } from '../state/routine-store'
import { useView } from '../state/view'

/** The path of the one dancer the view shows, and where it begins in the room. */
export function usePath(): { path: Path; begin: Spot } {
  const routine = useRoutine((s) => s.routine)
  const role = useView((v) => v.role)
  const option = useView((v) => v.option)
  const book = useBook()
  const { space, positions } = routine
  const all = danced(routine)
  const dance = danceOf(routine)
  const path = useMemo(() => {
    const cues = asDanced(all, role, option).filter((c) => holds(dance, c.at))
    return pathOf(cues, book, space, positions)
  }, [all, role, option, dance, book, space, positions])
  return useMemo(() => ({ path, begin: beginOf(path, space) }), [path, space])
}

/** Places as the view shows them: in the mirror the dancer's right is the page's left. It is its own inverse. */
export function useAsSeen(): <S extends Spot>(spot: S) => S {
  const mirrored = useView((v) => v.mirrored)
  return mirrored ? mirrorSpot : asItIs
}

const asItIs = <S extends Spot>(spot: S): S => spot

/** Where all dancers stand, and how they go. */
export function useStanding(): Standing {
  const routine = useRoutine((s) => s.routine)
  const book = useBook()
  const { dancers, formations } = routine
  const all = danced(routine)
  return useMemo(
    () => standingOf(formations, cuesOfDancers(dancers, all), book),
    [formations, dancers, all, book],
  )
}
