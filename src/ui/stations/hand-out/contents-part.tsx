'use client'

import { useMemo, useState } from 'react'
import { Checkbox } from 'react-aria-components'
import styled from 'styled-components'
import { inEvery, optionsIn, rolesIn } from '@/core/choreo'
import { said } from '@/core/formats/said'
import type { Contents } from '@/core/handout'
import {
  danced,
  danceOf,
  PASSES,
  passWords,
  phraseAt,
  type Routine,
  readPiece,
  stretchName,
} from '@/core/routine'
import { sameStretch } from '@/core/time'
import { Button } from '../../parts/button'
import { Choice, Pick } from '../../parts/field'
import { KeptLine } from '../../parts/kept-line'
import { Part } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { desk } from '../../theme/tokens'
import type { Kind } from './kinds'

export const Tick = styled(Checkbox)`
  display: flex;
  align-items: center;
  gap: 9px;
  cursor: pointer;
  font-size: 14.5px;
  padding: 3px 0;
  &::before {
    content: '';
    flex: none;
    width: 18px;
    height: 18px;
    border: 1.5px solid #9B8C9D;
    border-radius: 5px;
    background: #fff;
    font: 700 14px/16px system-ui;
    color: #fff;
    text-align: center;
  }
  &[data-selected]::before { content: '✓'; background: ${desk.azalea}; border-color: ${desk.azalea}; }
  &[data-focus-visible]::before { outline: 3px solid ${desk.azalea}; outline-offset: 2px; }
`

const SIDES = [
  { id: 'true', name: 'true sides' },
  { id: 'mirror', name: 'as in a mirror' },
] as const

interface Props {
  page: Page
  routine: Routine
  contents: Contents
  kind: Kind
  onChange: (what: Partial<Contents>) => void
}

/** Which counts, how seen, of whom, and what is said with it. */
export function ContentsPart({ page, routine, contents, kind, onChange }: Props) {
  const [problem, setProblem] = useState('')
  const marked = useCursor((s) => s.marked)
  const { stretch } = contents
  const all = useMemo(() => danced(routine), [routine])
  const roles = useMemo(() => rolesIn(all), [all])
  const versions = useMemo(() => optionsIn(all).filter((o) => !inEvery(o)), [all])
  const whole = danceOf(routine)
  const place = (text: string) => {
    try {
      onChange({ stretch: readPiece(page.placed, text, phraseAt(page.placed, stretch.from)) })
      setProblem('')
    } catch (error) {
      setProblem(said(error))
    }
  }
  const passes = PASSES.filter((p) => p === 'all' || all.some((c) => c.layer === p))
  return (
    <Part>
      <h2>What is in it</h2>
      <KeptLine
        label="Which counts"
        value={page.placed.length ? stretchName(page.placed, stretch) : ''}
        keep={place}
      />
      {problem && <p role="alert">{problem}</p>}
      {!sameStretch(stretch, whole) && (
        <Button small look="quiet" onPress={() => onChange({ stretch: whole })}>
          The whole dance
        </Button>
      )}
      {marked && !sameStretch(stretch, marked) && (
        <Button
          small
          look="quiet"
          onPress={() => onChange({ stretch: { from: marked.from, to: marked.to } })}
        >
          What is marked
        </Button>
      )}
      {kind !== 'sound' && (
        <Pick
          label="Sides"
          value={contents.mirrored ? 'mirror' : 'true'}
          options={SIDES}
          onChange={(s) => onChange({ mirrored: s === 'mirror' })}
        />
      )}
      {roles.length > 0 && (
        <Choice
          label="Role"
          value={contents.role}
          options={[{ id: '', name: 'everybody' }, ...roles.map((id) => ({ id, name: id }))]}
          onChange={(role) => onChange({ role })}
        />
      )}
      {versions.length > 0 && (
        <Choice
          label="Version"
          value={contents.version}
          options={[{ id: 'base', name: 'base' }, ...versions.map((id) => ({ id, name: id }))]}
          onChange={(version) => onChange({ version })}
        />
      )}
      {passes.length > 2 && (
        <Choice
          label="Of the body"
          value={contents.pass}
          options={passes.map((id) => ({ id, name: passWords(id) || 'all of it' }))}
          onChange={(pass) => onChange({ pass })}
        />
      )}
      {(kind === 'sheet' || kind === 'page') && (
        <>
          <Tick isSelected={contents.tips} onChange={(tips) => onChange({ tips })}>
            Tips, usual mistakes, cautions
          </Tick>
          <Tick isSelected={contents.lyric} onChange={(lyric) => onChange({ lyric })}>
            The words sung
          </Tick>
          {kind === 'sheet' && (
            <Tick isSelected={contents.short} onChange={(short) => onChange({ short })}>
              Repeats as one line
            </Tick>
          )}
        </>
      )}
    </Part>
  )
}
