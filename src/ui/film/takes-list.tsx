'use client'

import { Hand, X } from 'lucide-react'
import styled from 'styled-components'
import { songEndOf } from '@/core/film'
import { type Film, type FilmTake, moveTakeEnds, phraseAt, removeTake } from '@/core/routine'
import { clockText, type Seconds, tickOfTime } from '@/core/time'
import { Button } from '../parts/button'
import { More } from '../parts/more'
import { Tools } from '../parts/panel'
import { spokenPlace } from '../sheet/sheet'
import { useCursor } from '../state/cursor'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk } from '../theme/tokens'

const Take = styled.li`
  display: grid;
  gap: 4px;
  padding: 7px 0;
  border-top: 1px solid ${desk.line};
  font-size: 13.5px;
  > span { color: ${desk.quiet}; }
  svg { vertical-align: -2px; }
`

/** Where of the dance a time of the song lies, as people say it. */
export function placeOfTime(page: Page, song: Seconds): string {
  if (page.times.length < 2) return ''
  const tick = tickOfTime(page.times, song)
  const last = page.placed.at(-1)
  if (!last || !page.placed[0]) return ''
  const inside = Math.max(page.placed[0].start, Math.min(last.end - 1, Math.round(tick / 24) * 24))
  return phraseAt(page.placed, inside) ? spokenPlace(page, inside) : ''
}

/** The takes of a film, each to be gone to, moved at its ends, taken out. */
export function TakesList({ film, page, now }: { film: Film; page: Page; now: () => Seconds }) {
  if (!film.takes.length) return null
  return (
    <More name={film.takes.length === 1 ? 'One take' : `${film.takes.length} takes`}>
      <ol style={{ listStyle: 'none', margin: 0, padding: 0 }}>
        {film.takes.map((take, index) => (
          <OneTake key={take.from} {...{ film, page, take, index, now }} />
        ))}
      </ol>
    </More>
  )
}

interface OneProps {
  film: Film
  page: Page
  take: FilmTake
  index: number
  now: () => Seconds
}

function OneTake({ film, page, take, index, now }: OneProps) {
  const edit = useRoutine((s) => s.edit)
  const goTo = () => {
    const first = page.placed[0]
    if (first)
      useCursor.getState().to(Math.max(first.start, Math.round(tickOfTime(page.times, take.at) / 24) * 24))
  }
  const place = placeOfTime(page, take.at + 0.05)
  return (
    <Take>
      <div>
        <strong>{place}</strong> to {placeOfTime(page, songEndOf(take) - 0.05)}
      </div>
      <span>
        {clockText(take.from, true)} – {clockText(take.to, true)} of the film, {Math.round(100 * take.rate)}{' '}
        %,{' '}
        {take.by === 'hand' ? (
          <>
            <Hand size={13} aria-hidden /> placed by hand
          </>
        ) : (
          'found by its sound'
        )}
      </span>
      <Tools>
        <Button small look="quiet" onPress={goTo}>
          Go there
        </Button>
        <Button
          small
          look="quiet"
          tip="The take begins at the picture that is seen"
          onPress={() =>
            edit('move the beginning of a take', (r) => moveTakeEnds(r, film.id, index, { from: now() }))
          }
        >
          Begins here
        </Button>
        <Button
          small
          look="quiet"
          tip="The take ends at the picture that is seen"
          onPress={() =>
            edit('move the end of a take', (r) => moveTakeEnds(r, film.id, index, { to: now() }))
          }
        >
          Ends here
        </Button>
        <Button
          small
          look="quiet"
          aria-label={`Take it out: ${place}`}
          tip="The song does not play there, or not so"
          onPress={() => edit('take a take out', (r) => removeTake(r, film.id, index))}
        >
          <X size={15} />
        </Button>
      </Tools>
    </Take>
  )
}
