'use client'

import { changePlan, removePlan } from '@/core/lesson'
import { cutText, type LessonPlan, type LessonSettings } from '@/core/routine'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/field'
import { KeptLine } from '../../parts/kept-line'
import { Part, Tools } from '../../parts/panel'
import { useRoutine } from '../../state/routine-store'

interface Props {
  plan: LessonPlan
  make: (settings: LessonSettings, name: string) => void
  choose: (id: string | null) => void
}

/** The plans of a routine: which one, its name, another, none. */
export function PlansPart({ plan, make, choose }: Props) {
  const edit = useRoutine((s) => s.edit)
  const routine = useRoutine((s) => s.routine)
  const { settings } = plan
  return (
    <Part>
      <h3>Plans</h3>
      {routine.plans.length > 1 && (
        <Choice
          label="This plan"
          value={plan.id}
          options={routine.plans.map((p) => ({ id: p.id, name: p.name }))}
          onChange={(x) => choose(x)}
        />
      )}
      <KeptLine
        label="Name"
        needed
        value={plan.name}
        keep={(name) => edit('name the plan', (r) => changePlan(r, plan.id, (p) => ({ ...p, name })))}
      />
      <Tools>
        <Button
          small
          onPress={() => make(settings, `${cutText(plan.name, 180)} (another)`)}
          tip="Another plan that begins with these settings"
        >
          Another plan
        </Button>
        <Button
          small
          look="quiet"
          onPress={() => {
            edit('take a plan away', (r) => removePlan(r, plan.id))
            choose(null)
          }}
        >
          Take it away
        </Button>
      </Tools>
    </Part>
  )
}
