'use client'

import { nanoid } from 'nanoid'
import { Fragment, useEffect, useEffectEvent, useState } from 'react'
import styled from 'styled-components'
import { useStore } from 'zustand'
import { createStore } from 'zustand/vanilla'
import { phraseAt, placeName } from '@/core/routine'
import { HITS_AT_FIRST, type HitsEvent, stepHits } from '@/core/station'
import type { Ticks } from '@/core/time'
import { TAPS } from '../../keys/taps'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { useStarts } from '../../state/choreo'
import { useCursor } from '../../state/cursor'
import { sincePress, useKeysFirst } from '../../state/keys'
import type { Page } from '../../state/page'
import { usePlayer, usePlayerState } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { say } from '../../state/spoken'
import { useLeave } from '../../state/use-leave'
import { desk } from '../../theme/tokens'
import { useCue } from './cue-store'
import { placeLabel } from './place-label'

const Pressed = styled.div`
  border: 2px dashed ${desk.azalea};
  border-radius: 14px;
  background: ${desk.azaleaSoft};
  padding: 12px;
  display: grid;
  gap: 6px;
  > span { font-size: 13px; color: ${desk.quiet}; }
  ol { list-style: none; margin: 0; padding: 0; display: flex; flex-wrap: wrap; gap: 4px; }
  li {
    padding: 1px 7px;
    border-radius: 7px;
    background: ${desk.card};
    font-weight: 600;
    font-variant-numeric: tabular-nums;
  }
  li[data-phrase] { flex-basis: 100%; padding: 0; background: none; font-weight: 400; font-size: 13px; }
`

/** What was pressed, the sound under it, and the keys that press and end. */
function useHits(page: Page) {
  const player = usePlayer()
  const edit = useRoutine((s) => s.edit)
  const name = useCue((s) => s.send)
  const starts = useStarts()
  const [store] = useState(() => createStore(() => HITS_AT_FIRST))
  const state = useStore(store)
  const send = (event: HitsEvent) => {
    const { loop, layer } = useCursor.getState()
    const next = stepHits(store.getState(), event, { lines: page.lines, loop, layer, newId: nanoid })
    const more = next.state.places.length > store.getState().places.length
    store.setState(next.state, true)
    if (more) say(placeLabel(page, next.state.places.at(-1) as Ticks))
    for (const effect of next.effects) {
      if (effect.kind === 'stop') player.stop()
      else if (effect.kind === 'edit') edit(effect.did, effect.change)
      else name({ kind: 'name hits', from: effect.from })
    }
  }
  /** @param ago seconds since the press */
  const when = (ago = 0) => player.tickNow(page, ago)
  const play = () => {
    const { tick, loop } = useCursor.getState()
    player.playFrom(page, tick, starts, loop)
  }
  const begin = useEffectEvent(play)
  useEffect(() => begin(), [])
  useKeysFirst((e) => {
    const key = TAPS.has(e.key)
      ? 'tap'
      : e.key === 'Backspace'
        ? 'back'
        : e.key === 'Escape'
          ? 'Escape'
          : null
    if (key) send({ kind: 'key', key, repeat: e.repeat, at: when(sincePress(e)) })
    return key !== null
  })
  useLeave('pressed hits', () => send({ kind: 'leave', name: false }))
  return { state, send, when, play }
}

/** A press on each hit while it plays; what was pressed is laid in one step, however it is left, and named afterwards. */
export function HitsPart({ page }: { page: Page }) {
  const { state, send, when, play } = useHits(page)
  const playing = usePlayerState((s) => s.playing)
  const layer = useCursor((s) => s.layer)
  const looped = useCursor((s) => s.loop !== null)
  const { places } = state
  const inOrder = [...places].sort((a, b) => a - b)
  return (
    <Part aria-label="Pressing on each hit">
      <h2>Press on each hit, {layer}</h2>
      <p>
        Space, Enter or a pedal on every hit{looped ? '; it plays again and again' : ''}. The nearest half
        count is meant. Backspace takes the last back, − plays slower. Escape ends: then each is named.
      </p>
      <Pressed role="group" aria-label="Pressed" data-testid="hits" data-playing={playing}>
        <span>
          {places.length} pressed{playing ? '' : ', nothing plays'}
        </span>
        <ol>
          {inOrder.map((at, i) => {
            const row = phraseAt(page.placed, at)
            const begins = i === 0 || row !== phraseAt(page.placed, inOrder[i - 1] as Ticks)
            return (
              <Fragment key={at}>
                {row && begins && <li data-phrase>{placeName(row)}</li>}
                <li>{placeLabel(page, at)}</li>
              </Fragment>
            )
          })}
        </ol>
      </Pressed>
      <Tools>
        <Button look="strong" onPress={() => send({ kind: 'press', at: when() })} isDisabled={!playing}>
          Press
        </Button>
        {!playing && (
          <Button small onPress={play}>
            Play again
          </Button>
        )}
        <Button small isDisabled={!places.length} onPress={() => send({ kind: 'back' })}>
          Take one back
        </Button>
        <Button
          small
          isDisabled={!places.length}
          onPress={() => send({ kind: 'shift', by: -1 })}
          tip="All of them half a count earlier: your hand came late"
        >
          All earlier
        </Button>
        <Button
          small
          isDisabled={!places.length}
          onPress={() => send({ kind: 'shift', by: 1 })}
          tip="All of them half a count later"
        >
          All later
        </Button>
        <Button small onPress={() => send({ kind: 'leave', name: true })} hotkey="unmark">
          {places.length ? 'Name them' : 'Leave'}
        </Button>
      </Tools>
    </Part>
  )
}
