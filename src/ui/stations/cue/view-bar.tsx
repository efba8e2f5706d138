'use client'

import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { inEvery, optionsIn, rolesIn } from '@/core/choreo'
import type { DancedCue } from '@/core/routine'
import { Choice } from '../../parts/choice'
import { Part } from '../../parts/panel'
import { useView } from '../../state/view'
import { desk } from '../../theme/tokens'

const Row = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  padding-bottom: 12px;
  border-bottom: 1px solid ${desk.line};
`

/** Whose cues are shown, and which option; there only when a routine has more than one of either. */
export function ViewBar({ all }: { all: readonly DancedCue[] }) {
  const { role, option, show } = useView(useShallow(({ role, option, show }) => ({ role, option, show })))
  const roles = rolesIn(all)
  const options = optionsIn(all).filter((o) => !inEvery(o))
  if (!roles.length && !options.length) return null
  return (
    <Part aria-label="What is shown">
      <Row>
        <Choice
          label="Show for"
          hideLabel
          value={roles.includes(role) ? role : ''}
          options={[{ id: '', name: 'everybody' }, ...roles.map((id) => ({ id, name: id }))]}
          onChange={(r) => show({ role: r })}
        />
        <Choice
          label="Version shown"
          hideLabel
          value={options.includes(option) ? option : 'base'}
          options={[{ id: 'base', name: 'base' }, ...options.map((id) => ({ id, name: id }))]}
          onChange={(o) => show({ option: o })}
        />
      </Row>
    </Part>
  )
}
