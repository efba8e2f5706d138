'use client'

import { nanoid } from 'nanoid'
import { useEffect, useEffectEvent, useRef, useState } from 'react'
import styled from 'styled-components'
import { LEAST_TAPS } from '@/core/grid'
import { emptyRoutine, everyEight, layOut, placePhrases } from '@/core/routine'
import {
  linesOf,
  otherTapped,
  stepTapping,
  TAPPING_AT_FIRST,
  type TappingEvent,
  type TappingSeen,
  tapped,
} from '@/core/station'
import { clockText, type Seconds, timeOfTick } from '@/core/time'
import { TAPS } from '../../keys/taps'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { useMoments } from '../../sheet/playhead'
import { useCursor } from '../../state/cursor'
import { sincePress, useKeysFirst } from '../../state/keys'
import { type Page, useSong } from '../../state/page'
import { usePlayer } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'

const Pad = styled.button`
  min-height: 96px;
  border: 2px dashed ${desk.azalea};
  border-radius: 16px;
  background: ${desk.azaleaSoft};
  font: inherit;
  font-weight: 650;
  font-size: 17px;
  color: ${desk.ink};
  cursor: pointer;
  &:active { background: ${desk.azalea}; color: ${desk.on}; }
`

/** A page of plain half seconds: enough to play a song whose counts are not known. */
function plainPage(duration: Seconds): Page {
  const times = Array.from({ length: Math.max(2, Math.ceil(duration * 2)) }, (_, k) => k / 2)
  const routine = layOut(
    emptyRoutine('-'),
    { counts: times.length, starts: everyEight(0, times.length), sections: [] },
    nanoid,
  )
  const placed = placePhrases(routine)
  return { times, placed, lines: linesOf(placed), tempo: 120, tempi: [], duration, renumbered: false }
}

/** Taps and what they say, and the song playing under them. */
function useTapping(page: Page, close: () => void) {
  const { heard } = useSong()
  const player = usePlayer()
  const edit = useRoutine((s) => s.edit)
  const [state, setState] = useState(TAPPING_AT_FIRST)
  const [plain] = useState(() => plainPage(page.duration))
  const [start] = useState(() => {
    const { tick } = useCursor.getState()
    return page.times.length > 1 ? Math.max(0, timeOfTick(page.times, tick)) : 0
  })
  const seen: TappingSeen = { times: page.times, duration: page.duration, heard, newId: nanoid }
  const play = () => {
    player.playFrom(plain, Math.round(start * 48), [])
    player.mute('music')
  }
  const send = (event: TappingEvent) => {
    const next = stepTapping(state, event, seen)
    setState(next.state)
    for (const effect of next.effects) {
      if (effect.kind === 'play') play()
      else if (effect.kind === 'stop') player.stop()
      else if (effect.kind === 'close') close()
      else edit(effect.did, effect.change)
    }
  }
  /** When a press was, in seconds of the song. */
  const when = (press: { timeStamp: number }): Seconds | null => {
    const then = player.tickNow(plain, sincePress(press))
    return then === null ? null : timeOfTick(plain.times, then)
  }
  const begin = useEffectEvent(play)
  useEffect(() => {
    begin()
    return () => player.stop()
  }, [player])
  return { state, said: tapped(state, seen), plain, send, when }
}

/** Keys that tap, take and leave, before the transport and the sheet, which use the same. */
function useTappingKeys(
  running: boolean,
  send: (event: TappingEvent) => void,
  when: (press: { timeStamp: number }) => Seconds | null,
) {
  useKeysFirst((e) => {
    const isTap = TAPS.has(e.key) && running
    const key = isTap ? 'tap' : e.key === 'Escape' || e.key === 't' ? e.key : null
    if (key) send({ kind: 'key', key, repeat: e.repeat, at: when(e) })
    return key !== null
  })
}

/** Where the song is, told while it plays. */
function Clock({ page, plain }: { page: Page; plain: Page }) {
  const clock = useRef<HTMLParagraphElement>(null)
  useMoments(plain, (now) => {
    if (!clock.current || now === null) return
    const t = timeOfTick(plain.times, now)
    clock.current.textContent = `${clockText(t, true)} of ${clockText(page.duration)}`
    clock.current.dataset.seconds = t.toFixed(3)
  })
  return <p ref={clock} data-testid="tap-clock" />
}

/** Tapping the beat along the music: what the taps say is shown before it is taken. */
export function Tapping({ page, close }: { page: Page; close: () => void }) {
  const { state, said, plain, send, when } = useTapping(page, close)
  const { taps, running } = state
  const { fit, way } = said
  const other = otherTapped(said)
  useTappingKeys(running, send, when)
  return (
    <Part aria-label="Tapping the beat">
      <h2>Tap along</h2>
      <p>
        Tap on every beat: the space bar, Enter, a pedal, or the field below. Two taps tell which of the ways
        that were heard you mean, eight lay a beat of your own. T takes it, Escape leaves it.
      </p>
      <Pad type="button" onPointerDown={(e) => send({ kind: 'tap', at: when(e) })} disabled={!running}>
        {running ? `Tap (${taps.length})` : 'Stopped'}
      </Pad>
      <Clock page={page} plain={plain} />
      <p role="status" data-testid="tapped">
        {fit
          ? `${fit.bpm.toFixed(1)} BPM, ${fit.steady ? 'steady' : 'moving'}, your taps within ${Math.round(fit.spread * 1000)} ms${fit.dropped ? `, ${fit.dropped} thrown out` : ''}.`
          : `A beat of your own takes at least ${LEAST_TAPS} even taps; eight are better.`}
      </p>
      {way && (
        <p role="status" data-testid="tapped-way">
          {other ? (
            <>
              You tap another way that was heard: <strong>{other.name}</strong>
            </>
          ) : (
            'You tap as it is counted.'
          )}
        </p>
      )}
      <Tools>
        <Button
          small
          look="strong"
          isDisabled={!fit && !other}
          onPress={() => send({ kind: 'take' })}
          tip={other ? 'The counts go where this was heard' : 'The counts go where you tapped'}
          hotkey="tap"
        >
          Take it
        </Button>
        {other && (
          <Button
            small
            isDisabled={!fit}
            onPress={() => send({ kind: 'take taps' })}
            tip="The counts go where you tapped, not where it was heard"
          >
            Take the taps
          </Button>
        )}
        <Button small onPress={() => send({ kind: 'again' })}>
          Tap again
        </Button>
        <Button small look="quiet" onPress={() => send({ kind: 'leave' })} hotkey="unmark">
          Leave it
        </Button>
      </Tools>
    </Part>
  )
}
