'use client'

import styled from 'styled-components'
import { firstSpeed, loopNeeds, paceOf, stepAt } from '@/core/choreo'
import { LAYERS, type PlacedPhrase, placeName } from '@/core/routine'
import { common } from '@/core/time'
import { Button } from '../../parts/button'
import { More } from '../../parts/more'
import { Part, Tools } from '../../parts/panel'
import { StagePlan, seen } from '../../sheet/footing'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { desk } from '../../theme/tokens'
import { AlikePart } from './alike-part'
import { BreathPart, LeaningPart } from './breath-part'
import { useCue } from './cue-store'
import { RepeatPart } from './repeat-part'
import { StancePart } from './stance-part'
import { useLeastGap } from './use-choreo'

const Table = styled.table`
  font-size: 13px;
  border-collapse: collapse;
  width: 100%;
  th { text-align: left; font-weight: 550; color: ${desk.quiet}; }
  td { text-align: right; }
  td, th { padding: 2px 0; border-bottom: 1px solid ${desk.line}; }
`

interface Props {
  page: Page
  placed: PlacedPhrase
}

/** The phrase at the cursor: the dancer from above, what it repeats, who repeats it, its pace, and whether it loops. */
export function EightPanel({ page, placed }: Props) {
  const choreo = useCue((s) => s.choreo)
  const alikes = useCue((s) => s.alikes)
  const leaning = useCue((s) => s.leaning)
  const mirrored = useCue((s) => s.mirrored)
  const send = useCue((s) => s.send)
  const tick = useCursor((s) => s.tick)
  const layer = useCursor((s) => s.layer)
  const step = stepAt(choreo.steps, tick)
  const travel = choreo.shown.find(
    (c) => c.at <= tick && c.at + c.length > tick && /travel|feet/.test(c.layer),
  )
  return (
    <>
      <Part>
        <h2>{placeName(placed)}</h2>
        <Tools>
          <Button
            small
            look="strong"
            onPress={() => send({ kind: 'line', line: 'open', tick, layer })}
            hotkey="line"
            tip="This layer of the phrase as one line"
          >
            Write as a line
          </Button>
          <Button
            small
            look="quiet"
            onPress={() => send({ kind: 'work', work: 'mirror phrase' })}
            tip="All cues of this phrase to the other side"
          >
            To the other side
          </Button>
          <Button
            small
            look="quiet"
            onPress={() => send({ kind: 'work', work: 'duplicate' })}
            hotkey="duplicate"
            tip="A copy of its cues in the next phrase"
          >
            Copy to the next
          </Button>
        </Tools>
      </Part>
      <StancePart page={page} of={{ from: placed.start, to: placed.end }}>
        <StagePlan state={step && seen(step, mirrored)} travel={travel?.move ?? ''} />
      </StancePart>
      <AlikePart
        page={page}
        list={alikes.filter((a) => common(a.to, { from: placed.start, to: placed.end }))}
      />
      <LeaningPart page={page} list={leaning.filter((l) => l.at === placed.start || l.at === placed.end)} />
      <BreathPart page={page} placed={placed} />
      <RepeatPart page={page} placed={placed} />
      <PacePart page={page} placed={placed} />
    </>
  )
}

function PacePart({ page, placed }: Props) {
  const choreo = useCue((s) => s.choreo)
  const leastGap = useLeastGap(page).seconds
  if (page.times.length < 2) return null
  const span = { from: placed.start, to: placed.end }
  const rows = [...LAYERS, null]
    .map((layer) => ({ layer, pace: paceOf(choreo.shown, page.times, span, layer, 1, choreo.book) }))
    .filter(({ pace }) => pace.actions > 0)
  const gaps = rows.flatMap(({ layer, pace }) => (layer && pace.leastGap !== null ? [pace.leastGap] : []))
  const gap = gaps.length ? Math.min(...gaps) : null
  const needs = loopNeeds(choreo.shown, choreo.steps, span, choreo.book)
  return (
    <More name="Pace at full tempo">
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
    </More>
  )
}
