'use client'

import { Redo2, Undo2 } from 'lucide-react'
import { nanoid } from 'nanoid'
import Link from 'next/link'
import { usePathname } from 'next/navigation'
import { memo, type ReactNode, useState } from 'react'
import styled from 'styled-components'
import { excerptOf } from '@/core/routine'
import { Button } from '../parts/button'
import { Flower } from '../parts/flower'
import { said as saidError } from '../parts/said'
import { Ribbon } from '../sheet/ribbon'
import { Transport } from '../sheet/transport'
import { useKeys } from '../state/keys'
import { outboxWords } from '../state/outbox'
import { outbox, useOutbox } from '../state/outbox-window'
import { type Page, usePage } from '../state/page'
import { useRoutine, useUndo } from '../state/routine-store'
import { copyRoutine, putRoutine, routineDocument } from '../state/saved'
import { desk, font } from '../theme/tokens'

const Desk = styled.div`
  height: 100dvh;
  min-height: 560px;
  display: grid;
  grid-template-rows: auto auto 1fr auto;
  /* However long a name is, the page is as wide as its window. */
  grid-template-columns: minmax(0, 1fr);
`

const Top = styled.header`
  display: flex;
  align-items: center;
  gap: 16px;
  height: 58px;
  padding: 0 20px;
  background: #fff;
  border-bottom: 1px solid ${desk.line};
`

const Home = styled(Link)`
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
  strong, span { display: block; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  strong { font-weight: 650; }
  span { font-size: 12.5px; color: ${desk.quiet}; }
`

const Stations = styled.nav`
  display: flex;
  gap: 4px;
  a {
    display: flex;
    align-items: center;
    gap: 8px;
    height: 38px;
    padding: 0 14px;
    border-radius: 10px;
    text-decoration: none;
    font-weight: 600;
  }
  a:hover { background: ${desk.azaleaSoft}; }
  a[aria-current] { background: ${desk.ink}; color: #fff; }
`

const Seed = styled.i<{ $state: StationState }>`
  width: 9px;
  height: 9px;
  border-radius: 50% 50% 50% 2px;
  border: 2px solid ${(p) => (p.$state === 'ready' ? '#4E9B74' : p.$state === 'work' ? '#C98A2B' : '#A392A6')};
  background: ${(p) => (p.$state === 'ready' ? '#4E9B74' : 'transparent')};
`

type StationState = 'untouched' | 'work' | 'ready'
const STATE_NAMES: Record<StationState, string> = { untouched: 'not begun', work: 'in work', ready: 'ready' }

const Save = styled.span<{ $bad: boolean }>`
  font-size: 12.5px;
  color: ${(p) => (p.$bad ? desk.danger : desk.quiet)};
  font-weight: ${(p) => (p.$bad ? 650 : 400)};
  max-width: 260px;
`

/** Whether the work is in the database, in words; all of it comes from the outbox. */
function SaveState() {
  const state = useOutbox((s) => s)
  const pending = useRoutine((s) => s.pending)
  const why = outboxWords(state)
  const said = why ? 'Not saved' : pending || state.waiting ? 'Saving …' : 'Saved'
  return (
    <Save $bad={why !== ''} role="status" title={why} data-testid="saving">
      {said}
    </Save>
  )
}

const Trouble = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  padding: 8px 20px;
  background: ${desk.amberSoft};
  border-bottom: 2px solid ${desk.amber};
`

/** What kept the work from being saved, and what to do. */
function SaveTrouble({ id }: { id: string }) {
  const state = useOutbox((s) => s)
  const routine = useRoutine((s) => s.routine)
  const [failed, setFailed] = useState('')
  const why = outboxWords(state)
  if (!why) return null
  const mine = routineDocument(id)
  const refused = state.refused.at(-1)
  const again = () => {
    outbox().giveUp(mine)
    location.reload()
  }
  const keep = async () => {
    try {
      const copy = await copyRoutine(id)
      const title = `${routine.title.slice(0, 180)} (from this window)`
      await putRoutine(copy, { revision: 0, writer: nanoid(12), save: 1 }, { ...routine, title })
      outbox().giveUp(mine)
      location.assign(`/r/${copy}/cue`)
    } catch (error) {
      setFailed(saidError(error))
    }
  }
  return (
    <Trouble role="alert">
      <span>{failed || why}</span>
      <Tools>
        {state.conflicts.has(mine) ? (
          <>
            <Button small onPress={again}>
              Load it again
            </Button>
            <Button
              small
              onPress={keep}
              tip="What is on this page becomes a routine of its own; the other stays"
            >
              Keep mine as a copy
            </Button>
          </>
        ) : refused ? (
          <Button small onPress={() => outbox().dismiss(refused.id)}>
            I have read it
          </Button>
        ) : (
          state.trouble && (
            <Button small onPress={() => outbox().now()}>
              Try now
            </Button>
          )
        )}
      </Tools>
    </Trouble>
  )
}

const Told = styled(Trouble)`
  background: #fff;
  border-bottom: 2px solid ${desk.azalea};
