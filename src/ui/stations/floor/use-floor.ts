'use client'

import { nanoid } from 'nanoid'
import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react'
import { createStore, useStore } from 'zustand'
import { onOutputChange } from '@/audio/devices'
import { type DrillPlan, drillTimeline, rangeOf } from '@/core/drill'
import {
  type FloorEffect,
  type FloorEvent,
  type FloorLesson,
  type FloorState,
  following,
  type Heard,
  STILL,
  step,
} from '@/core/floor'
import { cuesIn, ofPass, phraseAt, type Routine, totalCounts } from '@/core/routine'
import { type Ratio, TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { useCallsFor, useShown } from '../../state/choreo'
import type { Page } from '../../state/page'
import { usePlayer } from '../../state/player'
import { putRepetition, putStep } from '../../state/saved'
import { useView } from '../../state/view'
import { repetitionRow, stepRow } from './rows'

/** Events as hooks and buttons give them; the time is added here. */
type Timeless = FloorEvent extends infer E ? (E extends { now: number } ? Omit<E, 'now'> : E) : never

/** The floor's machine: fed by the sound, the page and what is pressed; its effects are carried out here. */
export function useFloor(page: Page, routine: Routine, routineId: string, lesson: FloorLesson | null) {
  const player = usePlayer()
  const shown = useShown(routine)
  const callsFor = useCallsFor(page)
  const [store] = useState(() => createStore<FloorState>(() => STILL))
  const state = useStore(store)
  // What the machine's effects are carried out with; it decides nothing.
  const now = useRef({ page, routine, shown, callsFor })
  useLayoutEffect(() => {
    now.current = { page, routine, shown, callsFor }
  })
  /** The version that was chosen when the floor was entered: steps that name none are danced in it. */
  const [chosen] = useState(() => useView.getState().option)
  /** Which sound is the latest: what an older one still tells is not heard. */
  const sounding = useRef(0)

  const carry = useRef((_: FloorEffect) => {})
  const tell = useCallback(
    (event: Timeless) => {
      const next = step(store.getState(), { ...event, now: Date.now() } as FloorEvent)
      store.setState(next.state, true)
      for (const effect of next.effects) carry.current(effect)
    },
    [store],
  )

  const play = useCallback(
    (plan: DrillPlan, from: Ticks | null) => {
      const mine = ++sounding.current
      const words = now.current.callsFor(plan)
      /** A repetition as the dance is at this moment. */
      const lay = (speed: Ratio, begin: Ticks | null) => {
        const at = now.current
        const range = rangeOf(plan, at.routine)
        const cues = ofPass(cuesIn(at.shown, range), plan.pass).map((c) => c.at)
        const { times, placed } = at.page
        const laid = drillTimeline(
          { times, placed, ...range, from: begin ?? range.from, cues, ...at.callsFor(plan) },
          speed,
          plan.countIn,
        )
        return plan.songLeads ? { ...laid, songLeads: true } : laid
      }
      player.learnVoices(words.voices ?? [])
      if (words.leadWords.length) player.learn(words.leadWords)
      if (words.words.size) {
        const range = rangeOf(plan, now.current.routine)
        player.learn(
          [...words.words.values()].flatMap((c) => (c.of >= range.from && c.of < range.to ? [c.word] : [])),
        )
      }
      const first = lay(plan.speed, from)
      tell({ kind: 'began', speed: plan.speed, seconds: first.body, looped: false })
      player.mute(plan.sound)
      const performance = player.perform({
        first,
        next: () => {
          const { drill } = store.getState()
          const after = mine === sounding.current && drill ? following(drill) : null
          if (!after) return null
          const timeline = lay(after.speed, null)
          tell({ kind: 'began', speed: after.speed, seconds: timeline.body, looped: !after.countIn })
          return { timeline, countIn: after.countIn }
        },
        onLeg: (leg) => mine === sounding.current && tell({ kind: 'repetition ended', k: leg.k }),
        onEnd: () => mine === sounding.current && tell({ kind: 'all ended' }),
      })
      performance.then((sounds) => {
        // Without sound there is no drill, and nothing to mark.
        if (!sounds && mine === sounding.current) tell({ kind: 'no sound' })
      })
    },
    [player, store, tell],
  )
  const obey = (effect: FloorEffect) => {
    switch (effect.kind) {
      case 'play':
        return play(effect.plan, effect.from)
      case 'silence':
        sounding.current++
        return player.stop()
      case 'log':
        putRepetition(
          routineId,
          repetitionRow(effect.row, now.current.page, store.getState().lesson?.group),
        ).catch(() => {})
        return
      case 'log step':
        putStep(routineId, stepRow(effect.row, now.current.page, now.current.routine)).catch(() => {})
        return
      case 'view':
        // The plan says how it is seen; from behind, left is left.
        return useView.setState({
          mirrored: effect.view === 'mirrored',
          option: effect.version || chosen,
        })
    }
  }
  useLayoutEffect(() => {
    carry.current = (effect) => obey(effect)
  })

  useEffect(() => {
    tell({ kind: 'enter', lesson })
    if (!lesson) return
    // What a lesson shows is the lesson's: afterwards it is seen as before, here and at the desk.
    const { mirrored, option } = useView.getState()
    return () => {
      useView.setState({ mirrored, option })
    }
  }, [tell, lesson])
  // Leaving the floor ends the drill; what was danced is logged.
  useEffect(() => () => tell({ kind: 'leave' }), [tell])

  const counts = totalCounts(routine.phrases)
  const before = useRef(routine)
  useEffect(() => {
    if (before.current === routine) return
    before.current = routine
    tell({ kind: 'changed', end: counts * TICKS_PER_COUNT })
  }, [routine, counts, tell])

  useEffect(() => {
    /** The sound stopped, or the page was hidden: it goes on from the start of the phrase that was danced. */
    const lose = (why: string) => {
      const { drill } = store.getState()
      // What has ended, or stands still already, cannot be interrupted.
      if (!drill || !player.now()) return
      const here = player.tickNow(now.current.page)
      const { from } = rangeOf(drill.plan, now.current.routine)
      const start = here === null ? from : (phraseAt(now.current.page.placed, here)?.start ?? from)
      tell({ kind: 'lost', why, from: start > from ? start : null })
    }
    const deaf = player.onInterrupted(() =>
      lose('The sound stopped: the device changed, or this computer slept.'),
    )
    const hidden = () => {
      if (document.hidden) lose('This page was out of sight.')
    }
    document.addEventListener('visibilitychange', hidden)
    const forget = onOutputChange(() => lose('Headphones or loudspeaker changed.'))
    return () => {
      forget()
      deaf()
      document.removeEventListener('visibilitychange', hidden)
    }
  }, [player, store, tell])

  /** What is heard at this moment, for marks. */
  const heard = useCallback((): Heard | null => {
    const place = player.now()
    return place && { k: place.leg.k, into: place.into, body: place.leg.timeline.body }
  }, [player])

  return {
    state,
    tell,
    start: (plan: DrillPlan) => tell({ kind: 'start', plan, id: nanoid(12) }),
    begin: () => tell({ kind: 'begin', id: nanoid(12) }),
    mark: (mark: 'clean' | 'shaky' | 'missed') => tell({ kind: 'mark', mark, heard: heard() }),
    slip: (tick: Ticks) => tell({ kind: 'slip', tick, heard: heard() }),
  }
}

export type FloorStation = ReturnType<typeof useFloor>
