'use client'

import { type LessonStep, stepKey, stretchName } from '@/core/routine'
import { chosenSteps, oneChosen } from '@/core/station'
import { bound } from '../../keys/table'
import { Button } from '../../parts/button'
import { Tools } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import { useKeys } from '../../state/keys'
import { turnFilm } from '../../state/view'
import { usePlan, useTeach } from './teach-store'

/** What is done to the chosen step, and adding others. */
export function StepTools({ steps }: { steps: readonly LessonStep[] }) {
  const chosen = useTeach((s) => s.chosen)
  const send = useTeach((s) => s.send)
  const page = useTeach((s) => s.page)
  const marked = useCursor((s) => s.marked)
  const byHand = usePlan((p) => p.gone.length > 0 || p.steps.some((s) => s.own))
  const one = oneChosen({ chosen }, steps)
  const isAt = (step: LessonStep | undefined) => step !== undefined && stepKey(step) === one
  useKeys(
    bound({
      film: turnFilm,
      stepUp: () => send({ kind: 'nudge', by: -1 }),
      stepDown: () => send({ kind: 'nudge', by: 1 }),
      take: () => send({ kind: 'take chosen out' }),
    }),
  )
  return (
    <Tools>
      <Button
        small
        onPress={() => send({ kind: 'nudge', by: -1 })}
        isDisabled={!one || isAt(steps[0])}
        tip="The chosen step comes earlier"
        hotkey="stepUp"
      >
        Earlier
      </Button>
      <Button
        small
        onPress={() => send({ kind: 'nudge', by: 1 })}
        isDisabled={!one || isAt(steps.at(-1))}
        tip="The chosen step comes later"
        hotkey="stepDown"
      >
        Later
      </Button>
      <Button
        small
        onPress={() => send({ kind: 'take chosen out' })}
        isDisabled={!chosenSteps({ chosen }, steps).length}
        tip="All that are chosen; undo brings them back"
        hotkey="take"
      >
        Take out
      </Button>
      <Button
        small
        onPress={() => send({ kind: 'add step' })}
        tip="A copy of the chosen step after it, to be changed"
      >
        Add a step
      </Button>
      {marked && (
        <Button
          small
          onPress={() => send({ kind: 'add marked' })}
          tip={`A drill of ${stretchName(page.placed, marked)}`}
        >
          Add what is marked
        </Button>
      )}
      {byHand && (
        <Button
          small
          look="quiet"
          onPress={() => send({ kind: 'forget by hand' })}
          tip="The lesson as it is laid out from the settings; undo brings your changes back"
        >
          Forget changes by hand
        </Button>
      )}
    </Tools>
  )
}
