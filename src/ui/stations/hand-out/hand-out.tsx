'use client'

import { useMemo, useState } from 'react'
import { Radio, RadioGroup } from 'react-aria-components'
import styled from 'styled-components'
import { type Contents, nothingIn, usualContents } from '@/core/handout'
import { Button } from '../../parts/button'
import { Part } from '../../parts/panel'
import { useBook } from '../../state/moves-store'
import { usePage } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { desk, font, NARROW } from '../../theme/tokens'
import { Frame } from '../frame'
import { CaptionsOut } from './captions-out'
import { ContentsPart } from './contents-part'
import { DatesOut } from './dates-out'
import { FilmOut } from './film-out'
import { GridOut } from './grid-out'
import { FOR, KIND_NAMES, type Kind, PEOPLE, type Person } from './kinds'
import { PageOut } from './page-out'
import { RoutineOut } from './routine-out'
import { SheetOut } from './sheet-out'
import { SoundOut } from './sound-out'
import { TableOut } from './table-out'
import { TextOut } from './text-out'

const Three = styled.main`
  display: grid;
  grid-template-columns: clamp(190px, 18vw, 230px) minmax(0, 1fr) clamp(215px, 21vw, 270px);
  min-height: 0;
  border-top: 1px solid ${desk.line};
  ${NARROW} { grid-template-columns: minmax(0, 1fr); }
  > * { overflow-y: auto; padding: 18px 20px 28px; display: grid; grid-template-columns: minmax(0, 1fr); gap: 18px; align-content: start; }
  > aside { background: ${desk.card}; }
  > aside:first-child { border-right: 1px solid ${desk.line}; }
  > aside:last-child { border-left: 1px solid ${desk.line}; }
  @media print {
    display: block;
    > aside { display: none; }
    > section { overflow: visible; padding: 0; }
  }
`

const People = styled(RadioGroup)`
  display: grid;
  gap: 2px;
  label {
    padding: 8px 10px;
    border-radius: 9px;
    cursor: pointer;
    border: 1.5px solid transparent;
    &[data-selected] { border-color: ${desk.ink}; font-weight: 650; background: ${desk.paper}; }
    &[data-hovered] { background: ${desk.azaleaSoft}; }
    &[data-focus-visible] { outline: 3px solid ${desk.azalea}; outline-offset: 1px; }
  }
`

const Kinds = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 4px;
  button { width: 100%; justify-content: flex-start; }
  [aria-pressed='true'] { background: ${desk.azaleaSoft}; border-color: ${desk.azalea}; }
`

const Empty = styled.p`
  font: 600 18px/1.4 ${font.display};
  color: ${desk.quiet};
  max-width: 460px;
`

/** What goes out whole, whatever is chosen. */
const WHOLE: Partial<Record<Kind, string>> = {
  routine: 'All of the dance goes with it.',
  grid: 'All counts of the song go with it.',
  dates: 'Every lesson goes with it, with what is new in it and what comes back.',
}

/** The Hand out station: for whom, what it will be, and what is in it. */
export function HandOut({ id }: { id: string }) {
  const page = usePage()
  const routine = useRoutine((s) => s.routine)
  const book = useBook()
  const [who, setWho] = useState<Person>('learners')
  const [kind, setKind] = useState<Kind>('sheet')
  const [chosen, setChosen] = useState<Partial<Contents>>({})
  const contents = useMemo<Contents>(() => ({ ...usualContents(routine), ...chosen }), [routine, chosen])
  const choose = (person: Person) => {
    setWho(person)
    const { kinds } = FOR[person]
    if (!kinds.includes(kind)) setKind(kinds[0] as Kind)
  }
  const whole = WHOLE[kind]
  const nothing = whole ? '' : nothingIn(routine, page.times, contents)
  const props = { id, page, routine, book, contents }
  return (
    <Frame id={id}>
      <Three>
        <aside aria-label="For whom">
          <Part>
            <h2 id="for-whom">Who is it for?</h2>
            <People aria-labelledby="for-whom" value={who} onChange={(v) => choose(v as Person)}>
              {PEOPLE.map((p) => (
                <Radio key={p} value={p}>
                  {FOR[p].name}
                </Radio>
              ))}
            </People>
          </Part>
          <Part>
            <h2>What</h2>
            <Kinds>
              {FOR[who].kinds.map((k) => (
                <li key={k}>
                  <Button small look="quiet" aria-pressed={k === kind} onPress={() => setKind(k)}>
                    {KIND_NAMES[k]}
                  </Button>
                </li>
              ))}
            </Kinds>
          </Part>
        </aside>
        <section aria-label={KIND_NAMES[kind]} data-testid="preview">
          {nothing ? (
            <Empty role="status">{nothing}</Empty>
          ) : kind === 'sheet' ? (
            <SheetOut {...props} />
          ) : kind === 'page' ? (
            <PageOut {...props} />
          ) : kind === 'text' ? (
            <TextOut {...props} />
          ) : kind === 'captions' ? (
            <CaptionsOut {...props} />
          ) : kind === 'table' ? (
            <TableOut {...props} />
          ) : kind === 'sound' ? (
            <SoundOut {...props} />
          ) : kind === 'film' ? (
            <FilmOut {...props} />
          ) : kind === 'grid' ? (
            <GridOut {...props} />
          ) : kind === 'dates' ? (
            <DatesOut {...props} />
          ) : (
            <RoutineOut {...props} />
          )}
        </section>
        <aside aria-label="What is in it">
          {whole ? (
            <p style={{ color: desk.quiet, fontSize: 14 }}>{whole}</p>
          ) : (
            <ContentsPart
              {...{ page, routine, contents, kind }}
              onChange={(what) => setChosen((c) => ({ ...c, ...what }))}
            />
          )}
        </aside>
      </Three>
    </Frame>
  )
}