`

/** What the last edit took away or could not do, where the person looks, with undo beside it. */
function EditNotice() {
  const notice = useRoutine((s) => s.notice)
  const read = useRoutine((s) => s.read)
  const { undo } = useUndo()
  if (!notice) return null
  return (
    <Told role="alert" data-testid="notice">
      <span>{notice.text}</span>
      <Tools>
        {notice.kind === 'took' && undo && (
          <Button small onPress={undo} hotkey="ctrl Z">
            Undo
          </Button>
        )}
        <Button small look="quiet" onPress={read}>
          Close
        </Button>
      </Tools>
    </Told>
  )
}

function useStationStates(page: Page) {
  const routine = useRoutine((s) => s.routine)
  const counted = page.placed.length > 0
  const cued = routine.cues.length > 0
  const touched =
    routine.repairs.length > 0 || routine.excerpt !== null || routine.sections.some((s) => s.name)
  return {
    count: counted ? (touched ? 'ready' : 'work') : 'untouched',
    cue: cued ? 'work' : 'untouched',
    teach: routine.plans.length > 0 ? 'work' : 'untouched',
    floor: counted ? 'ready' : 'untouched',
  } satisfies Record<string, StationState>
}

/** Name, saving, undo and the stations: drawn again only when one of them changes. */
const TopBar = memo(function TopBar({ id, page }: { id: string; page: Page }) {
  const routine = useRoutine((s) => s.routine)
  const { undo, redo, undoName, redoName } = useUndo()
  const path = usePathname()
  const states = useStationStates(page)
  useKeys({ '$mod+z': () => undo?.(), '$mod+Shift+z': () => redo?.(), '$mod+y': () => redo?.() })
  const dance = excerptOf(routine)
  const counts = page.placed.length ? Math.round((dance.to - dance.from) / 24) : 0
  const size = counts
    ? `${Math.floor(counts / 8)} eights${counts % 8 ? ` + ${counts % 8}` : ''}`
    : 'not counted yet'
  return (
    <Top>
      <Home href="/" aria-label="Azalea, to the shelf">
        <Flower /> Azalea
      </Home>
      <Title>
        <strong title={routine.title}>{routine.title}</strong>
        <span>
          {[routine.credit, page.tempo ? `${Math.round(page.tempo)} BPM` : '', size]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </Title>
      <SaveState />
      <div>
        <Button
          look="quiet"
          small
          onPress={() => undo?.()}
          isDisabled={!undo}
          tip={`Undo${undoName && `: ${undoName}`}`}
          hotkey="ctrl Z"
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
          hotkey="ctrl shift Z"
          aria-label="Redo"
        >
          <Redo2 size={17} />
        </Button>
      </div>
      <Stations aria-label="Stations">
        {STATIONS.map(([key, name]) => (
          <Link
            key={key}
            href={`/r/${id}/${key}`}
            aria-label={key === 'log' ? name : `${name}, ${STATE_NAMES[states[key]]}`}
            aria-current={path.endsWith(key) ? 'page' : undefined}
          >
            {key !== 'log' && <Seed $state={states[key]} title={STATE_NAMES[states[key]]} aria-hidden />}
            {name}
          </Link>
        ))}
      </Stations>
    </Top>
  )
})

const STATIONS = [
  ['count', 'Count'],
  ['cue', 'Cue'],
  ['teach', 'Teach'],
  ['floor', 'Floor'],
  ['log', 'Log'],
] as const

/** The desk around a station: name, stations, ribbon, and the transport below. */
export function Frame({ id, children, bare = false }: { id: string; children: ReactNode; bare?: boolean }) {
  const page = usePage()
  return (
    <Desk>
      <TopBar id={id} page={page} />
      <div>
        <SaveTrouble id={id} />
        <EditNotice />
        {!bare && <Ribbon page={page} />}
      </div>
      {children}
      {bare ? <span /> : <Transport page={page} />}
    </Desk>
  )
}

/** A station's page on the desk: the sheet, and a panel beside it. */
export const Sides = styled.main`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  min-height: 0;
  border-top: 1px solid ${desk.line};
`

/** The panel beside the sheet. */
export const Panel = styled.aside`
  border-left: 1px solid ${desk.line};
  background: #fff;
  overflow-y: auto;
  padding: 16px 18px 24px;
  display: grid;
  gap: 20px;
  align-content: start;
`

/** A part of the panel with its heading. */
export const Part = styled.section`
  display: grid;
  gap: 9px;
  p { font-size: 13.5px; color: ${desk.quiet}; }
`

/** Buttons side by side, wrapping. */
export const Tools = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 7px;
`
