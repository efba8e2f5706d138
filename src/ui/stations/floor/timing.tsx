'use client'

import { useEffect, useEffectEvent } from 'react'
import { ToggleButton } from 'react-aria-components'
import styled from 'styled-components'
import { lateness, timingOf, worstCues } from '@/core/drill'
import { stretchName } from '@/core/routine'
import type { Way } from '@/core/station'
import { TAPS } from '../../keys/taps'
import { Button } from '../../parts/button'
import { Slide } from '../../parts/field'
import { mustLoad } from '../../state/devices'
import { outboxWords } from '../../state/outbox-state'
import { useOutbox } from '../../state/outbox-window'
import { floor, font } from '../../theme/tokens'
import { Alarm, Dark, Toggles, TopLine } from './dark'
import { useDevices } from './floor-devices'
import { useFloor } from './floor-store'
import { TimingScale } from './timing-scale'
import { useTiming } from './use-timing'

const Pad = styled.button`
  min-height: 110px;
  border: 2px dashed ${floor.azalea};
  border-radius: 16px;
  background: ${floor.card};
  color: ${floor.ink};
  font: 700 26px/1.2 ${font.display};
  cursor: pointer;
  &:active { background: ${floor.azalea}; color: #2B0A1B; }
`

const Halves = styled.div`
  flex: 1;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  gap: 32px;
  min-height: 0;
  > div { display: grid; gap: 12px; align-content: start; }
  h1, h2 { font-size: 19px; margin-top: 4px; }
  p { color: ${floor.quiet}; font-size: 15px; }
  @media (max-width: 700px) { grid-template-columns: 1fr; }
`

const Said = styled.p`
  font: 650 24px/1.3 ${font.display} !important;
  color: ${floor.ink} !important;
  min-height: 2.6em;
`

interface Props {
  /** The routine's. */
  id: string
  /** How it is told of a move at first. */
  first: Way
}

type Timing = ReturnType<typeof useTiming>

/** Tapping or clapping on the cues of what is drilled: how early or late, count by count. */
export function TimingTrainer({ id, first }: Props) {
  const page = useFloor((s) => s.page)
  const routine = useFloor((s) => s.routine)
  const plan = useFloor((s) => s.plan)
  const send = useFloor((s) => s.send)
  const timing = useTiming(page, routine, plan, id, first)
  const leave = () => send({ kind: 'timing over' })
  const unsaved = useOutbox(outboxWords)
  useTimingKeys(timing, leave)
  return (
    <Dark>
      <TopLine>
        <span>Timing · {stretchName(page.placed, plan.stretch)}</span>
        <span>
          <strong>{Math.round(plan.speed * 100)} %</strong>
        </span>
      </TopLine>
      {unsaved && <Alarm role="alert">{unsaved}</Alarm>}
      <Halves>
        <Told timing={timing} />
        <div>
          <Begin timing={timing} />
          <Button look="dark" onPress={leave}>
            Back to the floor
          </Button>
          <Device timing={timing} />
          {timing.state.way === 'tap' && <SimulatedDancer timing={timing} />}
        </div>
      </Halves>
    </Dark>
  )
}

/** Keys that tap, and Escape, before the floor, which uses the same. */
function useTimingKeys({ state, tap, stop }: Timing, leave: () => void) {
  const still = state.mode === 'still'
  const press = useEffectEvent((e: KeyboardEvent) => {
    const field = e.target instanceof HTMLElement && e.target.closest('input, [role=slider]')
    const isTap = TAPS.has(e.key) && !still && !field
    if (!isTap && e.key !== 'Escape') return
    e.preventDefault()
    e.stopImmediatePropagation()
    if (e.key === 'Escape') {
      if (still) leave()
      else stop()
    } else if (!e.repeat) tap(e)
  })
  useEffect(() => {
    const listen = (e: KeyboardEvent) => press(e)
    window.addEventListener('keydown', listen, true)
    return () => window.removeEventListener('keydown', listen, true)
  }, [])
}

/** What the pad says now. */
const asksFor = ({ mode, way, claps }: Timing['state']): string =>
  ({
    still: way === 'tap' ? 'Begin, then tap on every move' : 'Begin, then clap on every move',
    opening: 'Opening the microphone …',
    tapping: way === 'tap' ? 'Tap on every move' : `Clap on every move · ${claps} heard`,
    calibrating: way === 'tap' ? 'Tap with the clicks' : `Measuring · ${claps} heard`,
  })[mode]

