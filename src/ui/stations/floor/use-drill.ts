'use client'

import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { onOutputChange } from '@/audio/devices'
import { danced } from '@/core/choreo'
import {
  type DrillPlan,
  drillTimeline,
  type Leg,
  type Mark,
  markedRepetition,
  rangeName,
  rangeOf,
  repetitionsLeft,
} from '@/core/drill'
import { cuesIn, ofLayer, phraseAt, placeName, type Routine } from '@/core/routine'
import { clampSpeed, type Ratio, type Ticks } from '@/core/time'
import { logRepetition, type RepetitionEntry } from '../../state/api'
import { useCalls } from '../../state/choreo'
import type { Page } from '../../state/page'
import { usePlayer } from '../../state/player'
import { LogQueue } from './log-queue'

/** How the drill stands. */
export interface DrillState {
  plan: DrillPlan | null
  /** A run that ended and waits for its mark. */
  ended: boolean
  marks: ReadonlyMap<number, Mark>
  /** What was marked last, for the eye. */
  said: string
  /** Why it stands still, and where it goes on; null while it does not. */
  broken: { why: string; from: Ticks } | null
}

const IDLE: DrillState = { plan: null, ended: false, marks: new Map(), said: '', broken: null }

interface DancedLeg {
  speed: Ratio
  seconds: number
  done: boolean
  /** False for what goes on in the middle after an interruption: it is no repetition, and is not logged. */
  whole: boolean
}

