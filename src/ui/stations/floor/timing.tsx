'use client'

import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import {
  deviceDelay,
  drillTimeline,
  LEAST_CALIBRATION,
  type MatchedTap,
  matchTaps,
  timingOf,
  worstCues,
} from '@/core/drill'
import { cuesIn, labelIn, phraseAt, type Routine } from '@/core/routine'
import { timeOfTick } from '@/core/time'
import { Button } from '../../parts/button'
import { Level } from '../../parts/field'
import { useShown } from '../../state/choreo'
import type { Page } from '../../state/page'
import { usePlayer } from '../../state/player'
import { floor, font } from '../../theme/tokens'
import { TAPS } from '../count/tapping'
import { Dark, TopLine } from './dark'
import { TimingScale } from './timing-scale'
import { type DrillPlan, rangeName, rangeOf } from './use-drill'

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
  > div { display: grid; gap: 14px; align-content: start; }
  h2 { font-size: 20px; }
  p { color: ${floor.quiet}; font-size: 15px; }
  @media (max-width: 700px) { grid-template-columns: 1fr; }
`

const Said = styled.p`
  font: 650 24px/1.3 ${font.display} !important;
  color: ${floor.ink} !important;
  min-height: 2.6em;
`

const KEPT = 'azalea-delay'
/** Calibration: 16 clicks, 100 a minute. */
const CLICKS = Array.from({ length: 24 }, (_, k) => k * 0.6)

/** The delay of this device and hand, in milliseconds, as it was measured here last. */
function keptDelay(): number {
  const kept = Number(localStorage.getItem(KEPT))
  return Number.isFinite(kept) ? kept : 0
}

/** A number spread like a bell around 0, with a standard deviation of 1 (Box & Muller 1958). */
const bell = () => Math.sqrt(-2 * Math.log(1 - Math.random())) * Math.cos(2 * Math.PI * Math.random())

interface Props {
  page: Page
  routine: Routine
  plan: DrillPlan
  leave: () => void
}

/** Tapping on the cues of what is drilled: how early or late, count by count. */
export function TimingTrainer({ page, routine, plan, leave }: Props) {
  const player = usePlayer()
  const all = useShown(routine)
  const [mode, setMode] = useState<'still' | 'tapping' | 'calibrating'>('still')
  const [taps, setTaps] = useState<number[]>([])
  const [rounds, setRounds] = useState<MatchedTap[][]>([])
  const [delay, setDelay] = useState(0)
  const [said, setSaid] = useState('')
  const [dancer, setDancer] = useState({ on: false, error: 60, spread: 25 })
  useEffect(() => setDelay(keptDelay()), [])
  const { from, to } = rangeOf(page, routine, plan)
  const cues = useMemo(() => [...new Set(cuesIn(all, from, to).map((c) => c.at))], [all, from, to])
  const times = useMemo(
    () => cues.map((c) => (timeOfTick(page.times, c) - timeOfTick(page.times, from)) / plan.speed),
    [cues, page.times, from, plan.speed],
  )
  const labels = cues.map((c) => {
    const at = phraseAt(page.placed, c)
    return at ? labelIn(at, c) : ''
  })
  const round = useRef<number[]>([])
  const current = useRef(0)

  const finish = useCallback(
    (list: readonly number[]) => {
      const window = Math.min(0.25, (times[1] ?? 1) - (times[0] ?? 0) || 0.25)
      const result = matchTaps(times, list, Math.max(0.12, window * 0.6))
      setRounds((r) => [...r.slice(-9), result.matched])
    },
    [times],
  )
  const begin = () => {
    setRounds([])
    setSaid('')
    setMode('tapping')
    round.current = []
    current.current = 0
    const lay = () =>
      drillTimeline({ times: page.times, placed: page.placed, from, to, cues }, plan.speed, plan.countIn)
    player.mute(plan.sound)
    player.perform({
      first: lay(),
      next: () => ({ timeline: lay(), countIn: true }),
      onLeg: (leg) => {
        finish(round.current)
        round.current = []
        current.current = leg.k + 1
      },
      onEnd: () => setMode('still'),
    })
  }
  const calibrate = () => {
    setTaps([])
    setMode('calibrating')
    const placed = [
      {
        phrase: { id: 'c', length: 24, feel: 'straight' as const, pickUp: false },
        index: 0,
        start: 0,
        end: 576,
        first: 1,
        inSection: 1,
        section: null,
      },
    ]
    player.mute('counts')
    player.perform({
      first: drillTimeline({ times: CLICKS, placed, from: 0, to: 16 * 24, cues: [], wordsOnly: true }, 1, 4),
      next: () => null,
      onEnd: () => setMode('still'),
    })
  }
  const stop = useCallback(() => {
    player.stop()
    setMode('still')
  }, [player])
  // What was tapped is looked at when the clicks have ended.
  useEffect(() => {
    if (mode !== 'still' || taps.length === 0) return
    const found = deviceDelay(CLICKS.slice(0, 16), taps)
    setTaps([])
    if (!found)
      return setSaid(`At least ${LEAST_CALIBRATION} even taps are needed. The delay stays as it was.`)
    localStorage.setItem(KEPT, String(Math.round(found.ms)))
    setDelay(Math.round(found.ms))
    setSaid(
      `This device and your hand are ${Math.round(found.ms)} ms late (± ${Math.round(found.spread)}). It is taken away from now on.`,
    )
  }, [mode, taps])

  const tap = useCallback(() => {
    const place = player.now()
    if (!place) return
    if (mode === 'calibrating') setTaps((list) => [...list, place.into])
    else if (mode === 'tapping') round.current.push(place.into - delay / 1000)
  }, [player, mode, delay])

  // The simulated dancer taps by its set error and spread.
  useEffect(() => {
    if (mode !== 'tapping' || !dancer.on) return
    let frame = 0
    let done = -1
    let leg = -1
    const step = () => {
      const place = player.now()
      if (place) {
        if (place.leg.k !== leg) {
          leg = place.leg.k
          done = -1
        }
        times.forEach((t, i) => {
          if (i > done && place.into >= t) {
            done = i
            round.current.push(t + (dancer.error + dancer.spread * bell()) / 1000)
          }
        })
      }
      frame = requestAnimationFrame(step)
    }
    frame = requestAnimationFrame(step)
    return () => cancelAnimationFrame(frame)
  }, [mode, dancer, times, player])

  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const field = e.target instanceof HTMLElement && e.target.closest('input, [role=slider]')
      const isTap = TAPS.has(e.key) && mode !== 'still' && !field
      if (!isTap && e.key !== 'Escape') return
      // Before the floor, which uses the same keys.
      e.preventDefault()
      e.stopImmediatePropagation()
      if (e.key === 'Escape') {
        if (mode === 'still') leave()
        else stop()
      } else if (!e.repeat) tap()
    }
    window.addEventListener('keydown', press, true)
    return () => window.removeEventListener('keydown', press, true)
  }, [mode, tap, stop, leave])
  useEffect(() => () => player.stop(), [player])

  const everything = rounds.flat()
  const last = timingOf((rounds.at(-1) ?? []).map((m) => m.ms))
  const total = timingOf(everything.map((m) => m.ms))
  const worst = worstCues(everything, labels)[0]
  const late = (ms: number) => `${Math.abs(Math.round(ms))} ms ${ms < 0 ? 'early' : 'late'}`
  const [a, b] = [page.placed[plan.first], page.placed[plan.last]]
  return (
    <Dark>
      <TopLine>
        <span>Timing · {a && b ? rangeName(a, b) : ''}</span>
        <span>
          <strong>{Math.round(plan.speed * 100)} %</strong>
        </span>
      </TopLine>
      <Halves>
        <div>
          <Pad type="button" onPointerDown={tap} disabled={mode === 'still'}>
            {mode === 'still'
              ? 'Begin, then tap on every move'
              : mode === 'calibrating'
                ? 'Tap with the clicks'
                : 'Tap on every move'}
          </Pad>
          <Said role="status" data-testid="timing">
            {said ||
              (total.n
                ? `${late(total.mean)} on average, spread ${Math.round(total.spread)} ms; the last time ${late(last.mean)}.${worst ? ` ${worst.ms < 0 ? 'Early' : 'Late'} on ${worst.label} by ${Math.abs(Math.round(worst.ms))} ms.` : ''}`
                : cues.length
                  ? 'Space, a pedal, or the field above.'
                  : 'No moves are cued here; choose phrases with cues.')}
          </Said>
          <TimingScale labels={labels} rounds={rounds} />
        </div>
        <div>
          {mode === 'still' ? (
            <Button look="strong" onPress={begin} isDisabled={!cues.length}>
              Begin
            </Button>
          ) : (
            <Button look="dark" onPress={stop}>
              Stop
            </Button>
          )}
          <Button look="dark" onPress={leave}>
            Back to the floor
          </Button>
          <h2>This device</h2>
          <p data-testid="delay">
            Sound takes a while to reach you, and a tap to reach Azalea. Measured here: {delay} ms, taken away
            from what is shown.
          </p>
          <Button look="dark" small onPress={calibrate} isDisabled={mode !== 'still'}>
            Measure it: 16 clicks
          </Button>
          <h2>A simulated dancer</h2>
          <p>For trying this out: it taps with an error and a spread you set.</p>
          <Button
            look="dark"
            small
            aria-pressed={dancer.on}
            onPress={() => setDancer({ ...dancer, on: !dancer.on })}
          >
            {dancer.on ? 'It taps' : 'Let it tap'}
          </Button>
          <Level
            dark
            label="Late by"
            name="Late by"
            value={dancer.error}
            min={-150}
            max={150}
            step={10}
            onChange={(error) => setDancer({ ...dancer, error })}
            text={(x) => `${x} ms`}
          />
          <Level
            dark
            label="Spread"
            name="Spread"
            value={dancer.spread}
            min={0}
            max={80}
            step={5}
            onChange={(spread) => setDancer({ ...dancer, spread })}
            text={(x) => `${x} ms`}
          />
        </div>
      </Halves>
    </Dark>
  )
}
