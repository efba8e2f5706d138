'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import styled from 'styled-components'
import {
  endRepeat,
  type PlacedPhrase,
  placeName,
  readStretch,
  setRepeat,
  stretchName,
  usersOf,
} from '@/core/routine'
import { common, type Stretch, TICKS_PER_COUNT } from '@/core/time'
import { Button } from '../../parts/button'
import { Choice, Pick, Text } from '../../parts/field'
import { Part, Tools } from '../../parts/panel'
import { said } from '../../parts/said'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'

const Linked = styled.li`
  display: grid;
  gap: 6px;
  padding: 9px 11px;
  border: 1.5px dashed #6F6073;
  border-radius: 10px;
  font-size: 14px;
`

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 7px;
`

const SIDES = [
  { id: 'same', name: 'same side' },
  { id: 'other', name: 'other side' },
]

/** What the phrase repeats, linked and unlinked here, and who repeats it. */
export function RepeatPart({ page, placed }: { page: Page; placed: PlacedPhrase }) {
  const edit = useRoutine((s) => s.edit)
  const routine = useRoutine((s) => s.routine)
  const to = useCursor((s) => s.to)
  const marked = useCursor((s) => s.marked)
  const [source, setSource] = useState('')
  const [side, setSide] = useState('same')
  const [which, setWhich] = useState('')
  const [target, setTarget] = useState(1)
  const [problem, setProblem] = useState('')
  const row: Stretch = { from: placed.start, to: placed.end }
  const model = page.placed[Number(source)]
  const name = (s: Stretch) => stretchName(page.placed, s)
  /** What is marked is linked where there is something; else the counts chosen here. */
  const here = marked && common(marked, row) ? marked : null
  const set = () => {
    if (!model) return
    try {
      const from: Stretch = which.trim()
        ? readStretch(page.placed, which, model)
        : { from: model.start, to: model.end }
      const begin = here?.from ?? placed.start + (target - 1) * TICKS_PER_COUNT
      const room = (here?.to ?? placed.end) - begin
      // A stretch that is said by name is linked as long as it is; a whole phrase as far as both go.
      const length = which.trim() && !here ? from.to - from.from : Math.min(room, from.to - from.from)
      const repeat = {
        id: nanoid(),
        to: { from: begin, to: begin + length },
        from: from.from,
        mirrored: side === 'other',
      }
      edit(`danced as ${name({ from: from.from, to: from.from + length })}`, (r) =>
        setRepeat(r, repeat, nanoid),
      )
      setProblem('')
    } catch (e) {
      setProblem(`${said(e)} Nothing was changed.`)
    }
  }
  const linked = routine.repeats.filter((r) => common(r.to, row))
  const users = usersOf(routine, row)
  return (
    <Part aria-label="Repeats">
      <h3>Danced as another</h3>
      {linked.length > 0 && (
        <List>
          {linked.map((r) => (
            <Linked key={r.id}>
              <span>
                {name(r.to)} as {name({ from: r.from, to: r.from + r.to.to - r.to.from })}
                {r.mirrored ? ', to the other side' : ''}
              </span>
              <Tools>
                <Button
                  small
                  onPress={() => edit('write the repeat out', (x) => endRepeat(x, r.id, true, nanoid))}
                  tip="Its cues are written here; nothing danced changes"
                >
                  Write out
                </Button>
                <Button
                  small
                  look="quiet"
                  onPress={() => edit('end the repeat', (x) => endRepeat(x, r.id, false, nanoid))}
                  tip="The linked cues go; own ones stay"
                >
                  End it
                </Button>
              </Tools>
            </Linked>
          ))}
        </List>
      )}
      <Choice
        label="As in"
        value={source}
        options={page.placed.map((p) => ({
          id: String(p.index),
          name: p === placed ? `${placeName(p)} (this one)` : placeName(p),
        }))}
        onChange={(s) => {
          setSource(s)
          setWhich('')
        }}
      />
      {model && (
        <>
          <Pick label="To which side" value={side} options={SIDES} onChange={setSide} />
          <div style={{ display: 'grid', gridTemplateColumns: here ? '1fr' : '2fr 1fr', gap: 8 }}>
            <Text
              label="Only its counts"
              value={which}
              onChange={setWhich}
              onEnter={set}
              placeholder={`${model.first} to ${model.first + model.phrase.length - 1}`}
            />
            {!here && (
              <Choice
                label="here on"
                value={String(target)}
                options={Array.from({ length: placed.phrase.length }, (_, i) => ({
                  id: String(i + 1),
                  name: String(i + placed.first),
                }))}
                onChange={(n) => setTarget(Number(n))}
              />
            )}
          </div>
          {here && <p>Linked into what is marked: {name(here)}.</p>}
          <Tools>
            <Button small look="strong" onPress={set}>
              Link it
            </Button>
          </Tools>
        </>
      )}
      {problem && <p role="alert">{problem}</p>}
      {users.length > 0 && (
        <>
          <p>Used again in:</p>
          <Tools>
            {users.map((r) => (
              <Button key={r.id} small look="quiet" onPress={() => to(r.to.from)}>
                {name(r.to)}
                {r.mirrored ? ' ⇄' : ''}
              </Button>
            ))}
          </Tools>
        </>
      )}
    </Part>
  )
}
