'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import styled from 'styled-components'
import { endRepeat, setRepeat, usersOf } from '@/core/choreo'
import { type PlacedPhrase, placeName } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
import { Button } from '../../parts/button'
import { Choice, Pick } from '../../parts/field'
import { said } from '../../parts/said'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { Part, Tools } from '../frame'

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
  const [source, setSource] = useState('')
  const [side, setSide] = useState('same')
  const [from, setFrom] = useState(1)
  const [until, setUntil] = useState(0)
  const [target, setTarget] = useState(1)
  const [problem, setProblem] = useState('')
  const id = placed.phrase.id
  const model = page.placed.find((p) => p.phrase.id === source)
  const last = model?.phrase.length ?? placed.phrase.length
  const end = until || last
  const title = (phrase: string) => {
    const p = page.placed.find((x) => x.phrase.id === phrase)
    return p ? placeName(p) : 'a phrase that is gone'
  }
  const set = () => {
    if (!model) return
    const counts = Math.min(end - from + 1, placed.phrase.length - target + 1)
    try {
      const next = setRepeat(routine, {
        id: nanoid(),
        phrase: id,
        at: (target - 1) * TICKS_PER_COUNT,
        length: counts * TICKS_PER_COUNT,
        source,
        from: (from - 1) * TICKS_PER_COUNT,
        mirrored: side === 'other',
      })
      edit(`danced as ${title(source)}`, () => next)
      setProblem('')
    } catch (e) {
      setProblem(`${said(e)} Nothing was changed.`)
    }
  }
  const counts = (n: number) =>
    Array.from({ length: n }, (_, i) => ({ id: String(i + 1), name: String(i + 1) }))
  const here = routine.repeats.filter((r) => r.phrase === id)
  const users = usersOf(routine, id)
  return (
    <Part aria-label="Repeats">
      <h3>Danced as another</h3>
      {here.length > 0 && (
        <List>
          {here.map((r) => (
            <Linked key={r.id}>
              <span>
                Counts {r.at / TICKS_PER_COUNT + 1} to {(r.at + r.length) / TICKS_PER_COUNT} as in{' '}
                {title(r.source)}
                {r.from || r.length < 8 * TICKS_PER_COUNT
                  ? `, counts ${r.from / TICKS_PER_COUNT + 1} to ${(r.from + r.length) / TICKS_PER_COUNT}`
                  : ''}
                {r.mirrored ? ', to the other side' : ''}
              </span>
              <Tools>
                <Button
                  small
                  onPress={() => edit('write the repeat out', (x) => endRepeat(x, r.id, true, nanoid))}
                  tip="Its cues become this phrase’s own; nothing danced changes"
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
          id: p.phrase.id,
          name: p === placed ? `${placeName(p)} (this one)` : placeName(p),
        }))}
        onChange={(s) => {
          setSource(s)
          setFrom(1)
          setUntil(0)
        }}
      />
      {model && (
        <>
          <Pick label="To which side" value={side} options={SIDES} onChange={setSide} />
          <div style={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 8 }}>
            <Choice
              label="From its"
              value={String(from)}
              options={counts(last)}
              onChange={(n) => setFrom(Number(n))}
            />
            <Choice
              label="to"
              value={String(end)}
              options={counts(last)}
              onChange={(n) => setUntil(Number(n))}
            />
            <Choice
              label="here on"
              value={String(target)}
              options={counts(placed.phrase.length)}
              onChange={(n) => setTarget(Number(n))}
            />
          </div>
          <Tools>
            <Button small look="strong" isDisabled={end < from} onPress={set}>
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
            {users.map((r) => {
              const p = page.placed.find((x) => x.phrase.id === r.phrase)
              return (
                <Button key={r.id} small look="quiet" onPress={() => p && to(p.start)}>
                  {title(r.phrase)}
                  {r.mirrored ? ' ⇄' : ''}
                </Button>
              )
            })}
          </Tools>
        </>
      )}
    </Part>
  )
}
