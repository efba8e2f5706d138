'use client'

import { X } from 'lucide-react'
import { useRef } from 'react'
import styled from 'styled-components'
import { comparedFilms, type Way } from '@/core/film'
import { type Film, labelIn, phraseAt, placeName } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
import { Button } from '../parts/button'
import { Choice } from '../parts/choice'
import { Pick, Slide } from '../parts/field'
import { OverSheet } from '../parts/panel'
import { useMoments } from '../sheet/playhead'
import { useCursor } from '../state/cursor'
import { useFilms, useFilmsState } from '../state/films'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { useView } from '../state/view'
import { desk, font } from '../theme/tokens'
import { AddFilms, FilmTasks, FilmZone } from './add-films'
import { CompareNotes } from './compare-notes'
import { filmTitle } from './film-title'
import { FilmView } from './film-view'

const Head = styled.div`
  display: flex;
  align-items: center;
  gap: 14px;
  h2 { margin: 0; }
  > * { min-width: 0; }
  > [role='radiogroup'], > :has([role='radiogroup']) { flex: none; }
  > :last-child { margin-left: auto; }
`

const Pictures = styled.div<{ $way: Way }>`
  position: relative;
  display: grid;
  grid-template-columns: ${(p) => (p.$way === 'beside' ? 'minmax(0, 1fr) minmax(0, 1fr)' : 'minmax(0, 1fr)')};
  gap: 10px;
  ${(p) => p.$way !== 'beside' && 'max-width: 760px; width: 100%; justify-self: center; > figure { grid-area: 1 / 1; }'}
  figure { margin: 0; position: relative; min-width: 0; }
  figcaption { font-size: 13.5px; color: ${desk.quiet}; margin-top: 4px; overflow-wrap: anywhere; }
`

const Count = styled.strong`
  position: absolute;
  top: 8px;
  left: 50%;
  transform: translateX(-50%);
  z-index: 3;
  min-width: 1.6em;
  padding: 2px 12px;
  border-radius: 12px;
  background: rgb(0 0 0 / 0.66);
  color: #fff;
  font: 700 30px/1.25 ${font.display};
  text-align: center;
`

/** Two films of the dance locked to its counts: beside one another, one over the other, or wiped. Pictures are judged by people. */
export function Compare({ page }: { page: Page }) {
  const films = useRoutine((s) => s.routine.films)
  const state = useFilmsState((s) => s)
  const send = useFilms()
  const two = comparedFilms(films, state)
  const close = () => send.send({ kind: 'compare no more' })
  return (
    <OverSheet aria-label="Comparing two films">
      <Head>
        <h2>Compare</h2>
        <AddFilms strong={!two} />
        <Button small look="quiet" onPress={close} aria-label="Back to the sheet">
          <X size={17} />
        </Button>
      </Head>
      <FilmZone>
        <FilmTasks />
        {two ? (
          <Both page={page} films={films} two={two} />
        ) : (
          <p>
            {films.length ? 'There is one film of this dance. ' : 'There is no film of this dance yet. '}
            Add the one to compare with, or drop it here: it finds its own place in the song. Say in its
            settings who dances in it.
          </p>
        )}
      </FilmZone>
    </OverSheet>
  )
}