/** Where it is tapped, and how early or late that was. */
function Told({ timing }: { timing: Timing }) {
  const { state, labels, canBegin, tap } = timing
  const { mode, way, rounds } = state
  const everything = rounds.flat()
  const last = timingOf((rounds.at(-1) ?? []).map((m) => m.ms))
  const total = timingOf(everything.map((m) => m.ms))
  const worst = worstCues(everything, labels)[0]
  return (
    <div>
      <Pad type="button" onPointerDown={tap} disabled={mode === 'still' || way === 'clap'}>
        {asksFor(state)}
      </Pad>
      <Said role="status" data-testid="timing">
        {state.said ||
          (total.n
            ? `${lateness(total.mean)} on average, spread ${Math.round(total.spread)} ms; the last time ${lateness(last.mean)}.${worst ? ` ${worst.ms < 0 ? 'Early' : 'Late'} on ${worst.label} by ${Math.abs(Math.round(worst.ms))} ms.` : ''}`
            : !canBegin
              ? 'No moves are cued here; choose phrases with cues.'
              : way === 'tap'
                ? 'Space, a pedal, or the field above.'
                : 'Close to the microphone, or with headphones on: what the loudspeaker plays is heard too.')}
      </Said>
      <TimingScale labels={labels} rounds={rounds} />
    </div>
  )
}

function Begin({ timing }: { timing: Timing }) {
  const { load } = useDevices()
  const { state, begin, stop, canBegin, choose } = timing
  const still = state.mode === 'still'
  return (
    <>
      {still ? (
        <Button look="strong" onPress={begin} isDisabled={!canBegin}>
          Begin
        </Button>
      ) : (
        <Button look="dark" onPress={stop}>
          Stop
        </Button>
      )}
      <Toggles
        aria-label="How moves are told"
        selectionMode="single"
        disallowEmptySelection
        isDisabled={!still}
        selectedKeys={[state.way]}
        onSelectionChange={(keys) => {
          const next = [...keys][0] as Way
          // Loaded anew where it may not listen as it is.
          if (next === 'clap' && mustLoad('microphone')) load('claps')
          else choose(next)
        }}
      >
        <ToggleButton id="tap">Tap</ToggleButton>
        <ToggleButton id="clap">Clap</ToggleButton>
      </Toggles>
    </>
  )
}

function SimulatedDancer({ timing }: { timing: Timing }) {
  const { dancer } = timing.state
  return (
    <>
      <h1>A simulated dancer</h1>
      <p>For trying this out: it taps with an error and a spread you set. It is not kept in the log.</p>
      <Button look="dark" small aria-pressed={dancer.on} onPress={() => timing.setDancer({ on: !dancer.on })}>
        {dancer.on ? 'It taps' : 'Let it tap'}
      </Button>
      <Slide
        dark
        label="Late by"
        name="Late by"
        value={dancer.error}
        min={-150}
        max={150}
        step={10}
        onChange={(error) => timing.setDancer({ error })}
        text={(x) => `${x} ms`}
      />
      <Slide
        dark
        label="Spread"
        name="Spread"
        value={dancer.spread}
        min={0}
        max={80}
        step={5}
        onChange={(spread) => timing.setDancer({ spread })}
        text={(x) => `${x} ms`}
      />
    </>
  )
}

/** The delay of this device, and how it is measured. */
function Device({ timing }: { timing: Timing }) {
  const { state, calibrate } = timing
  const { way, mode } = state
  const delay = state.delay.ms
  const still = mode === 'still'
  return (
    <>
      <h2>This device</h2>
      <p data-testid="delay">
        {way === 'tap'
          ? `Sound takes a while to reach you, and a tap to reach Azalea. Measured here: ${delay} ms, taken away from what is shown.`
          : `Sound takes a while to leave the loudspeaker, and a clap to come in. Measured here: ${delay} ms, taken away from what is shown.`}
      </p>
      {way === 'tap' ? (
        <Button look="dark" small onPress={() => calibrate(false)} isDisabled={!still}>
          Measure it: 16 clicks
        </Button>
      ) : (
        <>
          <Button look="dark" small onPress={() => calibrate(true)} isDisabled={!still}>
            Measure it: it hears its own clicks
          </Button>
          <Button look="dark" small onPress={() => calibrate(false)} isDisabled={!still}>
            With headphones: clap 16 clicks
          </Button>
        </>
      )}
    </>
  )
}
