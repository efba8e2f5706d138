'use client'

import styled from 'styled-components'
import { type BodyState, type BodyStep, facingName, type Stance } from '@/core/choreo'
import { mirrorFacing, mirrorText, otherSide, type PlacedPhrase } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
import { desk } from '../theme/tokens'

/** Height of the strip of feet under a row. */
export const FOOTING = 26

const Place = styled.span`
  position: absolute;
  height: ${FOOTING - 4}px;
  pointer-events: none;
  svg { display: block; overflow: visible; }
`

/** A sole seen from above, toes up. */
export const SOLE =
  'M4 0.5 C6.6 0.5 7.5 3 7.2 6 C7 8 6.4 8.6 6.5 11 C6.6 13.6 5.6 15 4 15 C2.4 15 1.4 13.6 1.5 11 C1.6 8.6 1 8 0.8 6 C0.5 3 1.4 0.5 4 0.5 Z'

function Sole({
  x,
  state,
  mirror = false,
}: {
  x: number
  state: 'on' | 'free' | 'unknown'
  mirror?: boolean
}) {
  return (
    <path
      d={SOLE}
      transform={`translate(${x} 0)${mirror ? ' translate(8 0) scale(-1 1)' : ''}`}
      fill={state === 'on' ? desk.ink : desk.card}
      stroke={state === 'unknown' ? desk.faint : desk.ink}
      strokeWidth={1.3}
      strokeDasharray={state === 'unknown' ? '2 2' : undefined}
    />
  )
}

type Seen = Pick<BodyState, 'weight' | 'facing'>

/** A body as the view shows it: in the mirror left is right. */
export function seen(state: Seen, mirrored: boolean): Seen {
  if (!mirrored) return state
  const { weight, facing } = state
  return {
    weight: weight === 'left' ? 'right' : weight === 'right' ? 'left' : weight,
    facing: facing === 'unknown' ? facing : mirrorFacing(facing),
  }
}

/** How a dancer stands, as the view shows it. */
export function mirroredStance(stance: Stance): Stance {
  return {
    ...stance,
    ...seen(stance, true),
    free: stance.free && otherSide(stance.free),
    arms: mirrorText(stance.arms),
  }
}

export const footState = (weight: Seen['weight'], foot: 'left' | 'right') =>
  weight === 'unknown' ? 'unknown' : weight === 'both' || weight === foot ? 'on' : 'free'

/** In words, for titles and screen readers. */
/** @param wall the wall is said where it is not known, too */
export function bodyWords({ weight, facing }: Seen, wall = true): string {
  const feet =
    weight === 'unknown'
      ? 'weight not known'
      : weight === 'both'
        ? 'weight on both feet'
        : `weight on the ${weight} foot`
  if (facing === 'unknown') return wall ? `${feet}, facing not known` : feet
  return `${feet}, facing ${facingName(facing)}`
}

/** Two feet, filled where they carry weight, and a needle that points where the dancer faces. */
function Feet({ state }: { state: Seen }) {
  return (
    <svg width={36} height={20} viewBox="0 -2 36 20" role="img" aria-label={bodyWords(state)}>
      <title>{bodyWords(state)}</title>
      <Sole x={0} state={footState(state.weight, 'left')} />
      <Sole x={10} state={footState(state.weight, 'right')} mirror />
      {state.facing !== 'unknown' && state.facing !== 0 && (
        <g transform={`translate(28 8) rotate(${state.facing * 45})`}>
          <path d="M0 -7 L4 5 L0 2.6 L-4 5 Z" fill={desk.azalea} />
        </g>
      )}
    </svg>
  )
}

/** Under a row: where the weight is after each step. */
export function FootingStrip({
  steps,
  placed,
  columns,
  top,
  mirrored,
}: {
  steps: readonly BodyStep[]
  placed: PlacedPhrase
  columns: number
  top: number
  mirrored: boolean
}) {
  const drawn = steps.filter((s, i) => s.foot !== null || s.weight === 'both' || changed(steps[i - 1], s))
  return drawn.map((s, i) =>
    drawn[i + 1]?.at === s.at ? null : (
      <Place
        key={`${s.cue.id} ${s.at}`}
        data-testid="feet"
        style={{ top, left: `${((s.at - placed.start) / TICKS_PER_COUNT / columns) * 100}%` }}
      >
        <Feet state={seen(s, mirrored)} />
      </Place>
    ),
  )
}

const changed = (before: BodyStep | undefined, now: BodyStep) =>
  before !== undefined && (before.weight !== now.weight || before.facing !== now.facing)

const WAYS: readonly [RegExp, number][] = [
  [/\bforward\b/i, 0],
  [/\bright\b/i, 90],
  [/\b(back|backward|backwards)\b/i, 180],
  [/\bleft\b/i, 270],
]

/** The dancer from above at one count: the audience is below. @param travel words of a cue that travels */
export function StagePlan({ state, travel }: { state: Seen | null; travel: string }) {
  const facing = state && state.facing !== 'unknown' ? state.facing : null
  const way = WAYS.find(([word]) => word.test(travel))?.[1]
  // The audience is up the page, so that the dancer's right is the page's right.
  const turn = facing === null ? 0 : facing * 45
  const says = `The dancer seen from above${state ? `: ${bodyWords(state)}` : ''}. The dashed line is the audience.`
  return (
    <svg width={98} height={78} viewBox="0 0 132 104" role="img" aria-label={says}>
      <title>{says}</title>
      <line x1={20} x2={112} y1={6} y2={6} stroke={desk.quiet} strokeWidth={2} strokeDasharray="3 4" />
      <rect
        x={1}
        y={14}
        width={130}
        height={89}
        rx={8}
        fill={desk.card}
        stroke={desk.line}
        strokeWidth={1.5}
      />
      {state && (
        <g transform={`translate(66 62) rotate(${turn})`}>
          <g transform="translate(-13 -20)">
            <Sole x={0} state={footState(state.weight, 'left')} />
          </g>
          <g transform="translate(5 -20)">
            <Sole x={0} state={footState(state.weight, 'right')} mirror />
          </g>
          <rect
            x={-23}
            y={-6}
            width={46}
            height={13}
            rx={6.5}
            fill={desk.azaleaSoft}
            stroke={desk.ink}
            strokeWidth={1.5}
          />
          <circle cx={0} cy={0} r={7.5} fill={desk.ink} />
          {facing !== null && <path d="M0 -38 L5 -27 L-5 -27 Z" fill={desk.azalea} />}
          {way !== undefined && (
            <g transform={`rotate(${way})`} fill="none" stroke={desk.leaf} strokeWidth={2.5}>
              <path d="M-5 -36 L0 -43 L5 -36 M0 -42 L0 -28" transform="translate(12 0)" />
            </g>
          )}
        </g>
      )}
    </svg>
  )
}
