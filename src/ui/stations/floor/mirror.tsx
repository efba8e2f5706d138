'use client'

import { useEffect, useRef } from 'react'
import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { figure, type Pose, type Spot } from '@/core/choreo'
import { Button } from '../../parts/button'
import { saveFile } from '../../parts/save-file'
import { useView } from '../../state/view'
import { floor } from '../../theme/tokens'
import type { Filmed } from './reel'
import { useFilming } from './use-camera'

/** What stands beside the counts. */
export const BesidePanel = styled.div`
  display: flex;
  flex-direction: column;
  justify-content: center;
  gap: 8px;
  min-width: 0;
  height: 100%;
  p { color: ${floor.quiet}; font-size: 14.5px; }
  svg { flex: 1; min-height: 0; }
  @media (max-width: 700px) { flex-direction: row; height: 12dvh; button { display: none; } > div { flex: 1; } }
`

const Glass = styled.div`
  position: relative;
  flex: 0 1 340px;
  min-height: 0;
  border-radius: 14px;
  overflow: hidden;
  background: #000;
  video { position: absolute; inset: 0; width: 100%; height: 100%; object-fit: cover; transform: scaleX(-1); }
  span { position: absolute; left: 10px; bottom: 8px; padding: 2px 9px; border-radius: 8px; background: #120C17CC; font-size: 14.5px; font-weight: 600; }
`

/** Saves a repetition as a film on this computer. */
export function saveFilmed(filmed: Filmed): void {
  const name = `${filmed.label}, ${Math.round(filmed.speed * 100)} percent`.replace(
    /[^\p{L}\p{N} ,_-]+/gu,
    '',
  )
  saveFile(`${name}.${filmed.film.type.includes('mp4') ? 'mp4' : 'webm'}`, filmed.film, filmed.film.type)
}

interface Props {
  stream: MediaStream | null
  problem: string
  filmed: Filmed | null
  onFilmed: (filmed: Filmed) => void
  /** Which repetition is danced now; null in a count-in. */
  dancing: string | null
  about: { label: string; speed: number; seconds: number; songNow: () => number | null }
  pose: Pose
}

/** Beside the counts: the camera as a mirror and the last repetition again, or a drawn figure. */
export function Beside({ stream, problem, filmed, onFilmed, dancing, about, pose }: Props) {
  const { beside, replay } = useView(useShallow(({ beside, replay }) => ({ beside, replay })))
  const films = useFilming(stream, dancing, about, onFilmed)
  if (beside === 'figure' || !stream)
    return (
      <BesidePanel data-testid="beside">
        {beside === 'camera' && <p role="status">{problem || 'Opening the camera …'}</p>}
        <DrawnFigure pose={pose} />
      </BesidePanel>
    )
  return (
    <BesidePanel data-testid="beside">
      {replay !== 'last' && <Live stream={stream} />}
      {replay !== 'now' &&
        (filmed ? (
          <Again filmed={filmed} dancing={dancing} speed={about.speed} />
        ) : (
          <p>
            {films
              ? 'The last repetition is shown here, as soon as one was danced.'
              : 'This browser cannot film: there is a mirror, and no repetition to look at again.'}
          </p>
        ))}
      {filmed && (
        <Button look="dark" small onPress={() => saveFilmed(filmed)} style={{ alignSelf: 'start' }}>
          Save the last one
        </Button>
      )}
    </BesidePanel>
  )
}

function Live({ stream }: { stream: MediaStream }) {
  const video = useRef<HTMLVideoElement>(null)
  useEffect(() => {
    if (video.current) video.current.srcObject = stream
  }, [stream])
  return (
    <Glass>
      <video ref={video} autoPlay muted playsInline aria-label="Mirror" />
      <span>now</span>
    </Glass>
  )
}

/** A film is put together within this time. */
const FILM_MS = 300

/** The repetition before, danced beside this one: begun with it, at its speed. */
function Again({ filmed, dancing, speed }: { filmed: Filmed; dancing: string | null; speed: number }) {
  const video = useRef<HTMLVideoElement>(null)
  const shown = useRef<Filmed | null>(null)
  useEffect(() => {
    const element = video.current
    if (!element || dancing === null) return
    const begin = () => {
      shown.current = filmed
      element.src = filmed.url
      element.playbackRate = speed / filmed.speed
      // Stopped before it began: nothing is lost.
      element.play().catch(() => {})
    }
    // The film of what has just ended is being put together: the one before it is not begun meanwhile.
    const timer = setTimeout(begin, shown.current === filmed ? FILM_MS : 0)
    return () => clearTimeout(timer)
  }, [filmed, dancing, speed])
  return (
    <Glass>
      <video ref={video} muted playsInline aria-label="The last repetition" data-testid="replay" />
      <span>one repetition ago</span>
    </Glass>
  )
}

const line = (spots: readonly Spot[]) => spots.map(([x, y]) => `${x * 100},${-y * 100}`).join(' ')

/** A dancer seen from behind: over the foot with the weight, turned where the cues turn it. */
export function DrawnFigure({ pose }: { pose: Pose }) {
  const f = figure(pose)
  const limb = { fill: 'none', stroke: floor.ink, strokeWidth: 4.5, strokeLinecap: 'round' as const }
  const half = (side: 'left' | 'right') => {
    const on = pose.weight === side || pose.weight === 'both'
    const [x, y] = f.feet[side]
    return (
      <g key={side} strokeLinejoin="round">
        <polyline {...limb} points={line([f.hips, f.knees[side], f.feet[side]])} />
        <polyline
          {...limb}
          stroke={
            pose.arms === side || pose.arms === 'both' || pose.arms === 'none' ? floor.azalea : floor.ink
          }
          points={line([f.shoulders[side], f.elbows[side], f.hands[side]])}
        />
        <ellipse
          cx={x * 100}
          cy={-y * 100 + 2}
          rx={6}
          ry={3}
          fill={on ? floor.azalea : floor.ground}
          stroke={floor.ink}
          strokeWidth={1.4}
          strokeDasharray={pose.weight === 'unknown' ? '2 2' : undefined}
        />
      </g>
    )
  }
  return (
    <svg
      viewBox="-46 -124 92 136"
      role="img"
      aria-label="A drawn figure of where the dancer stands"
      data-testid="figure"
    >
      <ellipse cx={0} cy={3} rx={34} ry={6} fill={floor.card} />
      {half('left')}
      {half('right')}
      <polyline {...limb} points={line([f.hips, f.neck])} />
      <polyline
        {...limb}
        points={line([f.shoulders.left, f.neck, f.shoulders.right])}
        strokeLinejoin="round"
      />
      <circle
        cx={f.head[0] * 100}
        cy={-f.head[1] * 100}
        r={8.5}
        fill={floor.ground}
        stroke={floor.ink}
        strokeWidth={4}
      />
      {f.nose && <circle cx={f.nose[0] * 100} cy={-f.nose[1] * 100} r={2.6} fill={floor.azalea} />}
    </svg>
  )
}
