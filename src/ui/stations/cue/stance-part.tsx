'use client'

import { type ReactNode, useMemo, useState } from 'react'
import styled from 'styled-components'
import { facingName, type Stance, stanceAt, stanceWords } from '@/core/choreo'
import { LEVELS, LIMITS, type Position, setPosition, tickName } from '@/core/routine'
import type { Stretch, Ticks } from '@/core/time'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/choice'
import { KeptLine } from '../../parts/kept-line'
import { Part, Tools } from '../../parts/panel'
import { mirroredStance } from '../../sheet/footing'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { useView } from '../../state/view'
import { desk } from '../../theme/tokens'
import { useCue } from './cue-store'

const Ends = styled.dl`
  margin: 0;
  display: grid;
  gap: 2px;
  font-size: 13.5px;
  dt { font-weight: 600; }
  dd { margin: 0 0 4px; overflow-wrap: anywhere; }
  em { font-style: normal; color: ${desk.quiet}; }
`

const Beside = styled.div`
  display: flex;
  gap: 12px;
  align-items: start;
  svg { flex: none; }
`

const Two = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
`

const AS_DANCED = { id: '', name: 'as danced' }
const WEIGHTS = [
  AS_DANCED,
  { id: 'left', name: 'left foot' },
  { id: 'right', name: 'right foot' },
  { id: 'both', name: 'both feet' },
]
const FACINGS = [AS_DANCED, ...Array.from({ length: 8 }, (_, f) => ({ id: String(f), name: facingName(f) }))]
const HEIGHTS = [AS_DANCED, ...LEVELS.map((id) => ({ id, name: id === 'middle' ? 'upright' : id }))]

/** How the dancer stands where a stretch begins and ends, in words: worked out from the cues, or written. */
export function StancePart({
  page,
  of,
  children,
}: {
  page: Page
  of: Stretch
  /** A picture beside the words. */
  children?: ReactNode
}) {
  const choreo = useCue((s) => s.choreo)
  const positions = useRoutine((s) => s.routine.positions)
  const mirrored = useView((s) => s.mirrored)
  const [writing, setWriting] = useState<'from' | 'to' | null>(null)
  const [begin, end] = useMemo(
    () => [of.from, of.to].map((tick) => stanceAt(choreo.body, positions, tick, choreo.book)),
    [choreo.body, choreo.book, positions, of.from, of.to],
  ) as [Stance, Stance]
  const row = (name: string, which: 'from' | 'to', stance: Stance) => (
    <>
      <dt>{name}</dt>
      <dd data-testid={`stance-${which}`}>
        {stanceWords(mirrored ? mirroredStance(stance) : stance)}
        {stance.written.size > 0 && <em> (written here)</em>}
      </dd>
    </>
  )
  const toggle = (which: 'from' | 'to') => setWriting(writing === which ? null : which)
  return (
    <Part aria-label="Where the dancer stands">
      <Beside>
        {children}
        <Ends>
          {row('Begins', 'from', begin)}
          {row('Ends', 'to', end)}
        </Ends>
      </Beside>
      <Tools>
        <Button small look="quiet" onPress={() => toggle('from')} aria-expanded={writing === 'from'}>
          Write the begin …
        </Button>
        <Button small look="quiet" onPress={() => toggle('to')} aria-expanded={writing === 'to'}>
          Write the end …
        </Button>
      </Tools>
      {writing && <WriteStance key={writing} page={page} at={of[writing]} />}
    </Part>
  )
}

/** Writes what the cues do not say of a place. */
function WriteStance({ page, at }: { page: Page; at: Ticks }) {
  const edit = useRoutine((s) => s.edit)
  const here = useRoutine((s) => s.routine.positions.find((p) => p.at === at))
  const set = (what: Partial<Position>) =>
    edit(`how the dancer stands on ${tickName(page.placed, at)}`, (r) => setPosition(r, at, what))
  return (
    <Two>
      <Choice
        label="Weight"
        value={here?.weight ?? ''}
        options={WEIGHTS}
        onChange={(w) => set({ weight: (w || undefined) as Position['weight'] })}
      />
      <Choice
        label="Facing"
        value={here?.facing === undefined ? '' : String(here.facing)}
        options={FACINGS}
        onChange={(f) => set({ facing: f === '' ? undefined : Number(f) })}
      />
      <Choice
        label="Level"
        value={here?.level ?? ''}
        options={HEIGHTS}
        onChange={(l) => set({ level: (l || undefined) as Position['level'] })}
      />
      <KeptLine
        label="Arms"
        value={here?.arms ?? ''}
        most={LIMITS.text}
        placeholder="down, on hips …"
        keep={(arms) => set({ arms })}
      />
    </Two>
  )
}