/** Plays drills and runs, and keeps their log. */
export function useDrill(page: Page, routine: Routine, routineId: string) {
  const player = usePlayer()
  const calls = useCalls(page)
  const [state, setState] = useState<DrillState>(IDLE)
  const [unsaved, setUnsaved] = useState('')
  const queue = useMemo(
    () =>
      new LogQueue<Omit<RepetitionEntry, 'corrects'>>(
        (entry, corrects) => logRepetition(routineId, { ...entry, corrects }),
        setUnsaved,
      ),
    [routineId],
  )
  const legs = useRef(new Map<number, DancedLeg>())
  const planned = useRef<DrillPlan | null>(null)
  const marks = useRef(new Map<number, Mark>())
  /** Repetitions danced whole since the floor was entered, over all drills. */
  const wholes = useRef(0)

  const entry = useCallback(
    (k: number, mark: Mark | 'unmarked') => {
      const plan = planned.current
      const leg = legs.current.get(k)
      const first = plan && page.placed[plan.first]
      const last = plan && page.placed[plan.last]
      if (!plan || !leg?.whole || !first || !last) return
      queue.put(k, {
        kind: plan.kind,
        firstPhrase: first.phrase.id,
        lastPhrase: last.phrase.id,
        label: `${rangeName(first, last)}${plan.toBack ? ', to the back' : ''}`,
        layer: plan.layer ?? 'all',
        speed: leg.speed,
        sound: plan.sound,
        seconds: Math.round(leg.seconds * 10) / 10,
        mark,
      })
    },
    [page, queue],
  )

  /** Logs what was danced to its end and never marked. */
  const settle = useCallback(
    (upTo: number) => {
      for (const [k, leg] of legs.current) if (k < upTo && leg.done && !queue.has(k)) entry(k, 'unmarked')
    },
    [entry, queue],
  )

  const stop = useCallback(() => {
    settle(Number.POSITIVE_INFINITY)
    player.stop()
    planned.current = null
    setState(IDLE)
  }, [player, settle])

  const start = useCallback(
    (plan: DrillPlan, again: Ticks | null = null) => {
      if (planned.current) settle(Number.POSITIVE_INFINITY)
      const mine: typeof legs.current = new Map()
      legs.current = mine
      marks.current = new Map()
      queue.begin()
      planned.current = plan
      const { from, to } = rangeOf(page, routine, plan)
      const cues = ofLayer(cuesIn(danced(routine), from, to), plan.layer).map((c) => c.at)
      const lay = (speed: Ratio, begin = from) =>
        drillTimeline(
          { times: page.times, placed: page.placed, from: begin, to, cues, ...calls },
          speed,
          plan.countIn,
        )
      if (calls.words.size)
        player.learn([...calls.words].filter(([t]) => t >= from && t < to).map(([, w]) => w))
      const note = (k: number, speed: Ratio, seconds: number) =>
        legs.current.set(k, { speed, seconds, done: false, whole: k > 0 || again === null || again === from })
      // After an interruption it goes on from a phrase's start, counted in.
      const first = lay(plan.speed, again ?? from)
      note(0, plan.speed, first.body)
      setState({ plan, ended: false, marks: new Map(), said: '', broken: null })
      player.mute(plan.sound)
      const performance = player.perform({
        first,
        next: (k) => {
          const now = planned.current
          if (!now || (now.kind === 'run' && !now.repetitions)) return null
          if (now.repetitions !== undefined && k + 1 >= now.repetitions) return null
          const timeline = lay(now.speed)
          note(k + 1, now.speed, timeline.body)
          return { timeline, countIn: now.countInEach }
        },
        onLeg: (leg: Leg) => {
          const done = legs.current.get(leg.k)
          if (done) done.done = true
          if (done?.whole) wholes.current++
          settle(leg.k)
        },
        onEnd: () => setState((s) => ({ ...s, ended: true })),
      })
      // Without sound there is no drill, and nothing to mark.
      performance.then((sounds) => {
        if (sounds || legs.current !== mine) return
        planned.current = null
        setState(IDLE)
      })
    },
    [page, routine, player, queue, settle, calls],
  )

  /** The sound stopped, or the page was hidden: it waits, and goes on from the start of the phrase that was danced. */
  const interrupt = useCallback(
    (why: string) => {
      const plan = planned.current
      // What has ended, or stands still already, cannot be interrupted.
      if (!plan || !player.now()) return
      const now = player.tickNow(page)
      settle(Number.POSITIVE_INFINITY)
      player.stop()
      const { from } = rangeOf(page, routine, plan)
      const here = now === null ? from : Math.max(from, phraseAt(page.placed, now)?.start ?? from)
      setState((s) => ({ ...s, broken: { why, from: here } }))
    },
    [page, routine, player, settle],
  )
  useEffect(() => {
    player.interrupted = () => interrupt('The sound stopped: the device changed, or this computer slept.')
    const hidden = () => {
      if (document.hidden) interrupt('This page was out of sight.')
    }
    document.addEventListener('visibilitychange', hidden)
    const forget = onOutputChange(() => interrupt('Headphones or loudspeaker changed.'))
    return () => {
      forget()
      player.interrupted = null
      document.removeEventListener('visibilitychange', hidden)
    }
  }, [player, interrupt])

  const goOn = useCallback(() => {
    const plan = planned.current
    const { broken } = state
    if (!plan || !broken) return
    const danced = [...legs.current.values()].filter((leg) => leg.done && leg.whole).length
    const whole = broken.from === rangeOf(page, routine, plan).from
    const repetitions = repetitionsLeft(plan.repetitions, danced, whole)
    start({ ...plan, ...(repetitions === undefined ? {} : { repetitions }) }, broken.from)
  }, [state, start, page, routine])

  const mark = useCallback(
    (m: Mark) => {
      const place = player.now()
      const k = place
        ? markedRepetition(place.leg.k, place.into, place.leg.timeline.body)
        : ([...legs.current].findLast(([, leg]) => leg.done)?.[0] ?? null)
      if (!planned.current) return
      if (k === null || !legs.current.has(k))
        return setState((s) => ({ ...s, said: 'Nothing danced yet to mark' }))
      if (!legs.current.get(k)?.whole)
        return setState((s) => ({ ...s, said: 'That was a part only; mark the next whole one' }))
      marks.current.set(k, m)
      entry(k, m)
      setState((s) => ({
        ...s,
        marks: new Map(marks.current),
        said: s.plan?.kind === 'run' ? `Run: ${m}` : `Repetition ${k + 1}: ${m}`,
      }))
    },
    [player, entry],
  )

  /** After a run: phrases in which something went wrong, each logged by itself; marked again, the last one counts. */
  const markPhrase = useCallback(
    (index: number, m: Mark) => {
      const p = page.placed[index]
      if (!p || planned.current?.kind !== 'run') return
      // Numbers beyond any repetition's, so that both are kept.
      queue.put(1_000_000 + index, {
        kind: 'run',
        firstPhrase: p.phrase.id,
        lastPhrase: p.phrase.id,
        label: placeName(p),
        layer: 'all',
        speed: planned.current.speed,
        sound: planned.current.sound,
        // Its time is in the run's own row.
        seconds: 0,
        mark: m,
      })
    },
    [page, queue],
  )

  /** Changes the speed from the next repetition on. */
  const faster = useCallback((by: number) => {
    const plan = planned.current
    if (!plan || plan.kind === 'run') return
    planned.current = { ...plan, speed: clampSpeed(plan.speed + by) }
    const next = planned.current
    setState((s) => ({ ...s, plan: next }))
  }, [])

  /** One repetition more, or a speed of its own, from the next repetition on. */
  const change = useCallback((what: Partial<Pick<DrillPlan, 'speed' | 'repetitions'>>) => {
    if (!planned.current) return
    planned.current = { ...planned.current, ...what }
    const next = planned.current
    setState((s) => ({ ...s, plan: next }))
  }, [])

  // Leaving the floor ends the drill; what was danced is logged.
  useEffect(
    () => () => {
      if (planned.current) settle(Number.POSITIVE_INFINITY)
      planned.current = null
    },
    [settle],
  )

  return { state, start, stop, mark, markPhrase, faster, change, goOn, unsaved, wholes }
}
