'use client'

import { Magnet, X } from 'lucide-react'
import { type KeyboardEvent, useEffect, useState } from 'react'
import { Input, TextField } from 'react-aria-components'
import styled from 'styled-components'
import { changeMark, labelIn, phraseAt, removeMarks, type SongMark, snappedTime } from '@/core/routine'
import { clockText, snapTick, tickOfTime } from '@/core/time'
import { Button } from '../../parts/button'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'
import { useNaming } from './use-naming'

const Line = styled.li`
  display: grid;
  grid-template-columns: 58px minmax(0, 1fr) auto auto;
  align-items: center;
  gap: 2px;
  button { padding: 0 5px; }
  input { width: 100%; min-height: 30px; border: 1.5px solid transparent; border-radius: 7px; padding: 0 6px; background: none; font: inherit; font-size: 13.5px; }
  input:hover { border-color: ${desk.line}; }
  input:focus { border-color: ${desk.ink}; background: ${desk.card}; }
  &[data-kind='sound'] input { font-style: italic; }
`

/** One mark of the song: where, its words, onto the count, away. */
export function MarkRow({ mark, page, go }: { mark: SongMark; page: Page; go: () => void }) {
  const edit = useRoutine((s) => s.edit)
  const [text, setText] = useState(mark.text)
  useEffect(() => setText(mark.text), [mark.text])
  const keep = () => {
    if (text.trim() && text.trim() !== mark.text)
      edit('name a mark', (r) => changeMark(r, mark.id, { text: text.trim() }, page.times))
    else setText(mark.text)
  }
  const { field, back } = useNaming(mark.id)
  const pressed = (e: KeyboardEvent) => {
    if (e.key === 'Enter') keep()
    if (e.key === 'Enter' || e.key === 'Escape') back()
  }
  const has = page.times.length > 1
  const tick = has ? tickOfTime(page.times, mark.at) : 0
  const phrase = phraseAt(page.placed, tick)
  const from = phrase?.start ?? 0
  const label = phrase
    ? labelIn(phrase, Math.max(from, from + snapTick(tick - from, phrase.phrase.feel)))
    : ''
  const snapped = has ? snappedTime(page.times, page.placed, mark.at) : mark.at
  return (
    <Line data-kind={mark.kind}>
      <Button small look="quiet" onPress={go} tip={`${clockText(mark.at, true)}, near ${label}: go there`}>
        {clockText(mark.at)}
      </Button>
      <TextField
        aria-label={`${mark.kind} at ${clockText(mark.at, true)}`}
        value={text}
        onChange={setText}
        onBlur={keep}
      >
        <Input maxLength={200} ref={field} onKeyDown={pressed} />
      </TextField>
      <Button
        small
        look="quiet"
        aria-label={`“${mark.text}” onto ${label}`}
        tip={`Onto ${label}`}
        isDisabled={snapped === mark.at}
        onPress={() =>
          edit('a mark onto its count', (r) => changeMark(r, mark.id, { at: snapped }, page.times))
        }
      >
        <Magnet size={15} />
      </Button>
      <Button
        small
        look="quiet"
        aria-label={`Take “${mark.text}” away`}
        tip="Take it away"
        onPress={() => edit(`take “${mark.text}” away`, (r) => removeMarks(r, (m) => m.id === mark.id))}
      >
        <X size={15} />
      </Button>
    </Line>
  )
}
