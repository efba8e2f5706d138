'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { type Move, movesLike, namedMove, usesOf } from '@/core/choreo'
import { CAUTIONS, changeCues, cutText, LEVELS, LIMITS, SIDES, STEPS, WAYS, withDetail } from '@/core/routine'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/choice'
import { Text } from '../../parts/field'
import { KeptArea } from '../../parts/kept-area'
import { KeptLine } from '../../parts/kept-line'
import { Part, Tools } from '../../parts/panel'
import { MetresField } from '../../places/number-field'
import { useMoves } from '../../state/moves-store'
import { useOutbox } from '../../state/outbox-window'
import { useRoutine } from '../../state/routine-store'
import { MOVES_DOCUMENT } from '../../state/saved'
import { desk } from '../../theme/tokens'

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 240px;
  overflow: auto;
  border: 1.5px solid ${desk.line};
  border-radius: 10px;
  button { width: 100%; justify-content: space-between; border-radius: 0; }
  small { color: ${desk.quiet}; font-weight: 500; }
`

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

/** Which moves were changed elsewhere too; '' for none. */
function clashWords(names: readonly string[]): string {
  const [first, ...others] = names
  if (first === undefined) return ''
  const more = others.length ? ` and ${others.length} more` : ''
  return `“${cutText(first, 40)}”${more} was changed elsewhere too, and otherwise. All else of both is brought together once you choose.`
}

/** The instructor's own move list: found, changed, added; a change can go to where the move is used. */
export function MovesPanel() {
  const { moves, edit, undo, past, problem, loaded, clashes, choose } = useMoves(
    useShallow(({ moves, edit, undo, past, problem, loaded, clashes, choose }) => ({
      moves,
      edit,
      undo,
      past,
      problem,
      loaded,
      clashes,
      choose,
    })),
  )
  const overtaken = useOutbox((s) => s.conflicts.get(MOVES_DOCUMENT)?.why ?? '')
  const [wanted, setWanted] = useState('')
  const [open, setOpen] = useState<string | null>(null)
  const list = wanted.trim()
    ? movesLike(wanted, moves, 40)
    : [...moves].sort((a, b) => a.name.localeCompare(b.name))
  const move = moves.find((m) => m.id === open)
  const exact = moves.some((m) => m.name.toLowerCase() === wanted.trim().toLowerCase())
  const add = () => {
    const next = namedMove(nanoid(), wanted.trim())
    edit((all) => [...all, next])
    setOpen(next.id)
    setWanted('')
  }
  return (
    <>
      <Part>
        <h2>Your moves</h2>
        <p>{moves.length} moves, the same for all routines. They are offered while you write.</p>
        {(problem || overtaken) && <p role="alert">{problem || clashWords(clashes) || overtaken}</p>}
        {overtaken && (
          <Tools>
            <Button small look="strong" onPress={() => choose('mine')}>
              As I have it
            </Button>
            <Button small onPress={() => choose('theirs')} tip="Undo in the list brings back what you have">
              As it is there
            </Button>
          </Tools>
        )}
        <Text
          label="Find or add"
          value={wanted}
          onChange={setWanted}
          onEnter={() => loaded && wanted.trim() && !exact && add()}
          placeholder="grapevine"
        />
        <List aria-label="Moves">
          {list.map((m) => (
            <li key={m.id}>
              <Button
                small
                look="quiet"
                onPress={() => setOpen(m.id)}
                aria-current={m.id === open || undefined}
              >
                {m.name}{' '}
                <small>
                  {[m.step !== m.name ? m.step : '', m.caution ? `care: ${m.caution}` : '']
                    .filter(Boolean)
                    .join(' · ')}
                </small>
              </Button>
            </li>
          ))}
        </List>
        <Tools>
          {wanted.trim() && !exact && (
            <Button small look="strong" isDisabled={!loaded} onPress={add}>
              Add “{wanted.trim()}”
            </Button>
          )}
          <Button
            small
            isDisabled={!past.length}
            onPress={undo}
            tip="Takes the last change of the move list back"
          >
            Undo in the list
          </Button>
        </Tools>
      </Part>
      {move && <MoveForm key={move.id} move={move} close={() => setOpen(null)} />}
    </>
  )
}

const NOTES = { note: 'Note', mistakes: 'Usual mistakes', learn: 'Where it can be learned' } as const

function MoveForm({ move, close }: { move: Move; close: () => void }) {
  const editMoves = useMoves((s) => s.edit)
  const edit = useRoutine((s) => s.edit)
  const cues = useRoutine((s) => s.routine.cues)
  const [before, setBefore] = useState(move.name)
  const change = (what: Partial<Move>) =>
    editMoves((all) => all.map((m) => (m.id === move.id ? { ...m, ...what } : m)))
  const used = usesOf(cues, before)
  const update = () => {
    const ids = new Set(used.map((c) => c.id))
    const off = undefined as never
    edit(`bring “${move.name}” up to date`, (r) =>
      changeCues(r, ids, (c) =>
        withDetail(c, {
          move: move.name,
          call: move.call,
          step: move.step ?? off,
          turn: move.turn ?? off,
          ...(move.way ? { way: move.way } : {}),
          ...(move.metres === null ? {} : { metres: move.metres }),
          level: move.level ?? off,
          ...(move.caution ? { caution: move.caution } : {}),
          ...(move.caution && move.mistakes && !c.tip ? { tip: move.mistakes } : {}),
        }),
      ),
    )
    setBefore(move.name)
  }
  return (
    <Part aria-label={`The move ${move.name}`}>
      <h3>{move.name}</h3>
      <KeptLine label="Name" needed value={move.name} keep={(name) => change({ name })} of={move.id} />
      <KeptLine label="Called as" value={move.call} keep={(call) => change({ call })} of={move.id} />
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
