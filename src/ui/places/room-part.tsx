'use client'

import styled from 'styled-components'
import { LIMITS, PLAIN_STEPS, type Space, setSpace } from '@/core/routine'
import { Choice } from '../parts/choice'
import { More } from '../parts/more'
import { useRoutine } from '../state/routine-store'
import { MetresField } from './number-field'

const Two = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
`

const PLAIN_NAMES: Record<(typeof PLAIN_STEPS)[number], string> = {
  unknown: 'nobody knows',
  side: 'to the side of its foot',
  spot: 'stays on the spot',
}

/** How large the room is, what the camera sees, and how far steps go. */
export function RoomPart() {
  const space = useRoutine((s) => s.routine.space)
  const edit = useRoutine((s) => s.edit)
  const set = (did: string, what: Partial<Space>) => edit(did, (r) => setSpace(r, what))
  const { room, camera } = space
  const sized = (side: 'width' | 'depth', to: number | null) => {
    if (to === null) return set('forget the room', { room: null })
    return set('the size of the room', { room: { width: 6, depth: 4, ...room, [side]: to } })
  }
  const seen = (what: 'distance' | 'width', to: number | null) => {
    if (to === null) return set('forget the camera', { camera: null })
    return set('what the camera sees', { camera: { distance: 3, width: 3, ...camera, [what]: to } })
  }
  const metres = { min: 0.5, max: LIMITS.metres }
  return (
    <>
      <More name="Room and camera">
        <Two>
          <MetresField
            label="Room, wide (m)"
            value={room?.width ?? null}
            placeholder="6"
            {...metres}
            keep={(to) => sized('width', to)}
          />
          <MetresField
            label="Room, deep (m)"
            value={room?.depth ?? null}
            placeholder="4"
            {...metres}
            keep={(to) => sized('depth', to)}
          />
          <MetresField
            label="Camera, before the front edge (m)"
            value={camera?.distance ?? null}
            placeholder="3"
            {...metres}
            keep={(to) => seen('distance', to)}
          />
          <MetresField
            label="Its picture at that edge, wide (m)"
            value={camera?.width ?? null}
            placeholder="3"
            {...metres}
            keep={(to) => seen('width', to)}
          />
        </Two>
        <p>An empty field: nothing is said of it, and nothing is checked.</p>
      </More>
      <More name="How far steps go">
        <Two>
          {(['step', 'walk', 'run'] as const).map((gait) => (
            <MetresField
              key={gait}
              label={`${gait === 'step' ? 'A step' : gait === 'walk' ? 'A walk' : 'A run'} (m)`}
              value={space[gait]}
              min={0}
              max={5}
              keep={(to) => to !== null && set(`the length of a ${gait}`, { [gait]: to })}
            />
          ))}
        </Two>
        <Choice
          label="A step that says no way"
          value={space.plain}
          options={PLAIN_STEPS.map((id) => ({ id, name: PLAIN_NAMES[id] }))}
          onChange={(plain) => set('where plain steps go', { plain })}
        />
        <p>
          Words say the rest: forward, back, side, left, right, diagonal, on the spot, 2 m, four steps, big,
          small. A cue or a move may say it of its own.
        </p>
      </More>
    </>
  )
}
