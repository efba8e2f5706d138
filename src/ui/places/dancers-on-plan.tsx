'use client'

import { useRef } from 'react'
import { useMove } from 'react-aria'
import styled from 'styled-components'
import {
  formationsAt,
  lengthOf,
  onWay,
  type Standing,
  spotOnWays,
  spotText,
  type Travel,
} from '@/core/places'
import type { Dancer, Spot } from '@/core/routine'
import { formationHere } from '@/core/station'
import { afterPaint } from '../state/after-paint'
import { useCursor } from '../state/cursor'
import { keepLast } from '../state/keep-last'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk } from '../theme/tokens'
import { usePlaces } from './places-store'
import { add, moveTo, PlanLetters, useTickNow } from './plan'
import { useAsSeen } from './use-places'

const Disc = styled.g`
  cursor: grab;
  outline: none;
  touch-action: none;
  &:focus-visible .ring { stroke: ${desk.ink}; }
  text { fill: ${desk.card}; pointer-events: none; font-weight: 700; }
`

/** A sign for each role, so that colour is never alone. */
const SIGNS = ['round', 'square', 'diamond', 'drop'] as const
type Sign = (typeof SIGNS)[number]
const COLOURS = [desk.azalea, desk.leaf, desk.ink, desk.amber]

interface SignOf {
  sign: Sign
  colour: string
}

const PLAIN: SignOf = { sign: SIGNS[0] as Sign, colour: COLOURS[0] as string }

/** How dancers of a role are drawn: in the order the roles come in. Asked for each of sixty in two hundred small plans. */
const signsOf = keepLast((dancers: readonly Dancer[]): ReadonlyMap<string, SignOf> => {
  const roles = [...new Set(dancers.map((d) => d.role))]
  return new Map(
    dancers.map((d) => {
      const i = roles.indexOf(d.role)
      return [d.id, { sign: SIGNS[i % SIGNS.length] as Sign, colour: COLOURS[i % COLOURS.length] as string }]
    }),
  )
})

/** How a dancer is drawn. */
export const signOf = (dancers: readonly Dancer[], { id }: Pick<Dancer, 'id'>): SignOf =>
  signsOf(dancers).get(id) ?? PLAIN

interface ShapeProps {
  sign: Sign
  r: number
  fill: string
  stroke: string
  width: number
}

/** The body of a dancer from above, by role. */
export function SignShape({ sign, r, fill, stroke, width }: ShapeProps) {
  const look = { fill, stroke, strokeWidth: width }
  if (sign === 'round') return <circle r={r} {...look} />
  if (sign === 'square')
    return <rect x={-0.9 * r} y={-0.9 * r} width={1.8 * r} height={1.8 * r} rx={r / 5} {...look} />
  if (sign === 'diamond')
    return <path d={`M0 ${-1.2 * r} L${1.2 * r} 0 L0 ${1.2 * r} L${-1.2 * r} 0 Z`} {...look} />
  return <path d={`M0 ${-1.3 * r} L${r} ${0.8 * r} L${-r} ${0.8 * r} Z`} {...look} />
}

interface Props {
  page: Page
  /** Pixels of a metre. */
  scale: number
}

/** All dancers where they stand, their ways to the next formation, and where those lead. */
export function DancersOnPlan({ page, scale }: Props) {
  const dancers = useRoutine((s) => s.routine.dancers)
  const standing = usePlaces((s) => s.standing)
  const tick = useCursor((s) => s.tick)
  const here = formationHere({ standing, tick })
  const { next } = formationsAt(standing, Math.max(tick, here?.at ?? 0))
  const standingHere = dancers.filter((d) => standing.first.has(d.id))
  return (
    <>
      {next && <Ways standing={standing} to={next.id} scale={scale} dancers={dancers} />}
      {here && <Bends to={here.id} scale={scale} />}
      {standingHere.map((dancer) => (
        <DancerDisc key={dancer.id} {...{ page, dancer, dancers, scale }} />
      ))}
    </>
  )
}

const PIECES = 16

/** A way as it is drawn. */
const drawn = (way: Pick<Travel, 'from' | 'to' | 'through'>): string =>
  Array.from({ length: way.through ? PIECES + 1 : 2 }, (_, i) => {
    const { x, y } = onWay(way, i / (way.through ? PIECES : 1))
    return `${x},${y}`
  }).join(' ')

function Ways({
  standing,
  to,
  scale,
  dancers,
}: {
  standing: Standing
  to: string
  scale: number
  dancers: readonly Dancer[]
}) {
  const px = (n: number) => n / scale
  return dancers.map((dancer) => {
    const way = standing.travels.get(dancer.id)?.find((w) => w.formation === to)
    if (!way) return null
    const { sign, colour } = signOf(dancers, dancer)
    return (
      <g key={dancer.id} pointerEvents="none">
        <polyline
          points={drawn(way)}
          fill="none"
          stroke={colour}
          strokeWidth={px(1.5)}
          strokeDasharray={`${px(2)} ${px(4)}`}
          strokeLinecap="round"
        />
        <g transform={`translate(${way.to.x} ${way.to.y})`}>
          <SignShape sign={sign} r={px(7)} fill={desk.card} stroke={colour} width={px(1.5)} />
        </g>
      </g>
    )
  })
}

/** A shorter way lies under its dancer. */
const SHORT = 0.8

/** Ways that lead here, of those who are chosen, with a knob to bend them by. */
function Bends({ to, scale }: { to: string; scale: number }) {
  const standing = usePlaces((s) => s.standing)
  const chosen = usePlaces((s) => s.chosen)
  return chosen.map((id) => {
    const way = standing.travels.get(id)?.find((w) => w.formation === to)
    return way && lengthOf(way) > SHORT && <Bend key={id} way={way} scale={scale} />
  })
}

