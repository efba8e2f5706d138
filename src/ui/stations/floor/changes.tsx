'use client'

import { useMemo } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { inEvery, optionsIn, rolesIn } from '@/core/choreo'
import { danced, ofPass, PASSES, type Pass, STEP_CALLS } from '@/core/routine'
import { nextOf } from '@/core/station'
import { Button } from '../../parts/button'
import { useRoutine } from '../../state/routine-store'
import { useView } from '../../state/view'
import { useDrill, useFloor } from './floor-store'

/** The passes there is something to dance of; an arm alone where the two are told apart. */
export function usePasses(): Pass[] {
  const routine = useRoutine((s) => s.routine)
  return useMemo(() => {
    const cues = danced(routine)
    return PASSES.filter((p) => {
      if (p === 'all') return true
      if (p === 'look' || p === 'feet and arms') return false
      const arm = p === 'left arm' ? 'left' : p === 'right arm' ? 'right' : null
      return ofPass(cues, p).some((c) => !arm || c.side === arm)
    })
  }, [routine])
}

/** "Right arm" — a pass on a button. */
export const passName = (p: Pass): string => p.replace(/^./, (c) => c.toUpperCase())

/** What is called, as it is said on the floor. */
export const CALL_NAMES: Record<(typeof STEP_CALLS)[number], string> = {
  'as set': 'as the routine says',
  numbers: 'numbers',
  words: 'moves',
  lyric: 'lyric',
  mix: 'moves and numbers',
  own: 'my own voice',
  none: 'nothing',
}

/** What is danced and called, changed while it is danced: each press takes the next, from the next repetition on. */
export function Changes() {
  const plan = useDrill((d) => d.plan)
  const tell = useFloor((s) => s.tell)
  const routine = useRoutine((s) => s.routine)
  const { role, option, show } = useView(useShallow(({ role, option, show }) => ({ role, option, show })))
  const passes = usePasses()
  const { roles, versions } = useMemo(() => {
    const all = danced(routine)
    return { roles: ['', ...rolesIn(all)], versions: ['base', ...optionsIn(all).filter((o) => !inEvery(o))] }
  }, [routine])
  const pass = plan.pass ?? 'all'
  const calls = plan.calls ?? 'as set'
  return (
    <>
      {passes.length > 2 && (
        <Button look="dark" onPress={() => tell({ kind: 'change', what: { pass: nextOf(passes, pass) } })}>
          {passName(pass)} ▸
        </Button>
      )}
      <Button
        look="dark"
        onPress={() => tell({ kind: 'change', what: { calls: nextOf(STEP_CALLS, calls) } })}
      >
        Called: {CALL_NAMES[calls]} ▸
      </Button>
      {roles.length > 1 && (
        <Button look="dark" onPress={() => show({ role: nextOf(roles, roles.includes(role) ? role : '') })}>
          {role || 'everybody'} ▸
        </Button>
      )}
      {versions.length > 1 && (
        <Button
          look="dark"
          onPress={() => show({ option: nextOf(versions, versions.includes(option) ? option : 'base') })}
        >
          {option} version ▸
        </Button>
      )}
    </>
  )
}
