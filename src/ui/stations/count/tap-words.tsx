'use client'

import { nanoid } from 'nanoid'
import { useEffect, useEffectEvent, useState } from 'react'
import styled from 'styled-components'
import { useStore } from 'zustand'
import { createStore } from 'zustand/vanilla'
import { nextLine, type SongWordsEvent, songWordsAtFirst, stepSongWords } from '@/core/station'
import { type Seconds, timeOfTick } from '@/core/time'
import { TAPS } from '../../keys/taps'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import { sincePress, useKeysFirst } from '../../state/keys'
import type { Page } from '../../state/page'
import { usePlayer, usePlayerState } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { useLeave } from '../../state/use-leave'
import { desk } from '../../theme/tokens'

const Next = styled.div`
  border: 2px dashed ${desk.azalea};
  border-radius: 14px;
  background: ${desk.azaleaSoft};
  padding: 12px;
  display: grid;
  gap: 4px;
  strong { font-size: 17px; }
  span { font-size: 13px; color: ${desk.quiet}; }
`

interface Props {
  page: Page
  text: string
  close: () => void
}

/** What is tapped, the song playing under it, and the keys that tap and end. */
function useTapWords({ page, text, close }: Props) {
  const player = usePlayer()
  const edit = useRoutine((s) => s.edit)
  const [store] = useState(() => createStore(() => songWordsAtFirst(text)))
  const state = useStore(store)
  const send = (event: SongWordsEvent) => {
    const next = stepSongWords(store.getState(), event, nanoid)
    store.setState(next.state, true)
    for (const effect of next.effects) {
      if (effect.kind === 'stop') player.stop()
      else if (effect.kind === 'edit') edit(effect.did, effect.change)
      else close()
    }
  }
  /** @param ago seconds since the press */
  const when = (ago = 0): Seconds | null => {
    const then = player.tickNow(page, ago)
    return then === null ? null : timeOfTick(page.times, then)
  }
  const begin = useEffectEvent(() => {
    player.playFrom(page, useCursor.getState().tick, [])
    player.mute('music')
  })
  useEffect(() => begin(), [])
  useKeysFirst((e) => {
    const key = TAPS.has(e.key) ? 'tap' : e.key === 'Escape' ? e.key : null
    if (key) send({ kind: 'key', key, repeat: e.repeat, at: when(sincePress(e)) })
    return key !== null
  })
  useLeave('tapped words', () => send({ kind: 'leave' }))
  return { state, send, when }
}

/** One tap a line while the song plays; what was tapped is kept in one step, however it is left. */
export function TapWords(props: Props) {
  const { state, send, when } = useTapWords(props)
  const playing = usePlayerState((s) => s.playing)
  const { lines, tapped } = state
  const next = nextLine(state)
  const then = lines[tapped.length + 1]
  return (
    <Part aria-label="Tapping words in">
      <h2>Tap the words in</h2>
      <p>Tap as each line begins: space, Enter or a pedal. Escape keeps what was tapped and ends.</p>
      <Next role="status" data-testid="tap-words" data-playing={playing}>
        <span>
          {tapped.length} of {lines.length} tapped{playing ? '' : ', the song is not playing'}
        </span>
        <strong>{next ?? 'That was the last line.'}</strong>
        {then && <span>then: {then}</span>}
      </Next>
      <Tools>
        <Button look="strong" onPress={() => send({ kind: 'tap', at: when() })} isDisabled={next === null}>
          Tap
        </Button>
        <Button
          small
          isDisabled={!tapped.length}
          onPress={() => send({ kind: 'back' })}
          tip="Takes the last tap back; tap that line again"
        >
          Take one back
        </Button>
        <Button small onPress={() => send({ kind: 'leave' })} hotkey="unmark">
          {tapped.length ? 'Keep these' : 'Leave'}
        </Button>
      </Tools>
    </Part>
  )
}
