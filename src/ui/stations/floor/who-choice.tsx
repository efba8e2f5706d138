'use client'

import { useMemo } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { inEvery, optionsIn, rolesIn } from '@/core/choreo'
import { danced } from '@/core/routine'
import { useRoutine } from '../../state/routine-store'
import { useView } from '../../state/view'
import { OneOf } from './one-of'

const ALL = { key: 'all', name: 'Everybody' }
const BASE = { key: 'base', name: 'Base' }

/** Whose cues are shown and called, and in which version; there only where there is a choice. */
export function WhoChoice() {
  const routine = useRoutine((s) => s.routine)
  const { role, option, show } = useView(useShallow(({ role, option, show }) => ({ role, option, show })))
  const { roles, versions } = useMemo(() => {
    const all = danced(routine)
    return { roles: rolesIn(all), versions: optionsIn(all).filter((o) => !inEvery(o)) }
  }, [routine])
  return (
    <>
      {roles.length > 0 && (
        <OneOf
          label="For whom"
          options={[ALL, ...roles.map((r) => ({ key: `role ${r}`, name: r }))]}
          chosen={roles.includes(role) ? `role ${role}` : 'all'}
          onChoose={(key) => show({ role: key.replace(/^all$|^role /, '') })}
        />
      )}
      {versions.length > 0 && (
        <OneOf
          label="In which version"
          options={[BASE, ...versions.map((o) => ({ key: o, name: o }))]}
          chosen={versions.includes(option) ? option : 'base'}
          onChoose={(key) => show({ option: key })}
        />
      )}
    </>
  )
}