function Both({ page, films, two: [one, other] }: { page: Page; films: readonly Film[]; two: [Film, Film] }) {
  const desk = useFilms()
  const { way, share } = useFilmsState((s) => s.compare) ?? { way: 'beside' as Way, share: 0.5 }
  const mirrored = useView((v) => v.mirrored)
  const options = films.map((f) => ({ id: f.id, name: filmTitle(f) }))
  const picture = (film: Film) => (
    <FilmView
      key={film.id}
      {...{ film, page }}
      turned={mirrored !== film.mirrored}
      label={`${filmTitle(film)}, at the count of the cursor`}
    />
  )
  const over =
    way === 'over'
      ? { opacity: share }
      : way === 'wipe'
        ? { clipPath: `inset(0 0 0 ${100 * (1 - share)}%)` }
        : {}
  return (
    <>
      <Head>
        <Choice
          label="One film"
          hideLabel
          value={one.id}
          options={options}
          onChange={(id) => desk.send({ kind: 'choose', film: id })}
        />
        <Pick
          label="How they are held against each other"
          hideLabel
          value={way}
          options={[
            { id: 'beside', name: 'Side by side' },
            { id: 'over', name: 'One over the other' },
            { id: 'wipe', name: 'Wipe' },
          ]}
          onChange={(w: Way) => desk.send({ kind: 'compare', what: { way: w } })}
        />
        <Choice
          label="The other film"
          hideLabel
          value={other.id}
          options={options.filter((o) => o.id !== one.id)}
          onChange={(id) => desk.send({ kind: 'compare', what: { other: id } })}
        />
      </Head>
      <Pictures $way={way}>
        <CountNow page={page} />
        <figure>
          {picture(one)}
          {way === 'beside' && <figcaption>{filmed(one)}</figcaption>}
        </figure>
        <figure style={over}>
          {picture(other)}
          {way === 'beside' && <figcaption>{filmed(other)}</figcaption>}
        </figure>
      </Pictures>
      {way !== 'beside' && (
        <Slide
          label={
            way === 'over' ? `How thick ${filmTitle(other)} lies over` : `How much of ${filmTitle(other)}`
          }
          name={way === 'over' ? 'How thick the other film lies over' : 'How much of the other film is seen'}
          value={share}
          min={0}
          max={1}
          step={0.05}
          text={(x) => `${Math.round(100 * x)} %`}
          onChange={(x) => desk.send({ kind: 'compare', what: { share: x } })}
        />
      )}
      <CountsRow page={page} two={[one, other]} />
      <CompareNotes page={page} one={one} other={other} />
    </>
  )
}

const DAY = { day: 'numeric', month: 'short', year: 'numeric' } as const

const filmed = (film: Film): string =>
  [
    filmTitle(film),
    { front: '', back: 'from behind', side: 'from the side' }[film.side],
    film.filmed && new Date(`${film.filmed}T12:00:00Z`).toLocaleDateString('en-GB', DAY),
    film.mirrored && 'filmed as in a mirror',
    !film.takes.length && (film.searched ? 'the song was not found in it' : 'not searched yet'),
  ]
    .filter(Boolean)
    .join(' · ')

/** The count that is seen, in the pictures. */
function CountNow({ page }: { page: Page }) {
  const tick = useCursor((s) => s.tick)
  const ref = useRef<HTMLElement>(null)
  useMoments(page, (now) => {
    const at = phraseAt(page.placed, now ?? tick)
    const text = at ? labelIn(at, Math.floor((now ?? tick) / 12) * 12) : '·'
    if (ref.current && ref.current.textContent !== text) ref.current.textContent = text
  })
  const here = phraseAt(page.placed, tick)
  return (
    <Count ref={ref} aria-hidden>
      {here ? labelIn(here, tick) : '·'}
    </Count>
  )
}

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  > span { flex: none; min-width: 150px; font-size: 14px; color: ${desk.quiet}; }
`

/** The counts of the phrase at the cursor; those with a note are marked. */
function CountsRow({ page, two }: { page: Page; two: readonly Film[] }) {
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const here = phraseAt(page.placed, tick)
  if (!here) return null
  const counts = Array.from({ length: here.phrase.length }, (_, i) => here.start + i * TICKS_PER_COUNT)
  const noted = (at: number) =>
    two.some((f) => f.notes.some((n) => n.at >= at && n.at < at + TICKS_PER_COUNT))
  return (
    <Row role="group" aria-label="Counts of this phrase">
      <span>{placeName(here)}</span>
      {counts.map((at) => (
        <Button
          key={at}
          small
          look={at === Math.floor(tick / TICKS_PER_COUNT) * TICKS_PER_COUNT ? 'strong' : 'plain'}
          onPress={() => to(at)}
          aria-label={`Count ${labelIn(here, at)}${noted(at) ? ', with a note' : ''}`}
        >
          {labelIn(here, at)}
          {noted(at) ? ' •' : ''}
        </Button>
      ))}
    </Row>
  )
}