function Bend({ way, scale }: { way: Travel; scale: number }) {
  const send = usePlaces((s) => s.send)
  const by = usePlaces((s) =>
    s.pulled?.of === 'bend' && s.pulled.dancer === way.dancer ? s.pulled.by : STILL,
  )
  const middle = add(way.through ?? onWay(way, 0.5), by)
  const moveProps = usePull('bend', way.dancer, scale)
  const bent = by === STILL ? way : { ...way, through: middle }
  const px = (n: number) => n / scale
  return (
    <>
      <polyline
        points={drawn(bent)}
        fill="none"
        stroke={desk.quiet}
        strokeWidth={px(1.5)}
        pointerEvents="none"
      />
      <Disc
        {...moveProps}
        transform={`translate(${middle.x} ${middle.y})`}
        role="button"
        tabIndex={0}
        aria-label="Bend this way"
        onDoubleClick={() => send({ kind: 'straight' })}
      >
        <circle r={px(12)} fill="transparent" />
        <circle className="ring" r={px(5)} fill={desk.card} stroke={desk.quiet} strokeWidth={px(2)} />
      </Disc>
    </>
  )
}

const STILL: Spot = { x: 0, y: 0 }

/** Pulling something over the plan: metres from where it was, told to the machine. */
function usePull(of: 'dancers' | 'bend', dancer: string, scale: number) {
  const send = usePlaces((s) => s.send)
  const asSeen = useAsSeen()
  const sum = useRef<Spot>(STILL)
  const { moveProps } = useMove({
    onMoveStart() {
      sum.current = STILL
    },
    onMove({ deltaX, deltaY, pointerType, shiftKey }) {
      if (pointerType === 'keyboard') {
        const far = shiftKey ? 0.5 : 0.1
        const by = asSeen({ x: Math.sign(deltaX) * far, y: Math.sign(deltaY) * far })
        send({ kind: 'pull', of, dancer, by })
        // They are seen elsewhere in the next picture; all that depends on it is drawn after that.
        afterPaint(() => send({ kind: 'let go', free: true }))
        return
      }
      sum.current = add(sum.current, asSeen({ x: deltaX / scale, y: deltaY / scale }))
      send({ kind: 'pull', of, dancer, by: sum.current })
    },
    onMoveEnd({ pointerType, altKey }) {
      if (pointerType !== 'keyboard') send({ kind: 'let go', free: altKey || of === 'bend' })
    },
  })
  return moveProps
}

interface DiscProps extends Props {
  dancer: Dancer
  dancers: readonly Dancer[]
}

/** One dancer: chosen by a press, pulled, moved by arrows. */
function DancerDisc({ page, dancer, dancers, scale }: DiscProps) {
  const { id, letters, name } = dancer
  const begun = usePlaces((s) => s.standing.first.get(id))
  const ways = usePlaces((s) => s.standing.travels.get(id))
  const chosen = usePlaces((s) => s.chosen.includes(id))
  const pulled = usePlaces((s) => (s.pulled?.of === 'dancers' && s.chosen.includes(id) ? s.pulled.by : STILL))
  const send = usePlaces((s) => s.send)
  const tick = useCursor((s) => s.tick)
  const asSeen = useAsSeen()
  const group = useRef<SVGGElement>(null)
  const moveProps = usePull('dancers', id, scale)
  useTickNow(
    page,
    (now) => {
      const at = spotOnWays(begun, ways, now)
      if (at) moveTo(group, add(at, pulled))
    },
    ways ?? begun,
    pulled,
  )
  const at = spotOnWays(begun, ways, tick)
  if (!at) return null
  const { sign, colour } = signOf(dancers, dancer)
  const r = Math.max(0.26, 11 / scale)
  return (
    <Disc
      {...moveProps}
      ref={group}
      role="button"
      tabIndex={0}
      aria-pressed={chosen}
      aria-label={`${name === letters ? letters : `${letters}, ${name}`}: ${spotText(asSeen(at))}`}
      data-testid="dancer"
      onPointerDown={(e) => {
        moveProps.onPointerDown?.(e)
        if (e.shiftKey) send({ kind: 'choose', dancer: id, more: true })
        else if (!chosen) send({ kind: 'choose', dancer: id, more: false })
      }}
      onFocus={(e) => {
        // Come to by keys, it is the one that is moved.
        if (e.currentTarget.matches(':focus-visible') && !chosen)
          send({ kind: 'choose', dancer: id, more: false })
      }}
      onKeyDown={(e) => {
        if (e.key === ' ' || e.key === 'Enter') {
          e.preventDefault()
          send({ kind: 'choose', dancer: id, more: true })
        } else if (e.key === 'Escape') {
          e.preventDefault()
          send({ kind: 'choose none' })
        } else {
          moveProps.onKeyDown?.(e)
          if (e.key.startsWith('Arrow')) e.preventDefault()
        }
      }}
    >
      <g className="ring" fill="none" stroke="transparent">
        <SignShape
          sign={sign}
          r={r + 4 / scale}
          fill="none"
          stroke={chosen ? desk.ink : 'inherit'}
          width={2 / scale}
        />
      </g>
      <SignShape {...{ sign, r }} fill={colour} stroke={desk.card} width={1.5 / scale} />
      <PlanLetters fontSize={Math.min(r * 1.15, 13 / scale)}>{letters}</PlanLetters>
    </Disc>
  )
}
