'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { movesLike, namedMove } from '@/core/choreo'
import { cutText } from '@/core/routine'
import { Button } from '../../parts/button'
import { Text } from '../../parts/field'
import { Part, Tools } from '../../parts/panel'
import { useMoves } from '../../state/moves-store'
import { useOutbox } from '../../state/outbox-window'
import { MOVES_DOCUMENT } from '../../state/saved'
import { desk } from '../../theme/tokens'
import { MoveForm } from './move-form'

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
