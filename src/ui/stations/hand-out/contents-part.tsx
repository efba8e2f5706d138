'use client'

import { useMemo } from 'react'
import { inEvery, optionsIn, rolesIn } from '@/core/choreo'
import type { Contents } from '@/core/handout'
import { danced, danceOf, PASSES, passWords, type Routine } from '@/core/routine'
import { sameStretch } from '@/core/time'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/choice'
import { Pick } from '../../parts/field'
import { Part } from '../../parts/panel'
import { Tick } from '../../parts/tick'
import { PlaceField } from '../../sheet/place-field'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import type { Kind } from './kinds'

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
  const marked = useCursor((s) => s.marked)
  const { stretch } = contents
  const all = useMemo(() => danced(routine), [routine])
  const roles = useMemo(() => rolesIn(all), [all])
  const versions = useMemo(() => optionsIn(all).filter((o) => !inEvery(o)), [all])
  const whole = danceOf(routine)
  const several = routine.dancers.length > 1 && routine.formations.length > 0
  const passes = PASSES.filter((p) => p === 'all' || all.some((c) => c.layer === p))
  return (
    <Part>
      <h2>What is in it</h2>
      <PlaceField
        label="Which counts"
        page={page}
        stretch={page.placed.length ? stretch : null}
        onChoose={(next) => onChange({ stretch: next })}
      />
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
          {several && (
            <Tick isSelected={contents.plans} onChange={(plans) => onChange({ plans })}>
              Who stands where
            </Tick>
          )}
          {kind === 'sheet' && (
            <Tick isSelected={contents.short} onChange={(short) => onChange({ short })}>
              Repeats as one line
            </Tick>
          )}
          {kind === 'sheet' && (
            <Tick isSelected={contents.path} onChange={(path) => onChange({ path })}>
              Where the steps lead
            </Tick>
          )}
        </>
      )}
    </Part>
  )
}
