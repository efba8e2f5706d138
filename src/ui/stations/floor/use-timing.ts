'use client'

import { nanoid } from 'nanoid'
import { useEffect, useEffectEvent, useState } from 'react'
import { createStore, useStore } from 'zustand'
import { useShallow } from 'zustand/react/shallow'
import { clapListener, type DrillPlan, drillTimeline, rangeOf } from '@/core/drill'
import { said as reason } from '@/core/formats/said'
import { cuesIn, cutText, labelIn, phraseAt, placePhrases, type Routine, stretchName } from '@/core/routine'
import {
  CLICKED,
  CLICKS,
  type Measured,
  stepTiming,
  type TimingEffect,
  type TimingEvent,
  type TimingSeen,
  type TimingState,
  timingAtFirst,
  type Way,
} from '@/core/station'
import { TICKS_PER_COUNT, timeOfTick } from '@/core/time'
import { useShown } from '../../state/choreo'
import { sincePress } from '../../state/keys'
import type { Page } from '../../state/page'
import { type Player, usePlayer } from '../../state/player'
import { putTiming } from '../../state/saved'
import { keepDelay, keptDelay } from './delays'
import { songTime } from './rows'

/** A number spread like a bell around 0, with a standard deviation of 1 (Box & Muller 1958). */
const bell = () => Math.sqrt(-2 * Math.log(1 - Math.random())) * Math.cos(2 * Math.PI * Math.random())

const OUT_OF_SIGHT = 'This page was out of sight: it stopped. What was measured until then is kept.'

/** The clicks of a calibration. */
function clicks() {
  const phrases = [{ length: CLICKS.length, feel: 'straight' as const, pickUp: false }]
  const placed = placePhrases({ phrases, sections: [], usual: 8 })
  const to = CLICKED * TICKS_PER_COUNT
  return drillTimeline({ times: CLICKS, placed, from: 0, to, cues: [], wordsOnly: true }, 1, 4)
}

/** The microphone of the trainer: one at a time, and let go when something else was asked for meanwhile. */
class Claps {
  private close: (() => void) | null = null
  private asked = 0
  constructor(
    private readonly player: Player,
    private readonly send: (event: TimingEvent) => void,
  ) {}

  async open(asked: number, least: number): Promise<void> {
    this.asked = asked
    let listen: ReturnType<typeof clapListener> | null = null
    const told = (block: Float32Array, rate: number, at: number) => {
      listen ??= clapListener(rate, least)
      for (const clap of listen(block, at)) {
        const into = this.player.placeAt(clap.at)?.into ?? null
        this.send({ kind: 'clap', into, level: clap.level })
      }
    }
    const gone = () =>
      this.send({ kind: 'stop', why: 'The microphone is gone. Plug it in again, then begin.' })
    try {
      const close = await this.player.listen(told, gone)
      if (asked !== this.asked) return close()
      this.close = close
      this.send({ kind: 'microphone', asked, why: null })
    } catch (error) {
      this.send({ kind: 'microphone', asked, why: reason(error) })
    }
  }

  shut(): void {
    this.asked = -1
    this.close?.()
    this.close = null
  }
}

/** What the trainer needs of the page: how the cues are played, and where a result goes. */
interface Around {
  seen: () => TimingSeen
  playCues: () => void
  log: (result: Measured) => void
}

interface TimingStore extends TimingState {
  send: (event: TimingEvent) => void
  /** Set anew with each drawing of the page, after it. */
  around: Around | null
}

function makeTimingStore(first: Way, player: Player) {
  return createStore<TimingStore>()((set, get) => {
    const send = (event: TimingEvent) => {
      const { send: _, around, ...state } = get()
      const seen = around?.seen() ?? { times: [], labels: [] }
      const next = stepTiming(state, event, seen)
      set(next.state)
      next.effects.forEach(obey)
    }
    const claps = new Claps(player, send)
    /** Without sound there is nothing to tap on. */
    const perform = async (what: Parameters<Player['perform']>[0]) => {
      if (!(await player.perform(what))) send({ kind: 'stop', why: player.state.getState().problem })
    }
    const obey = (effect: TimingEffect) => {
      if (effect.kind === 'open microphone') claps.open(effect.asked, effect.least)
      else if (effect.kind === 'close microphone') claps.shut()
      else if (effect.kind === 'stop sound') player.stop()
      else if (effect.kind === 'keep delay') keepDelay(effect.way, effect.delay)
      else if (effect.kind === 'log') get().around?.log(effect.result)
      else if (effect.kind === 'play cues') get().around?.playCues()
      else {
        player.mute('counts')
        perform({ first: clicks(), next: () => null, onEnd: () => send({ kind: 'clicks ended' }) })
      }
    }
    return { ...timingAtFirst(first, keptDelay(first)), send, around: null }
  })
}

