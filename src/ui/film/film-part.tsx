'use client'

import { Settings2, X } from 'lucide-react'
import { usePathname } from 'next/navigation'
import { type ReactNode, useCallback, useEffect, useRef, useState } from 'react'
import styled from 'styled-components'
import { shownFilm, takeAt } from '@/core/film'
import type { Film } from '@/core/routine'
import { clockText, type Seconds } from '@/core/time'
import { Button } from '../parts/button'
import { Choice } from '../parts/choice'
import { Part, Tools } from '../parts/panel'
import { useCursor } from '../state/cursor'
import { useFilms, useFilmsState } from '../state/films'
import type { Page } from '../state/page'
import { usePlayerState } from '../state/player'
import { useRoutine } from '../state/routine-store'
import { useView } from '../state/view'
import { desk } from '../theme/tokens'
import { AddFilms, FilmTasks, FilmZone } from './add-films'
import { FilmFactsDialog } from './film-facts'
import { FilmLine } from './film-line'
import { filmTitle } from './film-title'
import { FilmView } from './film-view'
import { PlaceByHand } from './place-by-hand'
import { TakesList } from './takes-list'

const Head = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  h2 { flex: 1; margin: 0; }
`

const Said = styled.p`
  display: flex;
  justify-content: space-between;
  gap: 8px;
  font-variant-numeric: tabular-nums;
  min-height: 1.4em;
`

const Whole = styled.div`
  padding-bottom: 16px;
  border-bottom: 1px solid ${desk.line};
`

interface Props {
  page: Page
  /** What else a station does with a film. */
  tools?: ReactNode
  /** The picture and its line alone. */
  bare?: boolean
}

/** The film where one works: any station holds it beside its sheet while it is wanted. */
export function FilmPart(props: Props) {
  const wanted = useView((v) => v.film)
  if (!wanted) return null
  return (
    <Whole>
      <FilmZone>
        <Films {...props} />
      </FilmZone>
    </Whole>
  )
}

function Films(props: Props) {
  const show = useView((v) => v.show)
  const films = useRoutine((s) => s.routine.films)
  const chosen = useFilmsState((s) => s.chosen)
  const film = shownFilm(films, { chosen })
  return (
    <Part aria-label="Film">
      <Head>
        <h2>Film</h2>
        <AddFilms strong={!film} />
        <Button
          small
          look="quiet"
          aria-label="Put the film away"
          hotkey="film"
          onPress={() => show({ film: false })}
        >
          <X size={16} />
        </Button>
      </Head>
      <FilmTasks />
      {film ? (
        <Shown key={film.id} {...props} {...{ film, films }} />
      ) : (
        <p>
          Drop a film of your dance here: MP4, MOV or WebM. Azalea finds where in it the song plays, at which
          speed, and shows you each count. It stays on this machine.
        </p>
      )}
    </Part>
  )
}

function Shown({ film, films, page, tools, bare = false }: Props & { film: Film; films: readonly Film[] }) {
  const desk = useFilms()
  const free = useFilmsState((s) => s.free)
  const mirrored = useView((v) => v.mirrored)
  const [about, setAbout] = useState(false)
  const at = useRef<Seconds>(0)
  const head = useRef<HTMLElement>(null)
  const said = useRef<HTMLSpanElement>(null)
  useFollowAgain()
  const told = useCallback(
    (now: Seconds) => {
      if (Number.isNaN(now)) return
      at.current = now
      if (head.current) head.current.style.left = `${(100 * now) / film.seconds}%`
      const take = takeAt(film, now)
      const text = `${clockText(now, true)}${take ? ` · ${Math.round(100 * take.rate)} %` : ' · no take'}`
      if (said.current && said.current.textContent !== text) said.current.textContent = text
    },
    [film],
  )
  const now = useCallback(() => free ?? at.current, [free])
  const look = (s: Seconds) => desk.send({ kind: 'look', at: s })
  return (
    <>
      {films.length > 1 && (
        <Choice
          label="Which film"
          hideLabel
          value={film.id}
          options={films.map((f) => ({ id: f.id, name: filmTitle(f) }))}
          onChange={(id) => desk.send({ kind: 'choose', film: id })}
        />
      )}
      <FilmView
        {...{ film, page, free, told }}
        turned={mirrored !== film.mirrored}
        label={`${filmTitle(film)}, at the count of the cursor`}
      />
      <FilmLine {...{ film, head, now, look }} />
      <Said>
        <span ref={said} data-testid="film-at" />
        <span>{takesSaid(film)}</span>
      </Said>
      {!bare && (
        <>
          <PlaceByHand film={film} page={page} now={now} />
          <FilmTools film={film} open={() => setAbout(true)}>
            {tools}
          </FilmTools>
          <TakesList film={film} page={page} now={now} />
          <FilmFactsDialog film={film} isOpen={about} close={() => setAbout(false)} />
        </>
      )}
    </>
  )
}

/** A picture that is looked at for itself gives way when the cursor moves or something plays. */
function useFollowAgain(): void {
  const films = useFilms()
  const tick = useCursor((s) => s.tick)
  const playing = usePlayerState((s) => s.playing)
  // biome-ignore lint/correctness/useExhaustiveDependencies: these are what moves
  useEffect(() => films.send({ kind: 'moved' }), [films, tick, playing])
}

function FilmTools({ film, open, children }: { film: Film; open: () => void; children: ReactNode }) {
  const comparable = usePathname().endsWith('/cue')
  const films = useFilms()
  const placing = useFilmsState((s) => s.pins !== null)
  const searching = useFilmsState((s) => s.tasks.some((t) => t.id === `search ${film.id}` && !t.problem))
  const stills = useView((v) => v.stills)
  const show = useView((v) => v.show)
  return (
    <Tools>
      {film.takes.length > 0 && (
        <Button small onPress={() => show({ stills: !stills })} aria-pressed={stills}>
          {stills ? 'Without stills' : 'A still a count'}
        </Button>
      )}
      {film.takes.length > 0 && children}
      {comparable && (
        <Button
          small
          look={film.takes.length ? 'plain' : 'quiet'}
          onPress={() => films.send({ kind: 'compare', what: {} })}
        >
          Compare
        </Button>
      )}
      {!placing && (
        <Button
          small
          look={film.searched && !film.takes.length ? 'strong' : 'quiet'}
          onPress={() => films.send({ kind: 'place' })}
        >
          Place by hand
        </Button>
      )}
      {!searching && (
        <Button small look="quiet" onPress={() => films.search(film)}>
          {film.searched ? 'Look again' : 'Look for the song'}
        </Button>
      )}
      <Button
        small
        look="quiet"
        aria-label="What this film is"
        tip="Name, who dances, from where, when"
        onPress={open}
      >
        <Settings2 size={16} />
      </Button>
    </Tools>
  )
}

function takesSaid({ takes, searched }: Film): string {
  if (takes.length) return takes.length === 1 ? 'one take' : `${takes.length} takes`
  return searched ? 'the song was not found in it' : ''
}
