'use client'

import { memo } from 'react'
import styled from 'styled-components'
import { standingIn } from '@/core/places'
import { type Formation, tickName } from '@/core/routine'
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
    grid-template-columns: minmax(0, 1fr);
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
  const standing = usePlaces((s) => s.standing)
  const tick = useCursor((s) => s.tick)
  const here = formationHere({ standing, tick })
  return (
    <Row aria-label="Formations">
      {standing.formations.map((f) => (
        <InStrip key={f.id} page={page} formation={f} isHere={f === here} />
      ))}
    </Row>
  )
}

/** One of many: drawn anew where it is another, not with each edit. */
const InStrip = memo(function InStrip({
  page,
  formation,
  isHere,
}: {
  page: Page
  formation: Formation
  isHere: boolean
}) {
  const to = useCursor((s) => s.to)
  return (
    <li>
      <button
        type="button"
        onClick={() => to(formation.at)}
        aria-current={isHere}
        title={tickName(page.placed, formation.at)}
      >
        <span>
          <b>{formationName(page, formation)}</b>
          <i>{clockText(timeOfTick(page.times, formation.at))}</i>
        </span>
        <SmallPlan formation={formation.id} width={112} height={52} />
      </button>
    </li>
  )
})

interface SmallPlanProps {
  /** Which one. */
  formation: string
  width: number
  height: number
}

/** A formation as signs only. */
export function SmallPlan({ formation, width, height }: SmallPlanProps) {
  // Its own places alone: they are the very same while they say the same (core/places/standing.ts).
  const spots = usePlaces((s) => standingIn(s.standing, { id: formation }))
  const dancers = useRoutine((s) => s.routine.dancers)
  const half = Math.max(2.5, ...spots.map((s) => Math.abs(s.x))) + 0.5
  const back = Math.max(2.5, ...spots.map((s) => s.y)) + 0.8
  const scale = Math.min(width / (2 * half), height / back)
  const by = new Map(dancers.map((d) => [d.id, d]))
  const asSeen = useAsSeen()
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      aria-hidden
      data-testid="small-plan"
    >
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