/** The timing trainer: what is tapped or clapped beside the cues, and the delay of the device. */
export function useTiming(page: Page, routine: Routine, plan: DrillPlan, id: string, first: Way) {
  const player = usePlayer()
  const all = useShown(routine)
  const [store] = useState(() => makeTimingStore(first, player))
  const {
    send,
    around: _,
    ...state
  } = useStore(
    store,
    useShallow((s) => ({ ...s, around: null })),
  )
  const { from, to } = rangeOf(plan, routine)
  const cues = [...new Set(cuesIn(all, { from, to }).map((c) => c.at))]
  const begin = timeOfTick(page.times, from)
  const times = cues.map((c) => (timeOfTick(page.times, c) - begin) / plan.speed)
  const labels = cues.map((c) => {
    const at = phraseAt(page.placed, c)
    return at ? labelIn(at, c) : ''
  })
  const playCues = async () => {
    const lay = () =>
      drillTimeline({ times: page.times, placed: page.placed, from, to, cues }, plan.speed, plan.countIn)
    player.mute(plan.sound)
    const done = await player.perform({
      first: lay(),
      next: () => ({ timeline: lay(), countIn: true }),
      onLeg: () => send({ kind: 'repetition ended' }),
      onEnd: () => send({ kind: 'stop', why: '' }),
    })
    if (!done) send({ kind: 'stop', why: player.state.getState().problem })
  }
  /** Puts what was measured into the log. */
  const log = (result: Measured) => {
    const { stretch, speed } = plan
    const span = { from: songTime(page, stretch.from), to: songTime(page, stretch.to) }
    const label = cutText(stretchName(page.placed, stretch), 300)
    putTiming(id, { id: nanoid(), doneAt: Date.now(), ...span, label, speed, ...result }).catch(() => {})
  }
  useEffect(() => {
    store.setState({ around: { seen: () => ({ times, labels }), playCues, log } })
  })
  useSimulatedDancer(state, send, times, player)
  useLeaving(state.mode !== 'still', send)
  return {
    ...{ state, labels, canBegin: cues.length > 0 },
    choose: (way: Way) => send({ kind: 'choose', way, delay: keptDelay(way) }),
    setDancer: (what: Partial<TimingState['dancer']>) => send({ kind: 'dancer', what }),
    begin: () => send({ kind: 'begin', delay: keptDelay(state.way) }),
    calibrate: (own: boolean) => send({ kind: 'calibrate', own }),
    stop: () => send({ kind: 'stop', why: '' }),
    tap: (press: { timeStamp: number }) => {
      const into = player.now(sincePress(press))?.into ?? null
      send({ kind: 'tap', into })
    },
  }
}

/** The simulated dancer taps by its set error and spread. */
function useSimulatedDancer(
  { mode, dancer }: TimingState,
  send: (event: TimingEvent) => void,
  times: readonly number[],
  player: Player,
) {
  const tap = useEffectEvent((t: number) =>
    send({ kind: 'simulated', into: t + (dancer.error + dancer.spread * bell()) / 1000 }),
  )
  const due = useEffectEvent((after: number, into: number) =>
    times.flatMap((t, i) => (i > after && into >= t ? [i] : [])),
  )
  const at = useEffectEvent((i: number) => times[i] ?? 0)
  const dances = mode === 'tapping' && dancer.on
  useEffect(() => {
    if (!dances) return
    let frame = 0
    let done = -1
    let leg = -1
    const step = () => {
      const place = player.now()
      if (place) {
        if (place.leg.k !== leg) done = -1
        leg = place.leg.k
        for (const i of due(done, place.into)) {
          done = i
          tap(at(i))
        }
      }
      frame = requestAnimationFrame(step)
    }
    frame = requestAnimationFrame(step)
    return () => cancelAnimationFrame(frame)
  }, [dances, player])
}

/** Leaving in any way lets go of the sound and the microphone, and keeps what was measured. */
function useLeaving(busy: boolean, send: (event: TimingEvent) => void) {
  useEffect(() => () => send({ kind: 'stop', why: '' }), [send])
  useEffect(() => {
    if (!busy) return
    const hidden = () => {
      if (document.hidden) send({ kind: 'stop', why: OUT_OF_SIGHT })
    }
    document.addEventListener('visibilitychange', hidden)
    return () => document.removeEventListener('visibilitychange', hidden)
  }, [busy, send])
}
