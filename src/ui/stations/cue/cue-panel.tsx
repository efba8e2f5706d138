'use client'

import { nanoid } from 'nanoid'
import { useEffect, useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { movesLike } from '@/core/choreo'
import { sayable } from '@/core/drill'
import {
  type Cue,
  callOf,
  cueText,
  type DancedCue,
  type Layer,
  phraseAt,
  SIDES,
  type Side,
  withDetail,
  written,
} from '@/core/routine'
import { TICKS_PER_COUNT, type Ticks, usualLength } from '@/core/time'
import { Button } from '../../parts/button'
import { Pick, Text } from '../../parts/field'
import { Part, Tools } from '../../parts/panel'
import { Suggest } from '../../parts/suggest'
import { SayCounts } from '../../say/say-counts'
import { useCursor } from '../../state/cursor'
import { useMoves } from '../../state/moves-store'
import type { Page } from '../../state/page'
import { Details } from './details'
import { placeLabel } from './place-label'
import { SaysPart } from './says-part'
import { WhenPart } from './when-part'

const Called = styled.div`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 8px;
`

const SIDE_NAMES: Record<Side, string> = { none: '–', left: 'L', right: 'R', both: 'LR' }
const SIDE_OPTIONS = SIDES.map((id) => ({ id, name: SIDE_NAMES[id] }))

interface CuePanelProps {
  page: Page
  cue: DancedCue | null
  tick: Ticks
  layer: Layer
  /** Rises when the person asks to write: the move field takes the focus. */
  writing: number
  onPut: (cue: Cue, did: string) => void
  onMove: (by: Ticks) => void
  onDelete: () => void
  /** Null while nothing was copied. */
  onPaste: (() => void) | null
}

/** The cue at the cursor, or a new one there. A linked one becomes the phrase's own as soon as it is changed. */
export function CuePanel(props: CuePanelProps) {
  const { page, cue, tick, layer, writing, onPut } = props
  const [move, setMove] = useState(cue?.move ?? '')
  const [call, setCall] = useState(cue?.call ?? '')
  const [side, setSide] = useState<Side>('none')
  const field = useRef<HTMLInputElement>(null)
  const moves = useMoves((s) => s.moves)
  const to = useCursor((s) => s.to)
  const begun = useRef(writing)
  /** Enter and the blur after it both keep a linked cue's change: it is one cue. */
  const ownId = useRef(nanoid())
  const kept = useRef<string | null>(null)
  useEffect(() => {
    if (writing !== begun.current) {
      field.current?.focus()
      field.current?.select()
    }
    begun.current = writing
  }, [writing])
  useEffect(() => {
    setMove(cue?.move ?? '')
    kept.current = null
  }, [cue?.move])
  useEffect(() => setCall(cue?.call ?? ''), [cue?.call])
  const offers = useMemo(() => movesLike(move, moves, 6).map((m) => m.name), [move, moves])

  const at = cue?.at ?? tick
  const here = phraseAt(page.placed, tick)
  const label = placeLabel(page, at)
  const change = (what: Partial<Cue>, did: string) => {
    if (!cue) return
    const own = cue.link ? { ...written(cue), id: ownId.current } : written(cue)
    onPut(withDetail(own, what), cue.link ? `${did} here only` : did)
  }
  const keep = (): boolean => {
    const text = move.trim()
    if (cue) {
      const named = readSide(text)
      if (text && text !== cue.move && text !== kept.current)
        change({ move: named.move, ...(named.side ? { side: named.side } : {}) }, 'rewrite a cue')
      else setMove(cue.move)
      kept.current = text
      return true
    }
    if (!text) return false
    const named = readSide(text)
    onPut(
      {
        id: nanoid(),
        at: tick,
        length: usualLength(tick - (here?.start ?? 0), here?.phrase.feel ?? 'straight'),
        layer,
        move: named.move,
        side: named.side ?? side,
        call: call.trim(),
      },
      `cue “${named.move}”`,
    )
    return true
  }
  const called = call.trim() || move.trim()
  const toSheet = () => document.querySelector<HTMLElement>('[data-testid=sheet]')?.focus()
  const enter = () => {
    if (!keep()) return
    field.current?.blur()
    toSheet()
    const last = (page.placed.at(-1)?.end ?? 0) - 12
    if (!cue) to(Math.min(last, (Math.floor(tick / TICKS_PER_COUNT) + 1) * TICKS_PER_COUNT))
  }
  return (
    <>
      <Part>
        <h2>
          {cue ? `On ${label}` : `New on ${label}`}, {cue?.layer ?? layer}
        </h2>
        {cue?.link && (
          <p>Linked: it comes from a phrase this one repeats. A change here makes a difference here.</p>
        )}
        <Suggest
          label="Move"
          value={move}
          offers={offers.filter((o) => o !== move)}
          onChange={setMove}
          onEnter={enter}
          onBlur={() => cue && keep()}
          onEscape={() => {
            setMove(cue?.move ?? '')
            toSheet()
          }}
          inputRef={field}
          placeholder="step R, clap, hold …"
        />
        <Called>
          <Pick
            label="Side"
            value={cue?.side ?? side}
            options={SIDE_OPTIONS}
            onChange={(s) => (cue ? change({ side: s }, 'change the side') : setSide(s))}
          />
          <Text
            label="Called as"
            value={call}
            onChange={setCall}
            onBlur={() => cue && call.trim() !== cue.call && change({ call: call.trim() }, 'change the call')}
            onEnter={enter}
            placeholder={cue ? callOf({ ...cue, call: '' }) : 'the move itself'}
          />
        </Called>
        {!sayable(called) && (
          <p role="status">
            The voice speaks English and cannot say “{called}”. Give it a word to call that it can, or say it
            yourself.
          </p>
        )}
        {!sayable(called) && cue && (
          <SayCounts page={page} stretch={{ from: cue.at, to: cue.at + cue.length }} look="plain" />
        )}
        {!cue && (
          <Tools>
            <Button
              look="strong"
              onPress={enter}
              isDisabled={!move.trim()}
              tip="Sets the cue and goes on to the next count"
            >
              Set on {label}
            </Button>
          </Tools>
        )}
      </Part>
      {cue ? (
        <>
          <SaysPart cue={cue} change={change} />
          <WhenPart {...props} cue={cue} change={change} />
          <Details page={page} cue={cue} change={change} />
          <Tools>
            <Button
              small
              onPress={props.onDelete}
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
      ) : (
        <Part>
          <h3>By keyboard</h3>
          <p>
            L writes this layer of the phrase as one line; W writes one cue, with shift another beside it.
            Arrows move by count and layer, with shift by half counts, 1 to 8 go to a count. Q marks counts,
            as pulling over the lanes or a click with shift does; then copy, cut, delete, E for the other
            side, or drill just those. ? shows all keys.
          </p>
          {props.onPaste && (
            <Tools>
              <Button small onPress={props.onPaste} hotkey="paste">
                Paste here
              </Button>
            </Tools>
          )}
        </Part>
      )}
    </>
  )
}

/** A side written behind the move, as in "step R". */
function readSide(text: string): { move: string; side: Side | null } {
  const found = /^(.*\S)\s+(LR|L|R)$/.exec(text)
  if (!found?.[1]) return { move: text, side: null }
  return { move: found[1], side: found[2] === 'LR' ? 'both' : found[2] === 'L' ? 'left' : 'right' }
}
