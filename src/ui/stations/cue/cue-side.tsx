'use client'

import { useEffect, useRef } from 'react'
import { phraseAt } from '@/core/routine'
import type { CueTab } from '@/core/station'
import { FilmPart } from '../../film/film-part'
import { Button } from '../../parts/button'
import { Pick } from '../../parts/field'
import { Panel } from '../../parts/panel'
import { PlacesPanel } from '../../places/places-panel'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { FirstStepLine } from '../first-step'
import { ChecksPanel } from './checks-panel'
import { CombinationsPart } from './combinations-part'
import { TABS } from './cue-keys'
import { CuePanel } from './cue-panel'
import { useCue, useCueLine } from './cue-store'
import { EightPanel } from './eight-panel'
import { HitsPart } from './hits-part'
import { LineHelp } from './line-help'
import { MovesPanel } from './moves-panel'
import { NameHits, NamingPart } from './naming-part'
import { RepeatPart } from './repeat-part'
import { SeveralLines } from './several-lines'
import { StancePart } from './stance-part'
import { StretchPart } from './stretch-part'
import { ViewBar } from './view-bar'

interface Props {
  id: string
  page: Page
}

/** What stands beside the sheet: the cue, its phrase, checks or moves; help while a line is typed. */
export function CueSide({ id, page }: Props) {
  const line = useCueLine((s) => s.open !== null)
  const several = useCueLine((s) => s.several !== null)
  const tab = useCue((s) => s.tab)
  const marked = useCursor((s) => s.marked !== null)
  const pressing = useCue((s) => s.pressing)
  const naming = useCue((s) => s.namingFrom !== null)
  const panel = useRef<HTMLElement>(null)
  const shown = `${tab} ${marked} ${line} ${pressing} ${naming}`
  const before = useRef(shown)
  useEffect(() => {
    // Another panel begins at its top. The first is there already: to be told so, the page would be laid out at once.
    if (before.current !== shown) panel.current?.scrollTo(0, 0)
    before.current = shown
  }, [shown])
  return (
    // While a line is open nothing in the panel takes the focus, and it may be longer than the window.
    <Panel ref={panel} aria-label="Cues, phrases, checks and moves" tabIndex={line ? 0 : undefined}>
      {several ? (
        <SeveralLines />
      ) : line ? (
        <LineHelp />
      ) : pressing || naming ? (
        <>
          <FilmPart page={page} bare />
          {pressing ? <HitsPart page={page} /> : <NameHits page={page} />}
        </>
      ) : (
        <>
          <FirstStepLine id={id} page={page} station="cue" />
          <FilmPart page={page} tools={<PressHits />} />
          <Tabs />
          <Versions />
          {tab === 'cue' && <NamingPart page={page} />}
          {tab === 'cue' && <NameHits page={page} />}
          {tab === 'cue' && (marked ? <Stretch id={id} page={page} /> : <CuePanel page={page} />)}
          {tab === 'eight' && <Phrase page={page} />}
          {tab === 'checks' && <ChecksPanel page={page} />}
          {tab === 'moves' && <MovesPanel />}
          {/* Its list comes from the server a moment later: nothing that is pressed may move when it comes. */}
          {tab === 'moves' && <CombinationsPart id={id} />}
          {tab === 'room' && <PlacesPanel page={page} />}
        </>
      )}
    </Panel>
  )
}

/** Under the film: a press on each hit. */
function PressHits() {
  const send = useCue((s) => s.send)
  return (
    <Button small onPress={() => send({ kind: 'press hits' })} hotkey="hits">
      Press on each hit
    </Button>
  )
}

function Tabs() {
  const tab = useCue((s) => s.tab)
  const send = useCue((s) => s.send)
  const found = useCue((s) => s.choreo.findings.length)
  // Five tabs have no room for more; how many there are stands at the head of the checks.
  const name = `Checks ${found > 99 ? '99+' : found}`
  const options = TABS.map((t) => (t.id === 'checks' && found ? { ...t, name } : t))
  return (
    <Pick
      label="What is beside the sheet"
      hideLabel
      value={tab}
      options={options}
      onChange={(next: CueTab) => send({ kind: 'tab', tab: next })}
    />
  )
}

function Versions() {
  return <ViewBar all={useCue((s) => s.choreo.all)} />
}

/** What is marked: what it holds, where the dancer stands, and what it repeats. */
function Stretch({ id, page }: Props) {
  const marked = useCursor((s) => s.marked)
  const row = useCursor((s) => phraseAt(page.placed, s.tick))
  if (!marked) return null
  return (
    <>
      <StretchPart id={id} page={page} marked={marked} />
      <StancePart page={page} of={marked} />
      {row && <RepeatPart key={`${marked.from} ${marked.to}`} page={page} placed={row} />}
    </>
  )
}

/** The phrase at the cursor. */
function Phrase({ page }: { page: Page }) {
  const row = useCursor((s) => phraseAt(page.placed, s.tick))
  return row && <EightPanel key={row.index} page={page} placed={row} />
}
