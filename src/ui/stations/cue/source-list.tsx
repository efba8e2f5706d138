'use client'

import { useState } from 'react'
import { Autocomplete, Input, Label, ListBox, ListBoxItem, TextField } from 'react-aria-components'
import styled from 'styled-components'
import type { Source } from '@/core/routine'
import { countsIn } from '@/core/routine'
import { clockText } from '@/core/time'
import { Wave } from '../../sheet/wave'
import { type Page, useSong } from '../../state/page'
import { desk } from '../../theme/tokens'

const Field = styled(TextField)`
  display: grid;
  gap: 4px;
  label { font-size: 13px; color: ${desk.quiet}; font-weight: 500; }
  input { min-height: 36px; border: 1.5px solid ${desk.edge}; border-radius: 9px; background: ${desk.card}; padding: 0 10px; width: 100%; }
`

const Rows = styled(ListBox)`
  border: 1.5px solid ${desk.line};
  border-radius: 9px;
  padding: 4px;
  &[data-empty] { padding: 9px 11px; color: ${desk.quiet}; font-size: 13.5px; }
`

const Row = styled(ListBoxItem)`
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr) auto;
  gap: 1px 8px;
  padding: 5px 7px;
  border-radius: 7px;
  cursor: pointer;
  font-size: 13.5px;
  line-height: 1.25;
  canvas { grid-row: span 2; align-self: center; }
  b { font-weight: 600; overflow-wrap: anywhere; }
  time { color: ${desk.quiet}; font-size: 12.5px; }
  em { grid-column: 2 / -1; font-style: normal; color: ${desk.quiet}; font-size: 12.5px; overflow-wrap: anywhere; }
  &[data-focused], &[data-hovered] { background: ${desk.azaleaSoft}; }
  &[data-selected] { outline: 2px solid ${desk.azalea}; outline-offset: -2px; }
`

/** More are found by typing. */
const MOST = 6

interface Props {
  page: Page
  text: string
  onText: (text: string) => void
  list: readonly Source[]
  chosen: Source | null
  onChoose: (source: Source) => void
}

/** Pieces of the dance to choose from, shown once they are asked for: each with its sound, time and first moves; typed to find. */
export function SourceList({ page, text, onText, list, chosen, onChoose }: Props) {
  const { heard } = useSong()
  const [isOpen, setOpen] = useState(false)
  const shown = list.slice(0, MOST)
  const key = (s: Source) => `${s.stretch.from} ${s.stretch.to}`
  return (
    <Autocomplete inputValue={text} onInputChange={onText}>
      <Field onFocus={() => setOpen(true)}>
        <Label>As in</Label>
        <Input placeholder="chorus 2, first four" maxLength={200} />
      </Field>
      {isOpen && (
        <Rows
          aria-label="What it may be danced as"
          selectionMode="single"
          selectedKeys={chosen ? [key(chosen)] : []}
          onSelectionChange={(keys) => {
            const [id] = keys === 'all' ? [] : [...keys]
            const found = shown.find((s) => key(s) === id)
            if (found) onChoose(found)
          }}
          renderEmptyState={() => 'No piece of the dance is called that, and none has such a move.'}
        >
          {shown.map((s) => (
            <Row key={key(s)} id={key(s)} textValue={s.name}>
              {heard ? (
                <Wave
                  peaks={heard.peaks}
                  times={page.times}
                  from={s.stretch.from}
                  counts={countsIn(s.stretch)}
                  columns={countsIn(s.stretch)}
                  height={26}
                  colour={desk.faint}
                />
              ) : (
                <span />
              )}
              <b>{s.name}</b>
              <time>{s.at === null ? '' : clockText(s.at)}</time>
              <em>{s.words || 'nothing cued yet'}</em>
            </Row>
          ))}
        </Rows>
      )}
      {isOpen && list.length > MOST && <p>{list.length - MOST} more: type to find them.</p>}
    </Autocomplete>
  )
}
