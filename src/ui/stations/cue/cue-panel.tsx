'use client'

import { useEffect, useRef, useState } from 'react'
import styled from 'styled-components'
import { movesLike } from '@/core/choreo'
import { sayable } from '@/core/drill'
import { type Cue, callOf, cueText, type DancedCue, SIDES, type Side } from '@/core/routine'
import { Button } from '../../parts/button'
import { Pick, Text } from '../../parts/field'
import { Part, Tools } from '../../parts/panel'
import { Suggest } from '../../parts/suggest'
import { SayCounts } from '../../say/say-counts'
import { useCopied } from '../../state/copied'
import { useCursor } from '../../state/cursor'
import { useMoves } from '../../state/moves-store'
import type { Page } from '../../state/page'
import { useCue } from './cue-store'
import { Details } from './details'
import { EachPart } from './each-part'
import { placeLabel } from './place-label'
import { SaysPart } from './says-part'
import { useCopying } from './use-clipboard'
import { WhenPart } from './when-part'

const Called = styled.div`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 8px;
`

const SIDE_NAMES: Record<Side, string> = { none: '–', left: 'L', right: 'R', both: 'LR' }
const SIDE_OPTIONS = SIDES.map((id) => ({ id, name: SIDE_NAMES[id] }))

/** The cue at the cursor, or a new one there. A linked one becomes the phrase's own as soon as it is changed. */
export function CuePanel({ page }: { page: Page }) {
  const cue = useCue((s) => s.edited)
  return (
    <>
      <Part>
        <Heading page={page} cue={cue} />
        <MoveField isCue={cue !== null} />
        <SideAndCall cue={cue} />
        <Sayable page={page} cue={cue} />
        {!cue && <SetIt page={page} />}
      </Part>
      {cue ? <OfCue page={page} cue={cue} /> : <ByKeyboard />}
    </>
  )
}

interface OfCueProps {
  page: Page
  cue: DancedCue | null
}

function Heading({ page, cue }: OfCueProps) {
  const tick = useCursor((s) => s.tick)
  const layer = useCursor((s) => s.layer)
  const label = placeLabel(page, cue?.at ?? tick)
  return (
    <>
      <h2>
        {cue ? `On ${label}` : `New on ${label}`}, {cue?.layer ?? layer}
      </h2>
      {cue?.link && (
        <p>Linked: it comes from a phrase this one repeats. A change here makes a difference here.</p>
      )}
    </>
  )
}

function MoveField({ isCue }: { isCue: boolean }) {
  const move = useCue((s) => s.draft.move)
  const writing = useCue((s) => s.writing)
  const send = useCue((s) => s.send)
  const moves = useMoves((s) => s.moves)
  const field = useRef<HTMLInputElement>(null)
  const [begun] = useState(writing)
  useEffect(() => {
    if (writing === begun) return
    field.current?.focus()
    field.current?.select()
  }, [writing, begun])
  const offers = movesLike(move, moves, 6).map((m) => m.name)
  return (
    <Suggest
      label="Move"
      value={move}
      offers={offers.filter((o) => o !== move)}
      onChange={(text) => send({ kind: 'draft', draft: 'write', what: { move: text } })}
      onEnter={() => send({ kind: 'draft', draft: 'enter' })}
      onBlur={() => isCue && send({ kind: 'draft', draft: 'leave move' })}
      onEscape={() => send({ kind: 'draft', draft: 'give up' })}
      inputRef={field}
      placeholder="step R, clap, hold …"
    />
  )
}

function SideAndCall({ cue }: { cue: DancedCue | null }) {
  const side = useCue((s) => s.draft.side)
  const call = useCue((s) => s.draft.call)
  const send = useCue((s) => s.send)
  const change = (next: Side) =>
    send(
      cue
        ? { kind: 'draft', draft: 'change', cue, what: { side: next }, did: 'change the side' }
        : { kind: 'draft', draft: 'write', what: { side: next } },
    )
  return (
    <Called>
      <Pick label="Side" value={cue?.side ?? side} options={SIDE_OPTIONS} onChange={change} />
      <Text
        label="Called as"
        value={call}
        onChange={(text) => send({ kind: 'draft', draft: 'write', what: { call: text } })}
        onBlur={() => send({ kind: 'draft', draft: 'leave call' })}
        onEnter={() => send({ kind: 'draft', draft: 'enter' })}
        placeholder={cue ? callOf({ ...cue, call: '' }) : 'the move itself'}
      />
    </Called>
  )
}

/** Where the voice cannot say what is called. */
function Sayable({ page, cue }: OfCueProps) {
  const called = useCue((s) => s.draft.call.trim() || s.draft.move.trim())
  if (sayable(called)) return null
  return (
    <>
      <p role="status">
        The voice speaks English and cannot say “{called}”. Give it a word to call that it can, or say it
        yourself.
      </p>
      {cue && <SayCounts page={page} stretch={{ from: cue.at, to: cue.at + cue.length }} look="plain" />}
    </>
  )
}

function SetIt({ page }: { page: Page }) {
  const label = useCursor((s) => placeLabel(page, s.tick))
  const empty = useCue((s) => !s.draft.move.trim())
  const send = useCue((s) => s.send)
  return (
    <Tools>
      <Button
        look="strong"
        onPress={() => send({ kind: 'draft', draft: 'enter' })}
        isDisabled={empty}
        tip="Sets the cue and goes on to the next count"
      >
        Set on {label}
      </Button>
    </Tools>
  )
}

/** What else there is to a cue. */
function OfCue({ page, cue }: { page: Page; cue: DancedCue }) {
  const send = useCue((s) => s.send)
  const change = (what: Partial<Cue>, did: string) => send({ kind: 'draft', draft: 'change', cue, what, did })
  return (
    <>
      <SaysPart cue={cue} change={change} />
      <EachPart page={page} cue={cue} />
      <WhenPart page={page} cue={cue} change={change} />
      <Details page={page} cue={cue} change={change} />
      <Tools>
        <Button
          small
          onPress={() => send({ kind: 'work', work: 'take away' })}
          hotkey="take"
          tip={
            cue.link
              ? 'Taken away here alone; where it comes from it stays'
              : 'Takes the cue away; undo brings it back'
          }
        >
          {cue.link ? `Leave “${cueText(cue)}” out here` : 'Delete this cue'}
        </Button>
      </Tools>
    </>
  )
}

function ByKeyboard() {
  const canPaste = useCopied((s) => s.copied !== null)
  const { paste } = useCopying()
  const send = useCue((s) => s.send)
  return (
    <Part>
      <h3>By keyboard</h3>
      <p>
        L writes this layer of the phrase as one line; W writes one cue, with shift another beside it. Arrows
        move by count and layer, with shift by half counts, 1 to 8 go to a count. Q marks counts, as pulling
        over the lanes or a click with shift does; then copy, cut, delete, E for the other side, or drill just
        those. ? shows all keys.
      </p>
      <Tools>
        <Button small onPress={() => send({ kind: 'press hits' })} hotkey="hits">
          Press on each hit
        </Button>
        {canPaste && (
          <Button small onPress={() => paste()} hotkey="paste">
            Paste here
          </Button>
        )}
      </Tools>
    </Part>
  )
}
