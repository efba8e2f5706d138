'use client'

import styled from 'styled-components'
import { inEvery, optionsIn, rolesIn } from '@/core/choreo'
import { type Cue, type DancedCue, danced, LIMITS, OPTIONS } from '@/core/routine'
import { KeptLine } from '../../parts/kept-line'
import { Part } from '../../parts/panel'
import { SuggestLine } from '../../parts/suggest'
import { useRoutine } from '../../state/routine-store'
import { useView } from '../../state/view'

const Two = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
`

interface Props {
  cue: DancedCue
  change: (what: Partial<Cue>, did: string) => void
}

/** What is said with a cue, and for whom it is. */
export function SaysPart({ cue, change }: Props) {
  const all = useRoutine((s) => danced(s.routine))
  const show = useView((s) => s.show)
  const off = undefined as never
  const inVersion = (name: string) => {
    const o = name.replace(/["\\]/g, '').trim() || 'base'
    change({ option: o === 'base' ? off : o }, 'change the version')
    // What was just written is seen.
    if (!inEvery(o)) show({ option: o })
  }
  const forRole = (role: string) => {
    change({ role }, 'change the role')
    if (role) show({ role })
  }
  return (
    <Part aria-label="What is said with it">
      <KeptLine
        of={cue.id}
        label="Tip"
        value={cue.tip ?? ''}
        most={LIMITS.note}
        placeholder="what to say to learners"
        keep={(tip) => change({ tip }, 'change the tip')}
      />
      <KeptLine
        of={cue.id}
        label="Usual mistake"
        value={cue.mistake ?? ''}
        most={LIMITS.note}
        placeholder="what goes wrong, and its cure"
        keep={(mistake) => change({ mistake }, 'change the usual mistake')}
      />
      <Two>
        <KeptLine
          of={cue.id}
          label="Quality"
          value={cue.quality ?? ''}
          most={LIMITS.note}
          placeholder="sharp, soft …"
          keep={(quality) => change({ quality }, 'change the quality')}
        />
        <KeptLine
          of={cue.id}
          label="Look"
          value={cue.look ?? ''}
          most={LIMITS.note}
          placeholder="to the hand …"
          keep={(look) => change({ look }, 'change the look')}
        />
        <SuggestLine
          of={cue.id}
          label="Role"
          value={cue.role ?? ''}
          offers={rolesIn(all)}
          placeholder="everybody"
          keep={forRole}
        />
        <SuggestLine
          of={cue.id}
          label="Version"
          value={cue.option === 'base' ? '' : (cue.option ?? '')}
          offers={[...new Set([...OPTIONS, ...optionsIn(all)])]}
          most={LIMITS.option}
          placeholder="base"
          keep={inVersion}
        />
      </Two>
    </Part>
  )
}
