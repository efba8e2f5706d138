'use client'

import { Mic } from 'lucide-react'
import { useState } from 'react'
import type { DrillPlan } from '@/core/drill'
import { common, type Stretch } from '@/core/time'
import { Button } from '../parts/button'
import { mustLoad } from '../state/devices'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { SayDialog } from './say-dialog'
import { useWayToRecord } from './way-to-record'

interface Props {
  page: Page
  stretch: Stretch
  look?: 'plain' | 'quiet' | 'dark'
  /** The floor's plan, where it is asked there. */
  plan?: DrillPlan
}

/** A button that leads to recording the calls of a stretch in the instructor's own voice. */
export function SayCounts({ page, stretch, look = 'quiet', plan }: Props) {
  const [open, setOpen] = useState(false)
  const said = useRoutine((s) => s.routine.voices.some((x) => common(x.stretch, stretch)))
  const toFloor = useWayToRecord(stretch, plan)
  // Where there is nothing to hear or to move yet, it begins where it is recorded.
  const press = () => (!said && mustLoad('microphone') ? toFloor() : setOpen(true))
  return (
    <>
      <Button small look={look} onPress={press} isDisabled={page.times.length < 2}>
        <Mic size={15} /> {said ? 'Your recorded calls' : 'Call them in your own voice'}
      </Button>
      {open && <SayDialog {...{ page, stretch, plan }} close={() => setOpen(false)} />}
    </>
  )
}
