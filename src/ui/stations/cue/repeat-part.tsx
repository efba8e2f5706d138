'use client'

import { nanoid } from 'nanoid'
import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { linkAlike } from '@/core/choreo'
import {
  countsIn,
  danced,
  endRepeat,
  type PlacedPhrase,
  phraseAt,
  type Source,
  sources,
  stretchName,
  targetOf,
  usersOf,
} from '@/core/routine'
import { common, type Stretch } from '@/core/time'
import { Button } from '../../parts/button'
import { Pick } from '../../parts/field'
import { Part, Tools } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import { useBook } from '../../state/moves-store'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'
import { CountStrip } from './count-strip'
import { SourceList } from './source-list'

const Linked = styled.li`
  display: grid;
  gap: 6px;
  padding: 9px 11px;
  border: 1.5px dashed ${desk.rule};
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

/** What a phrase, or what is marked, repeats, linked and unlinked here, and who repeats it. */
export function RepeatPart({ page, placed }: { page: Page; placed: PlacedPhrase }) {
  const edit = useRoutine((s) => s.edit)
  const routine = useRoutine((s) => s.routine)
  const book = useBook()
  const to = useCursor((s) => s.to)
  const marked = useCursor((s) => s.marked)
  const [text, setText] = useState('')
  const [source, setSource] = useState<Source | null>(null)
  const [piece, setPiece] = useState<Stretch | null>(null)
  const [side, setSide] = useState('same')
  const row: Stretch = marked ?? { from: placed.start, to: placed.end }
  const name = (s: Stretch) => stretchName(page.placed, s)
  const list = useMemo(
    () => sources(page.placed, danced(routine), page.times, text, placed),
    [page, routine, text, placed],
  )
  const model = source && phraseAt(page.placed, source.stretch.from)
  /** Counts are chosen within one phrase; a section is danced whole. */
  const within = source && model && source.stretch.to <= model.end ? model : null
  const choose = (s: Source) => {
    setSource(s)
    const p = phraseAt(page.placed, s.stretch.from)
    const phrase = p && s.stretch.from === p.start && s.stretch.to === p.end ? p : null
    if (!marked || !phrase) return setPiece(s.stretch)
    // Of a phrase, the counts that stand where the marked ones do; by pulling, others.
    const length = Math.min(marked.to - marked.from, phrase.end - phrase.start)
    const here = phraseAt(page.placed, marked.from)
    const from = Math.min(phrase.end - length, phrase.start + marked.from - (here?.start ?? marked.from))
    setPiece({ from, to: from + length })
  }
  const target = piece && targetOf(page.placed, piece, placed, marked)
  const set = () => {
    if (!piece || !target) return
    const from = { from: piece.from, to: piece.from + target.to - target.from }
    const link = { to: target, from: piece.from, mirrored: side === 'other' }
    edit(`danced as ${name(from)}`, (r) => linkAlike(r, link, book, nanoid))
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
      <SourceList {...{ page, text, list }} onText={setText} chosen={source} onChoose={choose} />
      {source && piece && target && (
        <>
          {within && (
            <CountStrip
              page={page}
              label={marked ? 'Its counts, pulled to others' : 'Its counts, all or some'}
              of={within}
              value={piece}
              fixed={marked !== null}
              onChange={setPiece}
            />
          )}
          <Pick label="To which side" value={side} options={SIDES} onChange={setSide} />
          <p>
            {name(target)} is danced as it: {countsIn(target)} {countsIn(target) === 1 ? 'count' : 'counts'}.
          </p>
          <Tools>
            <Button small look="strong" onPress={set}>
              Link it
            </Button>
          </Tools>
        </>
      )}
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
