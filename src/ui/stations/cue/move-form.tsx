'use client'

import { useState } from 'react'
import { bringUpToDate, type Move, usesOf } from '@/core/choreo'
import { CAUTIONS, changeCues, LEVELS, LIMITS, SIDES, STEPS, WAYS } from '@/core/routine'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/choice'
import { KeptArea } from '../../parts/kept-area'
import { KeptLine } from '../../parts/kept-line'
import { Part, Tools } from '../../parts/panel'
import { MetresField } from '../../places/number-field'
import { useMoves } from '../../state/moves-store'
import { useRoutine } from '../../state/routine-store'

const GRADES: Record<Move['grade'], string> = {
  first: 'first lessons',
  some: 'some practice',
  much: 'much practice',
}
const none = { id: '', name: '–' }
const named = (list: readonly string[]) => [none, ...list.map((id) => ({ id, name: id }))]
const TURNS = [
  none,
  ...['left', 'right'].flatMap((to) =>
    [2, 4, 6, 8].map((n) => ({ id: `${to} ${n}`, name: `${n / 8} ${to}` })),
  ),
]

const NOTES = { note: 'Note', mistakes: 'Usual mistakes', learn: 'Where it can be learned' } as const

/** A move of the list, and the cues that are to be as it says. */
export function MoveForm({ move, close }: { move: Move; close: () => void }) {
  const editMoves = useMoves((s) => s.edit)
  const edit = useRoutine((s) => s.edit)
  const cues = useRoutine((s) => s.routine.cues)
  const [before, setBefore] = useState(move.name)
  const change = (what: Partial<Move>) =>
    editMoves((all) => all.map((m) => (m.id === move.id ? { ...m, ...what } : m)))
  const used = usesOf(cues, before)
  const update = () => {
    const ids = new Set(used.map((c) => c.id))
    edit(`bring “${move.name}” up to date`, (r) => changeCues(r, ids, (c) => bringUpToDate(c, move)))
    setBefore(move.name)
  }
  return (
    <Part aria-label={`The move ${move.name}`}>
      <h3>{move.name}</h3>
      <KeptLine label="Name" needed value={move.name} keep={(name) => change({ name })} of={move.id} />
      <KeptLine label="Called as" value={move.call} keep={(call) => change({ call })} of={move.id} />
      <HowItGoes move={move} change={change} />
      <KeptLine
        label="To be known before, with commas"
        value={move.needs.join(', ')}
        keep={(needs) => change({ needs: needs.split(',').flatMap((n) => n.trim() || []) })}
        of={move.id}
      />
      {(['note', 'mistakes', 'learn'] as const).map((key) => (
        <KeptArea
          key={key}
          label={NOTES[key]}
          value={move[key]}
          rows={key === 'learn' ? 1 : 2}
          most={1000}
          keep={(text) => change({ [key]: text })}
          of={move.id}
        />
      ))}
      <Tools>
        {used.length > 0 && (
          <Button
            small
            look="strong"
            onPress={update}
            tip="Name, call, step, turn, level and caution go to these cues; one undo step"
          >
            Bring {used.length} {used.length === 1 ? 'cue' : 'cues'} up to date
          </Button>
        )}
        <Button
          small
          look="quiet"
          onPress={() => {
            editMoves((all) => all.filter((m) => m.id !== move.id))
            close()
          }}
          tip="Cues that use it keep their words; undo in the list brings it back"
        >
          Take it off the list
        </Button>
      </Tools>
    </Part>
  )
}

/** What a move is to the feet and the body. */
function HowItGoes({ move, change }: { move: Move; change: (what: Partial<Move>) => void }) {
  return (
    <>
      <Choice
        label="Step"
        value={move.step ?? ''}
        options={named(STEPS)}
        onChange={(s) => change({ step: (s || null) as Move['step'] })}
      />
      <Choice
        label="Turn"
        value={move.turn ? `${move.turn.to} ${move.turn.eighths}` : ''}
        options={TURNS}
        onChange={(t) => {
          const [to, n] = t.split(' ')
          change({ turn: t ? { to: to as 'left', eighths: Number(n) } : null })
        }}
      />
      <Choice
        label="Goes"
        value={move.way ?? ''}
        options={[{ id: '', name: 'as its words say' }, ...WAYS.map((id) => ({ id, name: id }))]}
        onChange={(w) => change({ way: (w || null) as Move['way'] })}
      />
      <MetresField
        label="How far, all in all (m)"
        value={move.metres}
        placeholder="as its words say"
        min={0}
        max={LIMITS.metres}
        keep={(metres) => change({ metres })}
      />
      <Choice
        label="Usual side"
        value={move.side}
        options={SIDES.map((id) => ({ id, name: id }))}
        onChange={(side) => change({ side })}
      />
      <Choice
        label="Level"
        value={move.level ?? ''}
        options={named(LEVELS)}
        onChange={(l) => change({ level: (l || null) as Move['level'] })}
      />
      <Choice
        label="Caution"
        value={move.caution ?? ''}
        options={named(CAUTIONS)}
        onChange={(c) => change({ caution: (c || null) as Move['caution'] })}
      />
      <Choice
        label="For"
        value={move.grade}
        options={(Object.keys(GRADES) as Move['grade'][]).map((id) => ({ id, name: GRADES[id] }))}
        onChange={(grade) => change({ grade })}
      />
    </>
  )
}
