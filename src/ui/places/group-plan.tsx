'use client'

import { useMemo } from 'react'
import { type Formation, tickName } from '@/core/routine'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { DancersOnPlan } from './dancers-on-plan'
import { usePlaces } from './places-store'
import { FloorPlan, scaleOf } from './plan'
import { viewOf } from './plan-view'

interface Props {
  page: Page
  pixels: number
}

/** "Windows", or where it stands: what a formation is called. */
export const formationName = (page: Page, f: Formation): string => f.name || tickName(page.placed, f.at)

/** The plan of several dancers at the cursor. */
export function GroupPlan({ page, pixels }: Props) {
  const space = useRoutine((s) => s.routine.space)
  const standing = usePlaces((s) => s.standing)
  const view = useMemo(() => viewOf(space, null, standing), [space, standing])
  const scale = scaleOf(view, pixels)
  return (
    <FloorPlan {...{ view, space, pixels }} label="The floor from above, with all dancers">
      <DancersOnPlan page={page} scale={scale} />
    </FloorPlan>
  )
}
