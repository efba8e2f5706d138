'use client'

import { useMemo } from 'react'
import {
  beganAt,
  type FilmStamp,
  stampLines,
  stepStamps,
  takeName,
  takeStamps,
  takesThatCount,
} from '@/core/film'
import type { Film } from '@/core/routine'
import { clockText } from '@/core/time'
import { filmTitle } from '../../film/film-title'
import { Choice } from '../../parts/choice'
import { fetchLessons, fetchLog } from '../../state/api-log'
import type { Page } from '../../state/page'
import { useLog } from '../../state/use-log'
import { desk } from '../../theme/tokens'

/** Of whose time a text speaks: that of the song, or of a film. */
export function TimesOf({
  films,
  chosen,
  onChoose,
}: {
  films: readonly Film[]
  chosen: string
  onChoose: (id: string) => void
}) {
  if (!films.length) return null
  return (
    <Choice
      label="Times of"
      value={chosen}
      options={[{ id: '', name: 'the song' }, ...films.map((f) => ({ id: f.id, name: filmTitle(f) }))]}
      onChange={onChoose}
    />
  )
}

export interface FilmTimes {
  lines: readonly string[]
  stamps: readonly FilmStamp[]
  /** Where the times come from: the lesson that was held while it ran, or what is danced in it. */
  by: 'lesson' | 'takes'
}

/** Where in a film things are: by the lesson's steps, where its log is of that evening; else by its takes. */
export function useFilmTimes(id: string, film: Film | null, page: Page): FilmTimes | null {
  const danced = useLog(fetchLog, id, true)
  const steps = useLog(fetchLessons, id, true)
  return useMemo(() => {
    if (!film) return null
    const began = beganAt(film, danced.rows)
    const told = began === null ? [] : stepStamps(film, steps.rows, began)
    const stamps = told.length > 1 ? told : takeStamps(film, page.placed, page.times)
    return { stamps, lines: stampLines(stamps), by: told.length > 1 ? 'lesson' : 'takes' }
  }, [film, page, danced.rows, steps.rows])
}

/** What of a film is not in its chapters, and where those come from. */
export function FilmTimesSaid({ film, page, by }: { film: Film; page: Page; by: FilmTimes['by'] }) {
  const { again } = takesThatCount(film.takes)
  return (
    <div style={{ color: desk.quiet, fontSize: 14, display: 'grid', gap: 4 }}>
      <p>
        {by === 'lesson'
          ? 'The times are those of the lesson that was held on the floor while this film ran.'
          : 'The times are those of what is danced in this film.'}
      </p>
      {again.length > 0 && (
        <p>
          Danced again later, and left out:{' '}
          {again.map((t) => `${clockText(t.from)} ${takeName(t, page.placed, page.times)}`).join('; ')}.
        </p>
      )}
    </div>
  )
}
