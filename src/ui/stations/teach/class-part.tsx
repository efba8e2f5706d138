'use client'

import { useMemo } from 'react'
import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { type NewMove, newMoves, taughtIn } from '@/core/lesson'
import { stretchName } from '@/core/routine'
import { Button } from '../../parts/button'
import { KeptLine } from '../../parts/kept-line'
import { Part, Tools } from '../../parts/panel'
import { SuggestLine } from '../../parts/suggest'
import { Unread } from '../../parts/unread'
import { useDance } from '../../state/choreo'
import { useBook } from '../../state/moves-store'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import type { ClassLog } from '../../state/use-class'
import { desk } from '../../theme/tokens'

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 8px;
  font-size: 13.5px;
  span { display: block; color: ${desk.quiet}; overflow-wrap: anywhere; }
`

interface Props {
  page: Page
  group: string
  log: ClassLog
  heads: number | null
  onGroup: (name: string) => void
  onHeads: (heads: number | null) => void
  onNext: () => void
  onDrill: (move: NewMove) => void
}

/** For whom the lesson is: the class, its next lesson, and the moves that are new to it. */
export function ClassPart({ page, group, heads, log, onGroup, onHeads, onNext, onDrill }: Props) {
  const planned = useRoutine(useShallow((s) => s.routine.plans.flatMap((p) => p.group || [])))
  const book = useBook()
  const offers = [...new Set([...log.groups, ...planned])]
  const dance = useDance()
  const { there, rows } = log
  const fresh = useMemo(
    () => (there ? newMoves(dance, book, taughtIn(rows)) : []),
    [dance, book, there, rows],
  )
  return (
    <Part aria-label="The class">
      <SuggestLine label="Class" value={group} offers={offers} placeholder="everybody" keep={onGroup} />
      {group && (
        <KeptLine
          label="How many come"
          value={heads === null ? '' : String(heads)}
          keep={(text) => {
            const n = Number(text)
            if (!text.trim()) onHeads(null)
            else if (Number.isInteger(n) && n >= 1 && n <= 999) onHeads(n)
          }}
        />
      )}
      {log.problem && <Unread log={log} so="Until then a lesson is laid out as for a dance nobody knows." />}
      {log.rows.length > 0 && (
        <Tools>
          <Button
            small
            onPress={onNext}
            tip="Begins with what sat least and what was left longest, and goes on where the last one stopped"
          >
            Plan the next lesson
          </Button>
        </Tools>
      )}
      {fresh.length > 0 && (
        <>
          <h3>New to {group || 'them'}</h3>
          <List data-testid="new-moves">
            {fresh.slice(0, 6).map((m) => (
              <li key={m.move.id}>
                <b>{m.move.name}</b>, first in {stretchName(page.placed, m.stretch)}
                {m.move.needs.length > 0 && <span>Needs {m.move.needs.join(', ')}.</span>}
                {m.move.learn && <span>To be learned: {m.move.learn}</span>}
                <Button small look="quiet" onPress={() => onDrill(m)}>
                  Drill it first
                </Button>
              </li>
            ))}
          </List>
          {fresh.length > 6 && <p>and {fresh.length - 6} more.</p>}
        </>
      )}
    </Part>
  )
}
