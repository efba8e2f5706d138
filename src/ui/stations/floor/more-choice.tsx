'use client'

import { useState } from 'react'
import { Input, Label, TextField, ToggleButton } from 'react-aria-components'
import styled from 'styled-components'
import type { DrillPlan } from '@/core/drill'
import { STEP_CALLS, setCalling } from '@/core/routine'
import { SayCounts } from '../../say/say-counts'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { floor } from '../../theme/tokens'
import { CALL_NAMES } from './changes'
import { Toggles } from './dark'

const Box = styled.details`
  display: grid;
  gap: 12px;
  summary { cursor: pointer; font-weight: 600; padding: 6px 0; }
  > div { margin-bottom: 12px; }
  input { width: 100%; min-height: 42px; border-radius: 10px; border: 1.5px solid ${floor.line}; background: ${floor.card}; color: ${floor.ink}; padding: 0 12px; }
  label { font-size: 15px; color: ${floor.quiet}; }
`

const RUN_UPS = [0, 2, 4, 8]

interface Props {
  page: Page
  plan: DrillPlan
  onPlan: (plan: DrillPlan) => void
}

/** What is chosen now and then: what is called, counts before, and words to count in with. */
export function MoreChoice({ page, plan, onPlan }: Props) {
  const edit = useRoutine((s) => s.edit)
  const kept = useRoutine((s) => s.routine.leadWords)
  const [words, setWords] = useState(kept)
  const keep = () =>
    words.trim() !== kept && edit('count in with words', (r) => setCalling(r, { leadWords: words.trim() }))
  return (
    <Box>
      <summary>Calls, run-up, words to count in</summary>
      <div>
        <div className="label">Called</div>
        <Toggles
          aria-label="Called"
          selectionMode="single"
          disallowEmptySelection
          selectedKeys={[plan.calls ?? 'as set']}
          onSelectionChange={(keys) =>
            onPlan({ ...plan, calls: [...keys][0] as NonNullable<DrillPlan['calls']> })
          }
        >
          {STEP_CALLS.map((c) => (
            <ToggleButton key={c} id={c}>
              {CALL_NAMES[c]}
            </ToggleButton>
          ))}
        </Toggles>
      </div>
      {plan.calls === 'own' && (
        <div>
          <SayCounts {...{ page, plan }} stretch={plan.stretch} look="dark" />
        </div>
      )}
      <div>
        <div className="label">Counts danced before, not judged</div>
        <Toggles
          aria-label="Run-up"
          selectionMode="single"
          disallowEmptySelection
          selectedKeys={[String(plan.runUp ?? 0)]}
          onSelectionChange={(keys) => onPlan({ ...plan, runUp: Number([...keys][0]) })}
        >
          {RUN_UPS.map((n) => (
            <ToggleButton key={n} id={String(n)}>
              {n || 'none'}
            </ToggleButton>
          ))}
        </Toggles>
      </div>
      <TextField value={words} onChange={setWords} onBlur={keep}>
        <Label>Words to count in with</Label>
        <Input
          placeholder="ready and go"
          maxLength={200}
          onKeyDown={(e) => {
            if (e.key === 'Enter') keep()
            e.stopPropagation()
          }}
        />
      </TextField>
    </Box>
  )
}
