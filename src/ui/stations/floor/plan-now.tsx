'use client'

import { type CSSProperties, useRef } from 'react'
import { awayText, formationsAt, pathAt, spotAt, spotText } from '@/core/places'
import { type Dancer, tickName } from '@/core/routine'
import { SignShape, signOf } from '../../places/dancers-on-plan'
import { FloorPlan, moveTo, PathOnPlan, PlanLetters, scaleOf, useTickNow } from '../../places/plan'
import { viewOf } from '../../places/plan-view'
import { useAsSeen, usePath, useStanding } from '../../places/use-places'
import type { Page } from '../../state/page'
import { useView } from '../../state/view'
import { colourName } from '../../theme/palette'
import { desk, floor } from '../../theme/tokens'
import { useFloor } from './floor-store'
import { BesidePanel } from './mirror'

/** How wide the plan is drawn beside the counts, in pixels. */
const WIDE = 340

/** The floor is dark: the plan's colours are the floor's here. */
const DARK = Object.fromEntries(
  Object.entries({
    card: floor.card,
    line: floor.line,
    ink: floor.ink,
    quiet: floor.quiet,
    faint: floor.quiet,
    azalea: floor.azalea,
    azaleaSoft: '#3A2233',
    leaf: '#8ED1AB',
    amber: '#E6BE6A',
  }).map(([name, colour]) => [colourName(name), colour]),
) as CSSProperties

/** The floor from above while it is danced: all dancers, or the path of the steps; where one is now, and next. */
export function PlanNow({ tick }: { tick: number }) {
  const page = useFloor((s) => s.page)
  const routine = useFloor((s) => s.routine)
  const several = routine.dancers.length > 1
  return (
    <BesidePanel data-testid="beside" style={DARK}>
      {several ? <Several page={page} tick={tick} /> : <Alone page={page} tick={tick} />}
    </BesidePanel>
  )
}

interface Props {
  page: Page
  tick: number
}

function Alone({ page, tick }: Props) {
  const { path, begin } = usePath()
  const space = useFloor((s) => s.routine.space)
  const view = viewOf(space, { path, begin }, null)
  const asSeen = useAsSeen()
  const here = pathAt(path, tick)
  const away = awayText(asSeen(here))
  return (
    <>
      <FloorPlan {...{ view, space }} pixels={WIDE} label="The floor from above">
        <PathOnPlan {...{ path, begin, page }} scale={scaleOf(view, WIDE)} />
      </FloorPlan>
      <p data-testid="where-now">
        {away ? `${away} of where you began` : 'Where you began'}
        {here.uncertain ? ', as far as is known' : ''}
      </p>
    </>
  )
}

function Several({ page, tick }: Props) {
  const standing = useStanding()
  const { space, dancers } = useFloor((s) => s.routine)
  const mine = useView((v) => v.dancer)
  const view = viewOf(space, null, standing)
  const scale = scaleOf(view, WIDE)
  const asSeen = useAsSeen()
  const me = dancers.find((d) => d.id === mine)
  const here = me && spotAt(standing, me.id, tick)
  const { next } = formationsAt(standing, tick)
  const way = me && next && standing.travels.get(me.id)?.find((w) => w.formation === next.id)
  return (
    <>
      <FloorPlan {...{ view, space }} pixels={WIDE} label="The floor from above, with all dancers">
        {way && (
          <line
            x1={way.from.x}
            y1={way.from.y}
            x2={way.to.x}
            y2={way.to.y}
            stroke={desk.ink}
            strokeWidth={2 / scale}
            strokeDasharray={`${2 / scale} ${4 / scale}`}
          />
        )}
        {dancers
          .filter((d) => standing.first.has(d.id))
          .map((dancer) => (
            <Seen key={dancer.id} {...{ page, dancer, dancers, scale, standing }} chosen={dancer === me} />
          ))}
      </FloorPlan>
      <p data-testid="where-now">
        {me && here ? `${me.letters}: ${spotText(asSeen(here))}` : (next?.name ?? '')}
        {way && next && ` · by ${tickName(page.placed, next.at)}: ${spotText(asSeen(way.to))}`}
      </p>
    </>
  )
}

interface SeenProps {
  page: Page
  dancer: Dancer
  dancers: readonly Dancer[]
  standing: ReturnType<typeof useStanding>
  scale: number
  chosen: boolean
}

/** One dancer, moving with the music. */
function Seen({ page, dancer, dancers, standing, scale, chosen }: SeenProps) {
  const group = useRef<SVGGElement>(null)
  useTickNow(
    page,
    (now) => {
      const at = spotAt(standing, dancer.id, now)
      if (at) moveTo(group, at)
    },
    standing,
  )
  const { sign, colour } = signOf(dancers, dancer)
  const r = Math.max(0.26, 11 / scale)
  return (
    <g ref={group}>
      <SignShape
        {...{ sign, r }}
        fill={colour}
        stroke={chosen ? desk.ink : desk.card}
        width={(chosen ? 3 : 1.5) / scale}
      />
      <PlanLetters fontSize={13 / scale} style={{ fill: floor.ground, fontWeight: 700 }}>
        {dancer.letters}
      </PlanLetters>
    </g>
  )
}
