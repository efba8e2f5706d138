'use client'

import { Clapperboard, Redo2, Undo2 } from 'lucide-react'
import { usePathname } from 'next/navigation'
import { memo, type ReactNode } from 'react'
import styled from 'styled-components'
import { rangeText, tempoRange } from '@/core/grid'
import { danceOf } from '@/core/routine'
import { KeySheet } from '../keys/key-sheet'
import { bound } from '../keys/table'
import { Button } from '../parts/button'
import { Flower } from '../parts/flower'
import { LinkWhenMeant } from '../parts/link-when-meant'
import { Ribbon } from '../sheet/ribbon'
import { Transport } from '../sheet/transport'
import { useDance } from '../state/choreo'
import { useKeys } from '../state/keys'
import { type Page, usePage } from '../state/page'
import { useRoutine, useUndo } from '../state/routine-store'
import { useView } from '../state/view'
import { desk, font, NARROW } from '../theme/tokens'
import { Finder } from './finder'
import { GoTo } from './go-to'
import { EditNotice, SaveState, SaveTrouble } from './saving'
import { SpokenWords } from './spoken'

const Desk = styled.div`
  height: 100dvh;
  min-height: 560px;
  display: grid;
  grid-template-rows: auto auto 1fr auto;
  /* However long a name is, the page is as wide as its window. */
  grid-template-columns: minmax(0, 1fr);
  /* The page scrolls as one; what plays stays at hand. */
  ${NARROW} { height: auto; min-height: 100dvh; > footer { position: sticky; bottom: 0; z-index: 20; } }
  /* On paper there is only what the station makes. */
  @media print { display: block; height: auto; > header, > section, > footer { display: none; } [data-screen] { display: none !important; } }
`

const Top = styled.header`
  display: flex;
  align-items: center;
  gap: 16px;
  height: 58px;
  padding: 0 20px;
  background: ${desk.card};
  border-bottom: 1px solid ${desk.line};
  ${NARROW} { height: auto; flex-wrap: wrap; gap: 6px 12px; padding: 8px 12px; }
`

const Home = styled(LinkWhenMeant)`
  display: flex;
  align-items: center;
  gap: 9px;
  text-decoration: none;
  font: 700 20px/1 ${font.display};
  border-radius: 8px;
`

const Title = styled.div`
  min-width: 0;
  flex: 1;
  border-left: 1px solid ${desk.line};
  padding-left: 16px;
  ${NARROW} { flex-basis: 200px; }
  h1, span { display: block; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  h1 { font: 650 15px/1.35 ${font.text}; }
  span { font-size: 12.5px; color: ${desk.quiet}; }
`

const Stations = styled.nav`
  display: flex;
  gap: 4px;
  ${NARROW} { flex-wrap: wrap; }
  a {
    display: flex;
    align-items: center;
    gap: 8px;
    height: 38px;
    padding: 0 14px;
    border-radius: 10px;
    text-decoration: none;
    font-weight: 600;
    ${NARROW} { padding: 0 9px; }
  }
  a:hover { background: ${desk.azaleaSoft}; }
  a[aria-current] { background: ${desk.ink}; color: ${desk.paper}; }
`

const Seed = styled.i<{ $state: StationState }>`
  width: 9px;
  height: 9px;
  border-radius: 50% 50% 50% 2px;
  border: 2px solid ${(p) => (p.$state === 'ready' ? desk.ready : p.$state === 'work' ? desk.amber : desk.faint)};
  background: ${(p) => (p.$state === 'ready' ? desk.ready : 'transparent')};
`

type StationState = 'untouched' | 'work' | 'ready'
const STATE_NAMES: Record<StationState, string> = { untouched: 'not begun', work: 'in work', ready: 'ready' }

function useStationStates(page: Page) {
  const counted = page.placed.length > 0
  const cued = useRoutine((s) => s.routine.cues.length > 0)
  const planned = useRoutine((s) => s.routine.plans.length > 0)
  const touched = useRoutine(
    ({ routine: r }) => r.repairs.length > 0 || r.excerpt !== null || r.sections.some((s) => s.name),
  )
  return {
    count: counted ? (touched ? 'ready' : 'work') : 'untouched',
    cue: cued ? 'work' : 'untouched',
    teach: planned ? 'work' : 'untouched',
    floor: counted ? 'ready' : 'untouched',
  } satisfies Record<string, StationState>
}

