'use client'

import { useMemo, useState } from 'react'
import styled from 'styled-components'
import {
  countsInFront,
  cuesOfDancers,
  effortsOf,
  formationsAt,
  metresText,
  partnersApart,
  SHAPES,
  spotAt,
  spotText,
} from '@/core/places'
import { changeDancer, danced, danceOf, type Formation, LIMITS, mirrorSpot, tickName } from '@/core/routine'
import { formationHere } from '@/core/station'
import { Button } from '../parts/button'
import { Choice, Pick } from '../parts/field'
import { KeptLine } from '../parts/kept-line'
import { More } from '../parts/more'
import { Part, Tools } from '../parts/panel'
import { useCursor } from '../state/cursor'
import { useBook } from '../state/moves-store'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk } from '../theme/tokens'
import { DancersOnPlan } from './dancers-on-plan'
import { usePlaces } from './places-store'
import { FloorPlan, scaleOf } from './plan'
import { viewOf } from './plan-view'

const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  font-size: 13px;
  font-variant-numeric: tabular-nums;
  th { text-align: left; font-weight: 550; color: ${desk.quiet}; }
  td, th { padding: 2px 6px 2px 0; border-bottom: 1px solid ${desk.line}; overflow-wrap: anywhere; }
  tbody th { color: ${desk.ink}; font-weight: 650; }
`

const Three = styled.div`
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr);
  gap: 8px;
