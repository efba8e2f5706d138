'use client'

import { useShallow } from 'zustand/react/shallow'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/choice'
import { KeptLine } from '../../parts/kept-line'
import { Part, Tools } from '../../parts/panel'
import { useRoutine } from '../../state/routine-store'
import { usePlan, useTeach } from './teach-store'

/** The plans of a routine: which one, its name, another, none. */
export function PlansPart() {
  const send = useTeach((s) => s.send)
  const planId = usePlan((p) => p.id)
  const name = usePlan((p) => p.name)
  const ids = useRoutine(useShallow((s) => s.routine.plans.map((p) => p.id)))
  const names = useRoutine(useShallow((s) => s.routine.plans.map((p) => p.name)))
  return (
    <Part>
      <h3>Plans</h3>
      {ids.length > 1 && (
        <Choice
          label="This plan"
          value={planId}
          options={ids.map((id, i) => ({ id, name: names[i] ?? '' }))}
          onChange={(id) => send({ kind: 'choose plan', id })}
        />
      )}
      <KeptLine label="Name" needed value={name} keep={(text) => send({ kind: 'name plan', name: text })} />
      <Tools>
        <Button
          small
          onPress={() => send({ kind: 'another plan' })}
          tip="Another plan that begins with these settings"
        >
          Another plan
        </Button>
        <Button small look="quiet" onPress={() => send({ kind: 'take plan away' })}>
          Take it away
        </Button>
      </Tools>
    </Part>
  )
}