/** Name, saving, undo and the stations. Each of its parts is drawn again only when what it shows changes, not with every edit. */
const TopBar = memo(function TopBar({ id, page }: { id: string; page: Page }) {
  const path = usePathname()
  const station = STATIONS.find(([key]) => path.endsWith(key))?.[0] ?? 'count'
  return (
    <Top>
      <Home href="/" aria-label="Azalea, to the shelf">
        <Flower /> Azalea
      </Home>
      <Named page={page} />
      <SaveState />
      <SpokenWords />
      <div>
        <UndoButtons />
        <Finder id={id} page={page} />
        <KeySheet station={station} />
        {(station === 'count' || station === 'cue') && (
          <>
            <FilmToggle />
            <GoTo page={page} />
          </>
        )}
      </div>
      <StationLinks id={id} page={page} path={path} />
    </Top>
  )
})

/** How fast the song is; where several were cut together, from the slowest to the fastest. */
const tempoWords = ({ tempo, tempi }: Page): string => (tempo ? rangeText(tempoRange(tempi, tempo)) : '')

/** What the routine is called, and how fast and long it is. */
function Named({ page }: { page: Page }) {
  const title = useRoutine((s) => s.routine.title)
  const credit = useRoutine((s) => s.routine.credit)
  const dance = danceOf(useDance())
  const counts = page.placed.length ? Math.round((dance.to - dance.from) / 24) : 0
  const size = counts
    ? `${counts < 16 && counts > 7 ? 'an eight' : `${Math.floor(counts / 8)} eights`}${counts % 8 ? ` + ${counts % 8}` : ''}`
    : 'not counted yet'
  return (
    <Title>
      <h1 title={title}>{title}</h1>
      <span>{[credit, tempoWords(page), size].filter(Boolean).join(' · ')}</span>
    </Title>
  )
}

function UndoButtons() {
  const { undo, redo, undoName, redoName } = useUndo()
  useKeys(bound({ undo: () => undo?.(), redo: () => redo?.() }))
  return (
    <>
      <Button
        look="quiet"
        small
        onPress={() => undo?.()}
        isDisabled={!undo}
        tip={`Undo${undoName && `: ${undoName}`}`}
        hotkey="undo"
        aria-label="Undo"
      >
        <Undo2 size={17} />
      </Button>
      <Button
        look="quiet"
        small
        onPress={() => redo?.()}
        isDisabled={!redo}
        tip={`Redo${redoName && `: ${redoName}`}`}
        hotkey="redo"
        aria-label="Redo"
      >
        <Redo2 size={17} />
      </Button>
    </>
  )
}

function StationLinks({ id, page, path }: { id: string; page: Page; path: string }) {
  const states = useStationStates(page)
  return (
    <Stations aria-label="Stations">
      {STATIONS.map(([key, name]) => (
        <LinkWhenMeant
          key={key}
          href={`/r/${id}/${key}`}
          aria-label={key in states ? `${name}, ${STATE_NAMES[states[key as keyof typeof states]]}` : name}
          aria-current={path.endsWith(key) ? 'page' : undefined}
        >
          {key in states && (
            <Seed
              $state={states[key as keyof typeof states]}
              title={STATE_NAMES[states[key as keyof typeof states]]}
              aria-hidden
            />
          )}
          {name}
        </LinkWhenMeant>
      ))}
    </Stations>
  )
}

/** Puts the film beside the sheet, or away. */
function FilmToggle() {
  const film = useView((v) => v.film)
  const show = useView((v) => v.show)
  return (
    <Button
      look="quiet"
      small
      onPress={() => show({ film: !film })}
      aria-pressed={film}
      aria-label="Film"
      tip="The film beside the sheet"
      hotkey="film"
    >
      <Clapperboard size={17} />
    </Button>
  )
}

const STATIONS = [
  ['count', 'Count'],
  ['cue', 'Cue'],
  ['teach', 'Teach'],
  ['floor', 'Floor'],
  ['log', 'Log'],
  ['hand-out', 'Hand out'],
] as const

/** The desk around a station: name, stations, ribbon, and the transport below. */
export function Frame({ id, children, bare = false }: { id: string; children: ReactNode; bare?: boolean }) {
  const page = usePage()
  return (
    <Desk>
      <TopBar id={id} page={page} />
      <section aria-label="The song at once, and what was saved">
        <SaveTrouble id={id} />
        <EditNotice />
        {!bare && <Ribbon page={page} />}
      </section>
      {children}
      {bare ? <span /> : <Transport page={page} />}
    </Desk>
  )
}
