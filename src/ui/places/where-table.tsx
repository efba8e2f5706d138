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
  spotAt,
  spotText,
} from '@/core/places'
import { danced, danceOf, mirrorSpot } from '@/core/routine'
import { Pick } from '../parts/field'
import { Part } from '../parts/panel'
import { useCursor } from '../state/cursor'
import { useBook } from '../state/moves-store'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk } from '../theme/tokens'
import { formationName } from './group-plan'
import { usePlaces } from './places-store'
import { useAsSeen } from './use-places'

const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  font-size: 13px;
  font-variant-numeric: tabular-nums;
  th { text-align: left; font-weight: 550; color: ${desk.quiet}; }
  td, th { padding: 2px 6px 2px 0; border-bottom: 1px solid ${desk.line}; overflow-wrap: anywhere; }
  thead th { white-space: nowrap; }
  tbody th { color: ${desk.ink}; font-weight: 650; }
`

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
  const asSeen = useAsSeen()
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
                <td>{at ? spotText(asSeen(audience ? mirrorSpot(at) : at)) : 'nowhere'}</td>
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
