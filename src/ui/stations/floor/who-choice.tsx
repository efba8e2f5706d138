'use client'

import { useMemo } from 'react'
import { ToggleButton } from 'react-aria-components'
import { useShallow } from 'zustand/react/shallow'
import { inEvery, optionsIn, rolesIn } from '@/core/choreo'
import { danced } from '@/core/routine'
import { useRoutine } from '../../state/routine-store'
import { useView } from '../../state/view'
import { Toggles } from './dark'

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
        <div>
          <div className="label">For whom</div>
          <Toggles
            aria-label="For whom"
            selectionMode="single"
            disallowEmptySelection
            selectedKeys={[roles.includes(role) ? `role ${role}` : 'all']}
            onSelectionChange={(keys) => show({ role: String([...keys][0]).replace(/^all$|^role /, '') })}
          >
            <ToggleButton id="all">Everybody</ToggleButton>
            {roles.map((r) => (
              <ToggleButton key={r} id={`role ${r}`}>
                {r}
              </ToggleButton>
            ))}
          </Toggles>
        </div>
      )}
      {versions.length > 0 && (
        <div>
          <div className="label">In which version</div>
          <Toggles
            aria-label="In which version"
            selectionMode="single"
            disallowEmptySelection
            selectedKeys={[versions.includes(option) ? option : 'base']}
            onSelectionChange={(keys) => show({ option: String([...keys][0]) })}
          >
            <ToggleButton id="base">Base</ToggleButton>
            {versions.map((o) => (
              <ToggleButton key={o} id={o}>
                {o}
              </ToggleButton>
            ))}
          </Toggles>
        </div>
      )}
    </>
  )
}
