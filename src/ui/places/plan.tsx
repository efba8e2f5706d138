'use client'

import { type RefObject, type SVGProps, useEffectEvent, useLayoutEffect, useRef } from 'react'
import styled from 'styled-components'
import { type Path, pathAt } from '@/core/places'
import type { Space, Spot } from '@/core/routine'
import { useCursor } from '../state/cursor'
import type { Page } from '../state/page'
import { usePlayer, usePlayerState } from '../state/player'
import { useView } from '../state/view'
import { desk } from '../theme/tokens'
import type { PlanView } from './plan-view'

const Picture = styled.svg`
  display: block;
  width: 100%;
  height: auto;
  background: ${desk.card};
  border: 1.5px solid ${desk.line};
  border-radius: 10px;
  text { fill: ${desk.quiet}; user-select: none; }
`

interface FloorProps {
  view: PlanView
  space: Pick<Space, 'room' | 'camera'>
  /** How wide it is drawn, in pixels: letters keep their size. */
  pixels: number
  label: string
  children: React.ReactNode
  className?: string
}

/** Pixels of a metre. */
export const scaleOf = ({ left, right }: PlanView, pixels: number): number => pixels / (right - left)

/** So much above the front edge is for the audience and the marks. */
const HEAD_PX = 34

/** The floor from above: the audience on top, so that a dancer's right is the page's right, or its left as in a mirror. */
export function FloorPlan({ view, space, pixels, label, children, className }: FloorProps) {
  const scale = scaleOf(view, pixels)
  const head = HEAD_PX / scale
  const { left, right, front, back } = view
  const { room, camera } = space
  const mirrored = useView((v) => v.mirrored)
  const whole = Array.from({ length: Math.floor(right) - Math.ceil(left) + 1 }, (_, i) => Math.ceil(left) + i)
  const every = scale < 26 ? 2 : 1
  const px = (n: number) => n / scale
  return (
    <Picture
      className={className}
      viewBox={`${left} ${front - head} ${right - left} ${back - front + head}`}
      role="group"
      aria-label={mirrored ? `${label}, as in a mirror` : label}
      data-testid="plan"
    >
      <text x={0} y={front - head + px(14)} fontSize={px(12)} textAnchor="middle" fontWeight={600}>
        audience
      </text>
      {whole.map((m) => (
        <g key={m}>
          <line
            x1={m}
            x2={m}
            y1={front}
            y2={back}
            stroke={desk.line}
            strokeWidth={px(m === 0 ? 1.5 : 0.75)}
          />
          {m % every === 0 && m !== 0 && Math.abs(m) < right - 0.2 && (
            <text x={m} y={front - px(5)} fontSize={px(10.5)} textAnchor="middle">
              {Math.abs(m)}
            </text>
          )}
        </g>
      ))}
      <text x={0} y={front - px(5)} fontSize={px(10.5)} textAnchor="middle">
        middle
      </text>
      {Array.from({ length: Math.floor(back) }, (_, i) => i + 1).map((m) => (
        <line
          key={m}
          x1={left}
          x2={right}
          y1={m}
          y2={m}
          stroke={desk.line}
          strokeWidth={px(0.75)}
          strokeDasharray={`${px(2)} ${px(4)}`}
        />
      ))}
      {camera && <InPicture {...{ view, camera }} />}
      {room && (
        <rect
          x={-room.width / 2}
          y={0}
          width={room.width}
          height={room.depth}
          fill="none"
          stroke={desk.ink}
          strokeWidth={px(1.5)}
        />
      )}
      <g transform={mirrored ? MIRROR : undefined}>{children}</g>
    </Picture>
  )
}

/** Turns a drawing to the other side, and what was turned back. */
const MIRROR = 'scale(-1 1)'

/** Letters around a point of a plan, which are read from left to right in the mirror as well. */
export function PlanLetters(props: Pick<SVGProps<SVGTextElement>, 'fontSize' | 'style' | 'children'>) {
  const mirrored = useView((v) => v.mirrored)
  return (
    <text
      transform={mirrored ? MIRROR : undefined}
      textAnchor="middle"
      dominantBaseline="central"
      {...props}
    />
  )
}

