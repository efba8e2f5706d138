import styled from 'styled-components'
import type { BodyState } from '@/core/choreo'
import { bodyWords, footState, SOLE } from '../../sheet/footing'
import { floor } from '../../theme/tokens'

const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 18px;
  font-size: clamp(17px, 1.9vw, 26px);
  color: ${floor.quiet};
`

const FILLS = { on: floor.ink, free: 'transparent', unknown: 'transparent' } as const

/** Two feet, filled where they carry weight, and a needle towards where the dancer faces. */
export function StandingPicture({
  state,
  width,
}: {
  state: Pick<BodyState, 'weight' | 'facing'>
  width: number
}) {
  const foot = (side: 'left' | 'right', transform: string) => {
    const how = footState(state.weight, side)
    return (
      <path
        d={SOLE}
        transform={transform}
        fill={FILLS[how]}
        stroke={floor.ink}
        strokeWidth={1.2}
        strokeDasharray={how === 'unknown' ? '2 2' : undefined}
      />
    )
  }
  return (
    <svg width={width} height={(width * 46) / 104} viewBox="0 -1 40 17.6" aria-hidden>
      {foot('left', 'translate(0 0)')}
      {foot('right', 'translate(10 0) translate(8 0) scale(-1 1)')}
      {state.facing !== 'unknown' && (
        <g transform={`translate(31 8) rotate(${state.facing * 45})`}>
          <path d="M0 -7.4 L4.4 5.4 L0 2.8 L-4.4 5.4 Z" fill={floor.azalea} />
        </g>
      )}
    </svg>
  )
}

/** How the dancer stands, as a picture and in words. @param wall what follows needs the wall: that it is not known is said */
export function Standing({ state, wall }: { state: Pick<BodyState, 'weight' | 'facing'>; wall: boolean }) {
  return (
    <Line data-testid="standing">
      <StandingPicture state={state} width={104} />
      <span>{bodyWords(state, wall)}</span>
    </Line>
  )
}
