'use client'

import styled from 'styled-components'
import { shownFilm, songEndOf } from '@/core/film'
import { useFilmsState } from '../state/films'
import { useRoutine } from '../state/routine-store'
import { useView } from '../state/view'
import { desk } from '../theme/tokens'

const Line = styled.i`
  position: absolute;
  height: 4px;
  border-radius: 2px;
  background: ${desk.azalea};
  box-shadow: 0 0 0 1px ${desk.card};
  pointer-events: none;
  forced-color-adjust: none;
`

/** Takes that lie over one another in the song stand below one another, up to so many. */
const [DEEP, STEP] = [3, 6]

/** Which of the song the film shows: a line for each of its takes. */
export function TakesOnRibbon({ duration }: { duration: number }) {
  const wanted = useView((v) => v.film)
  const chosen = useFilmsState((s) => s.chosen)
  const film = useRoutine((s) => shownFilm(s.routine.films, { chosen }))
  if (!wanted || !film) return null
  const share = (s: number) => `${(100 * Math.max(0, Math.min(duration, s))) / Math.max(1, duration)}%`
  return film.takes.map((t, i) => {
    const over = film.takes.slice(0, i).filter((o) => o.at < songEndOf(t) && songEndOf(o) > t.at).length
    return (
      <Line
        key={t.from}
        data-testid="take"
        title={`The film shows this at ${Math.round(100 * t.rate)} %`}
        style={{
          left: share(t.at),
          width: `calc(${share(songEndOf(t))} - ${share(t.at)})`,
          top: -5 + (over % DEEP) * STEP,
        }}
      />
    )
  })
}