/** What the camera sees. */
function InPicture({ view, camera }: { view: PlanView; camera: NonNullable<Space['camera']> }) {
  const { distance, width } = camera
  const half = (y: number) => (width * (distance + y)) / (2 * distance)
  const { front, back } = view
  return (
    <path
      d={`M${-half(front)} ${front} L${half(front)} ${front} L${half(back)} ${back} L${-half(back)} ${back} Z`}
      fill={desk.azaleaSoft}
      opacity={0.55}
    />
  )
}

/** How wide a plan may be drawn, in pixels, where so much room is left for it. */
export function fittingPixels({ left, right, front, back }: PlanView, wide: number, high: number): number {
  return Math.max(280, Math.min(wide, ((high - HEAD_PX) * (right - left)) / (back - front)))
}

/** What is heard in a picture is asked once for all that moves in it. */
let asked: { time: number; player: unknown; tick: number | null } = { time: -1, player: null, tick: null }

function tickIn(time: number, player: ReturnType<typeof usePlayer>, page: Page): number | null {
  if (time < 0 || asked.time !== time || asked.player !== player)
    asked = { time, player, tick: player.tickNow(page) }
  return asked.tick
}

/**
 * Calls back with the place that is heard, picture by picture while something plays; else with the cursor.
 * @param standing what the picture is drawn from: it is told anew when that changes
 */
export function useTickNow(
  page: Page,
  tell: (tick: number) => void,
  standing: unknown,
  pulled: unknown = null,
): void {
  const player = usePlayer()
  const playing = usePlayerState((s) => s.playing)
  const tick = useCursor((s) => s.tick)
  const told = useEffectEvent(tell)
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it is drawn from may have changed
  useLayoutEffect(() => {
    if (!playing) return told(tick)
    let frame = 0
    const step = (time = -1) => {
      const now = tickIn(time, player, page)
      if (now !== null) told(now)
      frame = requestAnimationFrame(step)
    }
    step()
    return () => cancelAnimationFrame(frame)
  }, [playing, player, page, tick, standing, pulled])
}

/** The path of one dancer's steps, and where they are now. */
export function PathOnPlan({
  path,
  begin,
  page,
  scale,
}: {
  path: Path
  begin: Spot
  page: Page
  scale: number
}) {
  const here = useRef<SVGGElement>(null)
  useTickNow(page, (tick) => moveTo(here, add(begin, pathAt(path, tick))), path, begin)
  const certain = path.points.findIndex((p) => p.uncertain)
  const points = [begin, ...path.points.map((p) => add(begin, p))]
  const known = certain < 0 ? points : points.slice(0, certain + 1)
  const rest = certain < 0 ? [] : points.slice(certain)
  const line = (list: readonly Spot[]) => list.map((p) => `${p.x},${p.y}`).join(' ')
  const px = (n: number) => n / scale
  return (
    <>
      <polyline
        points={line(known)}
        fill="none"
        stroke={desk.azalea}
        strokeWidth={px(2)}
        strokeLinejoin="round"
      />
      <polyline
        points={line(rest)}
        fill="none"
        stroke={desk.faint}
        strokeWidth={px(2)}
        strokeDasharray={`${px(4)} ${px(4)}`}
      />
      <rect x={begin.x - px(4)} y={begin.y - px(4)} width={px(8)} height={px(8)} fill={desk.ink}>
        <title>Where the dance begins</title>
      </rect>
      <g ref={here}>
        <circle r={px(8)} fill={desk.azalea} stroke={desk.card} strokeWidth={px(2)} />
      </g>
    </>
  )
}

export const add = (a: Spot, b: Spot): Spot => ({ x: a.x + b.x, y: a.y + b.y })

/** Puts a drawing somewhere without drawing it anew. */
export function moveTo(what: RefObject<SVGGElement | null>, { x, y }: Spot): void {
  what.current?.setAttribute('transform', `translate(${x} ${y})`)
}
