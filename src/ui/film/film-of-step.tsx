'use client'

import { filmFor, pictureAt, placeInFilm, takeFor } from '@/core/film'
import type { Film } from '@/core/routine'
import { type Ratio, type Stretch, timeOfTick } from '@/core/time'
import { Button } from '../parts/button'
import { Part, Tools } from '../parts/panel'
import { useStarts } from '../state/choreo'
import { useFilmsState } from '../state/films'
import type { Page } from '../state/page'
import { usePlayer, usePlayerState } from '../state/player'
import { useRoutine } from '../state/routine-store'
import { useView } from '../state/view'
import { filmTitle } from './film-title'
import { FilmView } from './film-view'

interface Props {
  page: Page
  /** The counts that are taught. */
  stretch: Stretch
  /** How fast they are danced. */
  speed: Ratio
}

/** The film of what a step teaches: its first count, and on wish played over and over. Nothing where no film shows it. */
export function FilmOfStep({ page, stretch, speed }: Props) {
  const films = useRoutine((s) => s.routine.films)
  const chosen = useFilmsState((s) => s.chosen)
  const wanted = useView((v) => v.film)
  const show = useView((v) => v.show)
  const piece = { from: timeOfTick(page.times, stretch.from), to: timeOfTick(page.times, stretch.to) }
  const film = filmFor(films, chosen, piece, speed)
  if (!film) return null
  if (!wanted)
    return (
      <Tools>
        <Button small onPress={() => show({ film: true })} hotkey="film">
          See it in the film
        </Button>
      </Tools>
    )
  const first = placeInFilm(film, piece.from, speed, piece)
  // A film that begins within these counts shows the first it has of them.
  const begins = takeFor(film.takes, piece, speed)?.from
  return (
    <Part aria-label="Film of this step">
      <Seen {...{ film, page, stretch, speed }} at={first ? pictureAt(film, first.at) : (begins ?? null)} />
    </Part>
  )
}

function Seen({ film, page, stretch, at }: Props & { film: Film; at: number | null }) {
  const mirrored = useView((v) => v.mirrored)
  const show = useView((v) => v.show)
  const playing = usePlayerState((s) => s.playing)
  const player = usePlayer()
  const starts = useStarts()
  return (
    <>
      <FilmView
        key={film.id}
        {...{ film, page }}
        free={playing ? null : at}
        turned={mirrored !== film.mirrored}
        label={`${filmTitle(film)}, the first count of this step`}
      />
      <Tools>
        {playing ? (
          <Button small onPress={() => player.stop()}>
            Stop
          </Button>
        ) : (
          <Button
            small
            tip="Over and over, at the speed beside the song"
            onPress={() => player.playFrom(page, stretch.from, starts, stretch)}
          >
            Play these counts
          </Button>
        )}
        <Button small look="quiet" onPress={() => show({ film: false })} hotkey="film">
          Put it away
        </Button>
      </Tools>
    </>
  )
}
