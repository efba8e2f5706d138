'use client'

import styled from 'styled-components'
import { type Standing, standingIn } from '@/core/places'
import { type Dancer, type Formation, tickName } from '@/core/routine'
import { formationHere } from '@/core/station'
import { clockText, timeOfTick } from '@/core/time'
import { useCursor } from '../state/cursor'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk } from '../theme/tokens'
import { SignShape, signOf } from './dancers-on-plan'
import { formationName } from './group-plan'
import { usePlaces } from './places-store'
import { useAsSeen } from './use-places'

const Row = styled.ol`
  list-style: none;
  margin: 0;
  padding: 2px;
  display: flex;
  gap: 10px;
  overflow-x: auto;
  button {
    display: grid;
    gap: 4px;
    width: 132px;
    padding: 7px 9px;
    border: 1.5px solid ${desk.line};
    border-radius: 10px;
    background: ${desk.card};
    text-align: left;
    cursor: pointer;
    font: inherit;
    color: inherit;
  }
  button[aria-current='true'] { border-color: ${desk.azalea}; border-width: 2px; }
  span { display: flex; justify-content: space-between; gap: 6px; font-size: 13px; }
  b { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  i { font-style: normal; color: ${desk.quiet}; }
`

/** All formations in order, small: a press goes there. */
export function FormationStrip({ page }: { page: Page }) {
  const dancers = useRoutine((s) => s.routine.dancers)
  const standing = usePlaces((s) => s.standing)
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const here = formationHere({ standing, tick })
  return (
    <Row aria-label="Formations">
      {standing.formations.map((f) => (
        <li key={f.id}>
          <button
            type="button"
            onClick={() => to(f.at)}
            aria-current={f === here}
            title={tickName(page.placed, f.at)}
          >
            <span>
              <b>{formationName(page, f)}</b>
              <i>{clockText(timeOfTick(page.times, f.at))}</i>
            </span>
            <SmallPlan {...{ standing, dancers }} formation={f} width={112} height={52} />
          </button>
        </li>
      ))}
    </Row>
  )
}

interface SmallPlanProps {
  standing: Standing
  dancers: readonly Dancer[]
  formation: Formation
  width: number
  height: number
}

/** A formation as signs only. */
export function SmallPlan({ standing, dancers, formation, width, height }: SmallPlanProps) {
  const spots = standingIn(standing, formation)
  const half = Math.max(2.5, ...spots.map((s) => Math.abs(s.x))) + 0.5
  const back = Math.max(2.5, ...spots.map((s) => s.y)) + 0.8
  const scale = Math.min(width / (2 * half), height / back)
  const by = new Map(dancers.map((d) => [d.id, d]))
  const asSeen = useAsSeen()
  return (
    <svg width={width} height={height} aria-hidden data-testid="small-plan">
      <line x1={2} x2={width - 2} y1={1} y2={1} stroke={desk.line} strokeDasharray="3 3" />
      {spots.map((s) => {
        const dancer = by.get(s.dancer)
        if (!dancer) return null
        const { sign, colour } = signOf(dancers, dancer)
        return (
          <g key={s.dancer} transform={`translate(${width / 2 + asSeen(s).x * scale} ${3 + s.y * scale})`}>
            <SignShape sign={sign} r={4} fill={colour} stroke={desk.card} width={1} />
          </g>
        )
      })}
    </svg>
  )
}
