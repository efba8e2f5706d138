'use client'

import { useState } from 'react'
import { Input, Label, TextField } from 'react-aria-components'
import styled from 'styled-components'
import { STEP_CALLS, setCalling } from '@/core/routine'
import { SayCounts } from '../../say/say-counts'
import { useRoutine } from '../../state/routine-store'
import { floor } from '../../theme/tokens'
import { CALL_NAMES } from './changes'
import { useFloor } from './floor-store'
import { OneOf } from './one-of'

const Box = styled.details`
  display: grid;
  gap: 12px;
  summary { cursor: pointer; font-weight: 600; padding: 6px 0; }
  > div { margin-bottom: 12px; }
  input { width: 100%; min-height: 42px; border-radius: 10px; border: 1.5px solid ${floor.line}; background: ${floor.card}; color: ${floor.ink}; padding: 0 12px; }
  label { font-size: 15px; color: ${floor.quiet}; }
`

const RUN_UPS = ['0', '2', '4', '8'].map((key) => ({ key, name: key === '0' ? 'none' : key }))
const CALLED = STEP_CALLS.map((key) => ({ key, name: CALL_NAMES[key] }))

/** What is chosen now and then: what is called, counts before, and words to count in with. */
export function MoreChoice() {
  const page = useFloor((s) => s.page)
  const plan = useFloor((s) => s.plan)
  const send = useFloor((s) => s.send)
  const edit = useRoutine((s) => s.edit)
  const kept = useRoutine((s) => s.routine.leadWords)
  const [words, setWords] = useState(kept)
  const keep = () =>
    words.trim() !== kept && edit('count in with words', (r) => setCalling(r, { leadWords: words.trim() }))
  return (
    <Box>
      <summary>Calls, run-up, words to count in</summary>
      <OneOf
        label="Called"
        options={CALLED}
        chosen={plan.calls ?? 'as set'}
        onChoose={(calls) => send({ kind: 'plan', what: { calls } })}
      />
      {plan.calls === 'own' && (
        <div>
          <SayCounts {...{ page, plan }} stretch={plan.stretch} look="dark" />
        </div>
      )}
      <OneOf
        label="Counts danced before, not judged"
        name="Run-up"
        options={RUN_UPS}
        chosen={String(plan.runUp ?? 0)}
        onChoose={(n) => send({ kind: 'plan', what: { runUp: Number(n) } })}
      />
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
