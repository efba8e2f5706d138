'use client'

import { useEffect, useMemo, useState } from 'react'
import styled from 'styled-components'
import { type CountStill, countStills, shownFilm } from '@/core/film'
import { labelIn, phraseAt } from '@/core/routine'
import type { SheetLine } from '@/core/station'
import { type Seconds, TICKS_PER_COUNT } from '@/core/time'
import { filmUrl } from '../state/film-file'
import { useFilms, useFilmsState } from '../state/films'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { useView } from '../state/view'
import { desk } from '../theme/tokens'

/** Height of a strip of stills, and the room below it. */
export const [STRIP, BELOW] = [58, 6]

const Box = styled.div`
  position: absolute;
  left: 0;
  right: 0;
  height: ${STRIP}px;
  pointer-events: none !important;
`

const Picture = styled.div`
  position: absolute;
  top: 0;
  bottom: 0;
  border-radius: 7px;
  overflow: hidden;
  background: ${desk.line};
  img { width: 100%; height: 100%; object-fit: contain; background: #000; display: block; }
  &[data-turned] img { transform: scaleX(-1); }
  &[data-none] { background: none; border: 1.5px dotted ${desk.edge}; }
`

/** True where stills stand over the lanes: they are wanted, and there is a film with takes. */
export function useStillsWanted(): boolean {
  const wanted = useView((v) => v.film && v.stills)
  const chosen = useFilmsState((s) => s.chosen)
  const any = useRoutine((s) => (shownFilm(s.routine.films, { chosen })?.takes.length ?? 0) > 0)
  return wanted && any
}

/** A picture of each count of a row, of the film that is shown. */
export function StillsStrip({
  line,
  columns,
  page,
  top,
}: {
  line: SheetLine
  columns: number
  page: Page
  top: number
}) {
  const films = useRoutine((s) => s.routine.films)
  const chosen = useFilmsState((s) => s.chosen)
  const mirrored = useView((v) => v.mirrored)
  const film = shownFilm(films, { chosen })
  const stills = useMemo(
    () => (film ? countStills(film, page.times, { from: line.start, to: line.end }) : []),
    [film, page.times, line.start, line.end],
  )
  if (!film) return null
  return (
    <Box style={{ top }} data-testid="stills">
      {stills.map((still) => (
        <Picture
          key={still.at}
          data-none={still.film === null || undefined}
          data-turned={mirrored !== film.mirrored || undefined}
          style={{
            left: `calc(${((still.at - line.start) / TICKS_PER_COUNT / columns) * 100}% + 2px)`,
            width: `calc(${100 / columns}% - 5px)`,
          }}
        >
          <Still still={still} file={film.file} page={page} />
        </Picture>
      ))}
    </Box>
  )
}

function Still({ still, file, page }: { still: CountStill; file: string; page: Page }) {
  const picture = useStill(file, still.film)
  const at = phraseAt(page.placed, still.at)
  // biome-ignore lint/performance/noImgElement: it is made here, out of a film
  return picture ? <img src={picture} alt={at ? `Count ${labelIn(at, still.at)} in the film` : ''} /> : null
}

/** The address of a picture of a film, as soon as it is there. */
export function useStill(file: string, at: Seconds | null): string | null {
  const { stills } = useFilms()
  const url = filmUrl(file)
  const [picture, setPicture] = useState<string | null>(() =>
    at === null ? null : (stills.there(url, at) ?? null),
  )
  useEffect(() => {
    if (at === null) return setPicture(null)
    return stills.ask(url, at, setPicture)
  }, [stills, url, at])
  return picture
}
