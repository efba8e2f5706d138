'use client'

import { useEffect, useRef, useState } from 'react'
import { type Cue, callOf, LAYERS, type Layer, labelIn, phraseAt, SIDES, type Side } from '@/core/routine'
import { namedOffsets, TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { Button } from '../../parts/button'
import { Choice, Pick, Text } from '../../parts/field'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { Part, Tools } from '../frame'

const SIDE_NAMES: Record<Side, string> = { none: '–', left: 'L', right: 'R', both: 'both' }
const SIDE_OPTIONS = SIDES.map((id) => ({ id, name: SIDE_NAMES[id] }))
const LAYER_OPTIONS = LAYERS.map((id) => ({ id, name: id }))
const LENGTHS = [6, 8, 12, 24, 48, 72, 96, 144, 192]
const LENGTH_NAMES: Record<number, string> = {
  6: '¼ count',
  8: '⅓ count',
  12: '½ count',
  24: '1 count',
  48: '2 counts',
  72: '3 counts',
  96: '4 counts',
  144: '6 counts',
  192: '8 counts',
}

const placeLabel = (page: Page, tick: Ticks): string => {
  const at = phraseAt(page.placed, tick)
  return at ? labelIn(at, tick) : ''
}

interface Props {
  page: Page
  cue: Cue | null
  tick: Ticks
  layer: Layer
  /** Rises when the person asks to write: the move field takes the focus. */
  writing: number
  onPut: (cue: Cue, did: string) => void
  onMove: (by: Ticks) => void
  onDelete: () => void
  newId: () => string
}

/** The cue at the cursor, or a new one there. */
export function CuePanel({ page, cue, tick, layer, writing, onPut, onMove, onDelete, newId }: Props) {
  const [move, setMove] = useState(cue?.move ?? '')
  const [call, setCall] = useState(cue?.call ?? '')
  const [side, setSide] = useState<Side>('none')
  const field = useRef<HTMLInputElement>(null)
  const to = useCursor((s) => s.to)
  const begun = useRef(writing)
  useEffect(() => {
    if (writing !== begun.current) {
      field.current?.focus()
      field.current?.select()
    }
    begun.current = writing
  }, [writing])
  useEffect(() => setMove(cue?.move ?? ''), [cue?.move])
  useEffect(() => setCall(cue?.call ?? ''), [cue?.call])

  const phrase = phraseAt(page.placed, tick)
  const at = cue?.at ?? tick
  const label = placeLabel(page, at)
  const change = (what: Partial<Cue>, did: string) => cue && onPut({ ...cue, ...what }, did)
  const keep = (): boolean => {
    const text = move.trim()
    if (cue) {
      if (text && text !== cue.move) change({ move: text }, 'rewrite a cue')
      else setMove(cue.move)
      return true
    }
    if (!text) return false
    const named = readSide(text)
    onPut(
      {
        id: newId(),
        at: tick,
        length: tick % TICKS_PER_COUNT === 0 ? TICKS_PER_COUNT : TICKS_PER_COUNT / 2,
        layer,
        move: named.move,
        side: named.side ?? side,
        call: call.trim(),
      },
      `cue “${named.move}”`,
    )
    return true
  }
  const enter = () => {
    if (!keep()) return
    field.current?.blur()
    document.querySelector<HTMLElement>('[data-testid=sheet]')?.focus()
    if (!cue)
      to(
        Math.min(
          (page.placed.at(-1)?.end ?? 0) - 12,
          (Math.floor(tick / TICKS_PER_COUNT) + 1) * TICKS_PER_COUNT,
        ),
      )
  }
  return (
    <>
      <Part>
        <h2>
          {cue ? `On ${label}` : `New on ${label}`}, {cue?.layer ?? layer}
        </h2>
        <Text
          label="Move"
          value={move}
          onChange={setMove}
          onEnter={enter}
          onBlur={() => cue && keep()}
          onEscape={() => {
            setMove(cue?.move ?? '')
            document.querySelector<HTMLElement>('[data-testid=sheet]')?.focus()
          }}
          inputRef={field}
          placeholder="step R, clap, hold …"
        />
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
        {!cue && (
          <Tools>
            <Button
              look="strong"
              onPress={enter}
              isDisabled={!move.trim()}
              tip="Sets the cue and goes on to the next count"
              hotkey="enter"
            >
              Set on {label}
            </Button>
          </Tools>
        )}
      </Part>
      {cue && (
        <Part>
          <h3>When</h3>
          <Tools>
            <Button
              small
              onPress={() => onMove(-TICKS_PER_COUNT)}
              tip="One count earlier"
              aria-label="One count earlier"
            >
              ‹ 1
            </Button>
            <Button
              small
              onPress={() => onMove(-12)}
              tip="Half a count earlier"
              hotkey="alt ←"
              aria-label="Half a count earlier"
            >
              ‹ &
            </Button>
            <Button
              small
              onPress={() => onMove(12)}
              tip="Half a count later"
              hotkey="alt →"
              aria-label="Half a count later"
            >
              & ›
            </Button>
            <Button
              small
              onPress={() => onMove(TICKS_PER_COUNT)}
              tip="One count later"
              aria-label="One count later"
            >
              1 ›
            </Button>
          </Tools>
          <Choice
            label="Exactly on"
            value={String(((cue.at % TICKS_PER_COUNT) + TICKS_PER_COUNT) % TICKS_PER_COUNT)}
            options={namedOffsets(phrase?.phrase.feel ?? 'straight').map((o) => ({
              id: String(o),
              name: placeLabel(page, Math.floor(cue.at / TICKS_PER_COUNT) * TICKS_PER_COUNT + o),
            }))}
            onChange={(o) =>
              onMove(Math.floor(cue.at / TICKS_PER_COUNT) * TICKS_PER_COUNT + Number(o) - cue.at)
            }
          />
          <Choice
            label="Lasts"
            value={String(cue.length)}
            options={[...new Set([...LENGTHS, cue.length])]
              .sort((a, b) => a - b)
              .map((n) => ({ id: String(n), name: LENGTH_NAMES[n] ?? `${n}/24 of a count` }))}
            onChange={(n) => change({ length: Number(n) }, 'change the length')}
          />
          <Choice
            label="Layer"
            value={cue.layer}
            options={LAYER_OPTIONS}
            onChange={(l) => {
              change({ layer: l }, 'change the layer')
              to(cue.at, l)
            }}
          />
          <Tools>
            <Button small onPress={onDelete} hotkey="delete" tip="Takes the cue away; undo brings it back">
              Delete this cue
            </Button>
          </Tools>
        </Part>
      )}
      {!cue && (
        <Part>
          <h3>By keyboard</h3>
          <p>
            Arrows move by count and layer, with shift by half counts. 1 to 8 jump to a count. W writes, enter
            sets and goes on. Alt with arrows moves a cue.
          </p>
          <Choice label="Layer" value={layer} options={LAYER_OPTIONS} onChange={(l) => to(tick, l)} />
        </Part>
      )}
    </>
  )
}

/** A side written behind the move, as in "step R". */
function readSide(text: string): { move: string; side: Side | null } {
  const found = /^(.*\S)\s+([LR])$/.exec(text)
  if (!found?.[1]) return { move: text, side: null }
  return { move: found[1], side: found[2] === 'L' ? 'left' : 'right' }
}
