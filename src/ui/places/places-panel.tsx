'use client'

import { Maximize2, Minimize2 } from 'lucide-react'
import { rolesIn } from '@/core/choreo'
import { danced } from '@/core/routine'
import { Button } from '../parts/button'
import { Pick } from '../parts/field'
import { Part, Tools } from '../parts/panel'
import { Unseen } from '../parts/unseen'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { useView } from '../state/view'
import { ArrangePart } from './arrange-part'
import { DancersPart } from './dancers-part'
import { FormationPart } from './formation-part'
import { GroupPlan } from './group-plan'
import { PathPart } from './path-part'
import { RoomPart } from './room-part'
import { WhereTable } from './where-table'

/** How wide the panel draws a plan, in pixels. */
const PANEL = 262

const PLANS = [
  { id: 'dancers', name: 'Dancers' },
  { id: 'path', name: 'Path' },
] as const

/** Where the dance goes in the room: the path of one dancer's steps, or the places of several. */
export function PlacesPanel({ page }: { page: Page }) {
  const routine = useRoutine((s) => s.routine)
  const large = useView((v) => v.planLarge)
  const show = useView((v) => v.show)
  const several = routine.dancers.length > 1
  const of = useView((v) => v.planOf)
  const group = several && of === 'dancers'
  const roles = rolesIn(danced(routine))
  return (
    <>
      <Tools style={{ justifyContent: 'space-between', alignItems: 'center' }}>
        {several && <Unseen as="h2">Room</Unseen>}
        {several ? (
          <Pick
            label="What the plan is of"
            hideLabel
            value={of}
            options={PLANS}
            onChange={(planOf) => show({ planOf })}
          />
        ) : (
          <h2 style={{ margin: 0 }}>Path of the steps</h2>
        )}
        <Button small look="quiet" onPress={() => show({ planLarge: !large })} aria-pressed={large}>
          {large ? <Minimize2 size={15} /> : <Maximize2 size={15} />} {large ? 'Small' : 'Large'}
        </Button>
      </Tools>
      {group ? (
        <>
          {!large && (
            <Part>
              <GroupPlan page={page} pixels={PANEL} />
            </Part>
          )}
          <FormationPart page={page} />
          <ArrangePart />
          <WhereTable page={page} />
        </>
      ) : (
        <PathPart page={page} pixels={PANEL} />
      )}
      <DancersPart roles={roles} />
      <RoomPart />
    </>
  )
}
