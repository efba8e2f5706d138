'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import styled from 'styled-components'
import {
  type DancedCue,
  endRepeat,
  firstSpeed,
  isFooted,
  joinNeeds,
  paceOf,
  setRepeat,
  subSteps,
  usersOf,
} from '@/core/choreo'
import { LAYERS, type PlacedPhrase, placeName } from '@/core/routine'
import { Button } from '../../parts/button'
import { Choice, Pick } from '../../parts/field'
import { said } from '../../parts/said'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'
import { Part, Tools } from '../frame'
import { StagePlan, seen } from './footing'
import { type Choreo, stepAt } from './use-choreo'

const Linked = styled.li`
  display: grid;
  gap: 6px;
  padding: 9px 11px;
  border: 1.5px dashed #6F6073;
  border-radius: 10px;
  font-size: 14px;
`

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 7px;
`

const Table = styled.table`
  font-size: 13px;
  border-collapse: collapse;
  width: 100%;
  th { text-align: left; font-weight: 550; color: ${desk.quiet}; }
  td { text-align: right; }
  td, th { padding: 2px 0; border-bottom: 1px solid ${desk.line}; }
`

const SIDES = [
  { id: 'same', name: 'same side' },
  { id: 'other', name: 'other side' },
]

interface Props {
  page: Page
  placed: PlacedPhrase
  choreo: Choreo
  mirrored: boolean
  lines: () => void
  mirrorRow: () => void
  duplicate: () => void
}

/** The phrase at the cursor: the dancer from above, what it repeats, who repeats it, its pace, and whether it loops. */
export function EightPanel({ page, placed, choreo, mirrored, lines, mirrorRow, duplicate }: Props) {
  const tick = useCursor((s) => s.tick)
  const step = stepAt(choreo.steps, tick)
  const travel = choreo.shown.find(
    (c) => c.at <= tick && c.at + c.length > tick && /travel|feet/.test(c.layer),
  )
  return (
    <>
      <Part>
        <h2>{placeName(placed)}</h2>
        <StagePlan state={step && seen(step, mirrored)} travel={travel?.move ?? ''} />
        <Tools>
          <Button small onPress={lines} hotkey="L" tip="This layer of the phrase as one line">
            Write as a line
          </Button>
          <Button small onPress={mirrorRow} tip="All cues of this phrase to the other side">
            To the other side
          </Button>
          <Button small onPress={duplicate} hotkey="D" tip="A copy of its cues in the next phrase">
            Copy to the next
          </Button>
        </Tools>
      </Part>
      <RepeatPart page={page} placed={placed} />
      <PacePart page={page} placed={placed} choreo={choreo} />
    </>
  )
}

function RepeatPart({ page, placed }: { page: Page; placed: PlacedPhrase }) {
  const edit = useRoutine((s) => s.edit)
  const routine = useRoutine((s) => s.routine)
  const to = useCursor((s) => s.to)
  const [source, setSource] = useState('')
  const [side, setSide] = useState('same')
  const [from, setFrom] = useState(1)
  const [until, setUntil] = useState(0)
  const [target, setTarget] = useState(1)
  const [problem, setProblem] = useState('')
  const id = placed.phrase.id
  const model = page.placed.find((p) => p.phrase.id === source)
  const last = model?.phrase.length ?? placed.phrase.length
  const end = until || last
  const title = (phrase: string) => {
    const p = page.placed.find((x) => x.phrase.id === phrase)
    return p ? placeName(p) : 'a phrase that is gone'
  }
  const set = () => {
    if (!model) return
    const counts = Math.min(end - from + 1, placed.phrase.length - target + 1)
    try {
      const next = setRepeat(routine, {
        id: nanoid(),
        phrase: id,
        at: (target - 1) * 24,
        length: counts * 24,
        source,
        from: (from - 1) * 24,
        mirrored: side === 'other',
      })
      edit(`danced as ${title(source)}`, () => next)
      setProblem('')
    } catch (e) {
      setProblem(`${said(e)} Nothing was changed.`)
    }
  }
  const counts = (n: number) =>
    Array.from({ length: n }, (_, i) => ({ id: String(i + 1), name: String(i + 1) }))
  const here = routine.repeats.filter((r) => r.phrase === id)
  const users = usersOf(routine, id)
  return (
    <Part aria-label="Repeats">
      <h3>Danced as another</h3>
      {here.length > 0 && (
        <List>
          {here.map((r) => (
            <Linked key={r.id}>
              <span>
                Counts {r.at / 24 + 1} to {(r.at + r.length) / 24} as in {title(r.source)}
                {r.from || r.length < 192 ? `, counts ${r.from / 24 + 1} to ${(r.from + r.length) / 24}` : ''}
                {r.mirrored ? ', to the other side' : ''}
              </span>
              <Tools>
                <Button
                  small
                  onPress={() => edit('write the repeat out', (x) => endRepeat(x, r.id, true, nanoid))}
                  tip="Its cues become this phrase’s own; nothing danced changes"
                >
                  Write out
                </Button>
                <Button
                  small
                  look="quiet"
                  onPress={() => edit('end the repeat', (x) => endRepeat(x, r.id, false, nanoid))}
                  tip="The linked cues go; own ones stay"
                >
                  End it
                </Button>
              </Tools>
            </Linked>
          ))}
        </List>
      )}
      <Choice
        label="As in"
        value={source}
        options={page.placed.map((p) => ({
          id: p.phrase.id,
          name: p === placed ? `${placeName(p)} (this one)` : placeName(p),
        }))}
        onChange={(s) => {
          setSource(s)
          setFrom(1)
          setUntil(0)
        }}
      />
      {model && (
        <>
          <Pick label="To which side" value={side} options={SIDES} onChange={setSide} />
          <div style={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 8 }}>
            <Choice
              label="From its"
              value={String(from)}
              options={counts(last)}
              onChange={(n) => setFrom(Number(n))}
            />
            <Choice
              label="to"
              value={String(end)}
              options={counts(last)}
              onChange={(n) => setUntil(Number(n))}
            />
            <Choice
              label="here on"
              value={String(target)}
              options={counts(placed.phrase.length)}
              onChange={(n) => setTarget(Number(n))}
            />
          </div>
          <Tools>
            <Button small look="strong" isDisabled={end < from} onPress={set}>
              Link it
            </Button>
          </Tools>
        </>
      )}
      {problem && <p role="alert">{problem}</p>}
      {users.length > 0 && (
        <>
          <p>Used again in:</p>
          <Tools>
            {users.map((r) => {
              const p = page.placed.find((x) => x.phrase.id === r.phrase)
              return (
                <Button key={r.id} small look="quiet" onPress={() => p && to(p.start)}>
                  {title(r.phrase)}
                  {r.mirrored ? ' ⇄' : ''}
                </Button>
              )
            })}
          </Tools>
        </>
      )}
    </Part>
  )
}

/** What a dancer needs to dance the phrase again right after itself. */
function loopNeeds(placed: PlacedPhrase, choreo: Choreo): string[] {
  const inside = (c: DancedCue) => c.at >= placed.start && c.at < placed.end && isFooted(c)
  const first = choreo.shown.find(inside)
  const before = stepAt(choreo.steps, placed.start - 1)
  const end = stepAt(choreo.steps, placed.end - 1)
  const begun = before?.facing ?? 0
  if (!first || !end) return []
  const sub = subSteps(first, choreo.book)[0]
  const foot = sub?.kind === 'weight' || sub?.kind === 'free' ? sub.foot : null
  return joinNeeds(end, {
    foot,
    facing: begun === 'unknown' ? (end.facing === 'unknown' ? 0 : end.facing) : begun,
  })
}

function PacePart({ page, placed, choreo }: { page: Page; placed: PlacedPhrase; choreo: Choreo }) {
  const leastGap = useRoutine((s) => s.routine.leastGap)
  if (page.times.length < 2) return null
  const span = { from: placed.start, to: placed.end }
  const rows = [...LAYERS, null]
    .map((layer) => ({ layer, pace: paceOf(choreo.shown, page.times, span, layer, 1, choreo.book) }))
    .filter(({ pace }) => pace.actions > 0)
  const gaps = rows.flatMap(({ layer, pace }) => (layer && pace.leastGap !== null ? [pace.leastGap] : []))
  const gap = gaps.length ? Math.min(...gaps) : null
  const needs = loopNeeds(placed, choreo)
  return (
    <Part>
      <h3>Pace at full tempo</h3>
      {rows.length ? (
        <Table>
          <thead>
            <tr>
              <th>layer</th>
              <td>actions</td>
              <td>a second</td>
              <td>least gap</td>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ layer, pace }) => (
              <tr key={layer ?? 'all'}>
                <th>{layer ?? 'together'}</th>
                <td>{pace.actions}</td>
                <td>{pace.perSecond.toFixed(1)}</td>
                <td>{pace.leastGap === null ? '–' : `${pace.leastGap.toFixed(2)} s`}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      ) : (
        <p>Nothing is cued here yet.</p>
      )}
      {gap !== null && (
        <p>
          For {(2 * leastGap).toFixed(2)} s a step, begin at {Math.round(firstSpeed(gap, 2 * leastGap) * 100)}{' '}
          %.
        </p>
      )}
      {rows.length > 0 && (
        <p>
          {needs.length ? `Danced in a loop: ${needs.join(', ')}.` : 'It can be danced in a loop as it is.'}
        </p>
      )}
    </Part>
  )
}
