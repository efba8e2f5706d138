'use client'

import { useShallow } from 'zustand/react/shallow'
import type { Pose } from '@/core/choreo'
import { rangeOf } from '@/core/drill'
import { filmFor } from '@/core/film'
import { timeOfTick } from '@/core/time'
import { filmTitle } from '../../film/film-title'
import { FilmView } from '../../film/film-view'
import { useFilmsState } from '../../state/films'
import { useView } from '../../state/view'
import { useDrill, useFloor } from './floor-store'
import { BesidePanel, DrawnFigure } from './mirror'

/** The film of what is danced, or another one that shows it; with the figure, or in place of it. */
export function FilmNow({ pose }: { pose: Pose }) {
  const page = useFloor((s) => s.page)
  const routine = useFloor((s) => s.routine)
  const plan = useDrill((d) => d.plan)
  const chosen = useFilmsState((s) => s.chosen)
  const { mirrored, filmed, filmSound } = useView(
    useShallow(({ mirrored, filmed, filmSound }) => ({ mirrored, filmed, filmSound })),
  )
  const { from, to } = rangeOf(plan, routine)
  const piece = { from: timeOfTick(page.times, from), to: timeOfTick(page.times, to) }
  const film = filmFor(routine.films, chosen, piece, plan.speed)
  return (
    <BesidePanel data-testid="beside">
      {film ? (
        <>
          <FilmView
            key={film.id}
            {...{ film, page }}
            sounding={filmSound && plan.sound !== 'counts'}
            turned={mirrored !== film.mirrored}
            label={`${filmTitle(film)}, ${FILMED_FROM[film.side]}`}
          />
          <p>
            {filmTitle(film)}, {FILMED_FROM[film.side]}
          </p>
        </>
      ) : (
        <p>No film shows this stretch.</p>
      )}
      {(!film || filmed === 'figure') && <DrawnFigure pose={pose} />}
    </BesidePanel>
  )
}

const FILMED_FROM = { front: 'from the front', back: 'from behind', side: 'from the side' } as const