`

interface Props {
  page: Page
  pixels: number
}

/** "Windows", or where it stands: what a formation is called. */
export const formationName = (page: Page, f: Formation): string => f.name || tickName(page.placed, f.at)

/** The plan of several dancers at the cursor. */
export function GroupPlan({ page, pixels }: Props) {
  const space = useRoutine((s) => s.routine.space)
  const standing = usePlaces((s) => s.standing)
  const view = useMemo(() => viewOf(space, null, standing), [space, standing])
  const scale = scaleOf(view, pixels)
  return (
    <FloorPlan {...{ view, space, pixels }} label="The floor from above, with all dancers">
      <DancersOnPlan page={page} scale={scale} />
    </FloorPlan>
  )
}

/** The formation at the cursor, and what is done to it. */
export function FormationPart({ page }: { page: Page }) {
  const standing = usePlaces((s) => s.standing)
  const send = usePlaces((s) => s.send)
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const here = formationHere({ standing, tick })
  const { formations } = standing
  const at = tickName(page.placed, tick)
  if (!here) return null
  const i = formations.indexOf(here)
  const go = (f: Formation | undefined) => f && to(f.at)
  return (
    <Part aria-label="Formation">
      <KeptLine
        key={here.id}
        label={`Formation ${i + 1} of ${formations.length}, from ${tickName(page.placed, here.at)} on`}
        value={here.name}
        most={LIMITS.text}
        placeholder="windows, two rows, arrow …"
        keep={(name) => send({ kind: 'name', name })}
      />
      <Tools>
        <Button small isDisabled={i === 0} onPress={() => go(formations[i - 1])}>
          ‹ Before
        </Button>
        <Button small isDisabled={i === formations.length - 1} onPress={() => go(formations[i + 1])}>
          Next ›
        </Button>
        {here.at !== tick && (
          <Button small look="strong" onPress={() => send({ kind: 'new formation' })}>
            New on {at}
          </Button>
        )}
      </Tools>
      <More name="More about this formation">
        <Over formation={here} />
        <As page={page} />
        <Tools>
          {here.at !== tick && (
            <Button small onPress={() => send({ kind: 'move formation' })}>
              Move it to {at}
            </Button>
          )}
          <Button
            small
            onPress={() => send({ kind: 'remove formation' })}
            tip="Those after it stand; undo brings it back"
          >
            Take it out
          </Button>
        </Tools>
      </More>
    </Part>
  )
}

const OVERS = ['as the steps are', '1', '2', '3', '4', '6', '8', '12', '16']

/** How long the ways to a formation take. */
function Over({ formation }: { formation: Formation }) {
  const send = usePlaces((s) => s.send)
  const now = formation.over === undefined ? OVERS[0] : String(Math.round((formation.over / 24) * 100) / 100)
  const options = [...new Set([...OVERS, now as string])]
  return (
    <Choice
      label="The ways to it take"
      value={now as string}
      options={options.map((id) => ({ id, name: id === OVERS[0] ? id : `${id} counts` }))}
      onChange={(id) => send({ kind: 'over', counts: id === OVERS[0] ? null : Number(id) })}
    />
  )
}

/** Stand as elsewhere. */
function As({ page }: { page: Page }) {
  const formations = usePlaces((s) => s.standing.formations)
  const send = usePlaces((s) => s.send)
  const tick = useCursor((s) => s.tick)
  const others = formations.filter((f) => f.at !== tick)
  if (!others.length) return null
  const options = [
    { id: '', name: '–' },
    ...others.flatMap((f) => [
      { id: `${f.id} plain`, name: `as in ${formationName(page, f)}` },
      { id: `${f.id} other`, name: `as in ${formationName(page, f)}, other side` },
    ]),
  ]
  return (
    <Choice
      label={`On ${tickName(page.placed, tick)} stand`}
      value=""
      options={options}
      onChange={(id) => {
        const [formation, side] = id.split(' ')
        if (formation) send({ kind: 'as in', formation, otherSide: side === 'other' })
      }}
    />
  )
}

/** So many of those who are chosen are named. */
const NAMED = 8

/** What is done to those who are chosen, or to all. */
export function ArrangePart() {
  const chosen = usePlaces((s) => s.chosen)
  const send = usePlaces((s) => s.send)
  const dancers = useRoutine((s) => s.routine.dancers)
  const letters = chosen.map((id) => dancers.find((d) => d.id === id)?.letters ?? '')
  const rest = letters.length - NAMED
  const names = `${letters.slice(0, NAMED).join(', ')}${rest > 0 ? ` and ${rest} more` : ''}`
  const bent = usePlaces((s) => s.chosen.some((id) => s.standing.travels.get(id)?.some((w) => w.through)))
  return (
    <Part aria-label="Arrange">
      <h2 data-testid="chosen-dancers">{chosen.length ? names : 'All of them'}</h2>
      <Tools>
        {SHAPES.map((shape) => (
          <Button key={shape} small onPress={() => send({ kind: 'arrange', as: shape })}>
            {shape}
          </Button>
        ))}
      </Tools>
      <Tools>
        <Button small look="quiet" onPress={() => send({ kind: 'arrange', as: 'other side' })}>
          Other side
        </Button>
        <Button small look="quiet" onPress={() => send({ kind: 'arrange', as: 'turn left' })}>
          ⟲ Turn
        </Button>
        <Button small look="quiet" onPress={() => send({ kind: 'arrange', as: 'turn right' })}>
          Turn ⟳
        </Button>
        <Button small look="quiet" onPress={() => send({ kind: 'arrange', as: 'apart' })}>
          Apart
        </Button>
        <Button small look="quiet" onPress={() => send({ kind: 'arrange', as: 'together' })}>
          Together
        </Button>
        <Button
          small
          look="quiet"
          isDisabled={chosen.length < 2}
          onPress={() => send({ kind: 'arrange', as: 'exchange' })}
          tip="Each stands where the next one did"
        >
          Exchange
        </Button>
      </Tools>
      <Tools>
        <Choice
          label="One after another"
          value=""
          options={[
            { id: '', name: '–' },
            { id: '0', name: 'all at once' },
            ...['1', '2', '4'].map((n) => ({ id: n, name: `${n} counts later each` })),
          ]}
          onChange={(n) => n && send({ kind: 'after another', counts: Number(n) })}
        />
      </Tools>
      <Tools>
        <Button small look="quiet" onPress={() => send({ kind: 'choose all' })}>
          Choose all
        </Button>
        {chosen.length > 0 && (
          <>
            <Button small look="quiet" onPress={() => send({ kind: 'choose none' })}>
              None
            </Button>
            <Button
              small
              look="quiet"
              onPress={() => send({ kind: 'stay' })}
              tip="They stand here as they stood before"
            >
              Stay where they were
            </Button>
            {bent && (
              <Button small look="quiet" onPress={() => send({ kind: 'straight' })}>
                Straight ways
              </Button>
            )}
          </>
        )}
      </Tools>
      <p>
        Press a dancer and pull, with shift several; arrows move by 10 cm, with shift by half a metre. The
        small knob bends the way.
      </p>
    </Part>
  )
}

const SAID = [
  { id: 'dancers', name: 'dancers say' },
  { id: 'audience', name: 'the audience sees' },
] as const

/** Who stands where at the cursor, and goes how far to the next formation: the plan in words. */
export function WhereTable({ page }: { page: Page }) {
  const routine = useRoutine((s) => s.routine)
  const standing = usePlaces((s) => s.standing)
  const tick = useCursor((s) => s.tick)
  const book = useBook()
  const { next } = formationsAt(standing, tick)
  const { dancers } = routine
  const efforts = useMemo(
    () => (next ? effortsOf(standing, cuesOfDancers(dancers, danced(routine)), book, next.id) : []),
    [standing, dancers, routine, book, next],
  )
  const front = useMemo(() => countsInFront(standing, danceOf(routine)), [standing, routine])
  const partners = useMemo(
    () => partnersApart(standing, dancers, danceOf(routine)),
    [standing, dancers, routine],
  )
  const letters = (id: string) => dancers.find((d) => d.id === id)?.letters ?? ''
  const [audience, setAudience] = useState(false)
  return (
    <Part aria-label="Who stands where">
      <h2>{next ? `To ${formationName(page, next)}` : 'Who stands where'}</h2>
      <Pick
        label="Left and right as"
        value={audience ? 'audience' : 'dancers'}
        options={SAID}
        onChange={(whose) => setAudience(whose === 'audience')}
      />
      <Table data-testid="who-stands-where">
        <thead>
          <tr>
            <th scope="col">who</th>
            <th scope="col">where</th>
            {next && <th scope="col">goes</th>}
          </tr>
        </thead>
        <tbody>
          {dancers.map((d) => {
            const at = spotAt(standing, d.id, tick)
            const effort = efforts.find((e) => e.travel.dancer === d.id)
            return (
              <tr key={d.id}>
                <th scope="row">{d.letters}</th>
                <td>{at ? spotText(audience ? mirrorSpot(at) : at) : 'nowhere'}</td>
                {next && (
                  <td>
                    {effort
                      ? `${metresText(effort.metres)}, ${effort.each === null ? 'no steps' : `${effort.steps} × ${metresText(effort.each)}`}`
                      : '–'}
                  </td>
                )}
              </tr>
            )
          })}
        </tbody>
      </Table>
      <p>
        Counts in front: {[...front].map(([id, n]) => `${letters(id)} ${n}`).join(', ')}.
        {partners.map(
          (p) =>
            ` ${letters(p.a)} and ${letters(p.b)}: ${metresText(p.least)} to ${metresText(p.most)} apart.`,
        )}
      </p>
    </Part>
  )
}

/** So many dancers are shown with their fields at once. */
const SHOWN = 6
const ADD = [1, 2, 4] as const
const FIRST = [2, 4, 6] as const

/** Who dances: letters, names, roles, partners. */
export function DancersPart({ roles }: { roles: readonly string[] }) {
  const dancers = useRoutine((s) => s.routine.dancers)
  const edit = useRoutine((s) => s.edit)
  const send = usePlaces((s) => s.send)
  const chosen = usePlaces((s) => s.chosen)
  const change = (id: string, did: string, what: Parameters<typeof changeDancer>[2]) =>
    edit(did, (r) => changeDancer(r, id, what))
  return (
    <More name={dancers.length ? `Dancers: ${dancers.length}` : 'Several dancers'}>
      {!dancers.length && <p>With dancers of their own letters you set who stands where, count by count.</p>}
      {dancers
        .filter((d) => dancers.length <= SHOWN || chosen.includes(d.id))
        .slice(0, SHOWN)
        .map((d) => (
          <div key={d.id} style={{ display: 'grid', gap: 6 }}>
            <Three>
              <KeptLine
                label="Letter"
                value={d.letters}
                most={2}
                keep={(letters) =>
                  letters.trim() && change(d.id, 'another letter', { letters: letters.trim() })
                }
              />
              <KeptLine
                label="Name"
                value={d.name}
                most={80}
                keep={(name) => name.trim() && change(d.id, 'name a dancer', { name: name.trim() })}
              />
            </Three>
            {(roles.length > 0 || dancers.length > 1) && (
              <Three style={{ gridTemplateColumns: '1fr 1fr' }}>
                <Choice
                  label="Role"
                  value={d.role}
                  options={[
                    { id: '', name: 'everybody’s' },
                    ...[...new Set([...roles, d.role])].filter(Boolean).map((id) => ({ id, name: id })),
                  ]}
                  onChange={(role) => change(d.id, 'a dancer’s role', { role })}
                />
                <Choice
                  label="Partner"
                  value={d.partner ?? ''}
                  options={[
                    { id: '', name: 'none' },
                    ...dancers.filter((o) => o.id !== d.id).map((o) => ({ id: o.id, name: o.name })),
                  ]}
                  onChange={(id) => change(d.id, 'partners', { partner: id || null })}
                />
              </Three>
            )}
          </div>
        ))}
      {dancers.length > SHOWN && <p>Choose dancers on the plan to name them, {SHOWN} at a time.</p>}
      <Tools>
        {(dancers.length ? ADD : FIRST).map((n) => (
          <Button
            key={n}
            small
            isDisabled={dancers.length + n > LIMITS.dancers}
            onPress={() => send({ kind: 'add', n })}
          >
            {dancers.length ? `Add ${n}` : `${n} dancers`}
          </Button>
        ))}
        {chosen.length > 0 && (
          <Button
            small
            onPress={() => send({ kind: 'take out' })}
            tip="From every formation; undo brings them back"
          >
            Take {chosen.length === 1 ? 'this one' : `these ${chosen.length}`} out
          </Button>
        )}
      </Tools>
    </More>
  )
}
