'use client'

import { nanoid } from 'nanoid'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import {
  clapListener,
  type DrillPlan,
  deviceDelay,
  drillTimeline,
  LEAST_CALIBRATION,
  LEAST_CLAP,
  type MatchedTap,
  matchTaps,
  rangeOf,
  timingOf,
  worstCues,
} from '@/core/drill'
import { cuesIn, cutText, labelIn, phraseAt, placePhrases, type Routine, stretchName } from '@/core/routine'
import { timeOfTick } from '@/core/time'
import { said as reason } from '../../parts/said'
import { useShown } from '../../state/choreo'
import { sincePress } from '../../state/keys'
import type { Page } from '../../state/page'
import { usePlayer } from '../../state/player'
import { putTiming } from '../../state/saved'
import { keepDelay, keptDelay, type Way } from './delays'
import { songTime } from './rows'

/** Calibration: 16 clicks, 100 a minute. */
const CLICKS = Array.from({ length: 24 }, (_, k) => k * 0.6)
/** Quieter than the loudest of its own clicks by so much, nothing is taken for a clap. */
const LOUDER = 1.6
/** A loudspeaker is as late each time: clicks that come in less evenly than this, in ms, are other sounds. */
const OWN_SPREAD = 20
/** Fewer taps than this are no result worth keeping. */
const LEAST_KEPT = 4

/** A number spread like a bell around 0, with a standard deviation of 1 (Box & Muller 1958). */
const bell = () => Math.sqrt(-2 * Math.log(1 - Math.random())) * Math.cos(2 * Math.PI * Math.random())

export type TimingMode = 'still' | 'opening' | 'tapping' | 'calibrating'

/** The timing trainer: what is tapped or clapped beside the cues, and the delay of the device. */
export function useTiming(page: Page, routine: Routine, plan: DrillPlan, id: string, first: Way) {
  const player = usePlayer()
  const all = useShown(routine)
  const [mode, setMode] = useState<TimingMode>('still')
  const [way, setWay] = useState<Way>(first)
  const [rounds, setRounds] = useState<MatchedTap[][]>([])
  const [delay, setDelay] = useState(() => keptDelay(first))
  const [said, setSaid] = useState('')
  const [claps, setClaps] = useState(0)
  const [dancer, setDancer] = useState({ on: false, error: 60, spread: 25 })
  const { from, to } = rangeOf(plan, routine)
  const cues = useMemo(() => [...new Set(cuesIn(all, { from, to }).map((c) => c.at))], [all, from, to])
  const times = useMemo(
    () => cues.map((c) => (timeOfTick(page.times, c) - timeOfTick(page.times, from)) / plan.speed),
    [cues, page.times, from, plan.speed],
  )
  const labels = cues.map((c) => {
    const at = phraseAt(page.placed, c)
    return at ? labelIn(at, c) : ''
  })
  const round = useRef<number[]>([])
  const calibration = useRef<{ taps: number[]; level: number; own: boolean } | null>(null)
  /** Everything matched since it began, and whether a person did it. */
  const session = useRef<{ matched: MatchedTap[]; person: boolean; by: Way }>({
    matched: [],
    person: true,
    by: 'tap',
  })
  const closeMicrophone = useRef<(() => void) | null>(null)
  /** Counts what was begun and stopped: what was stopped while the browser asked for the microphone does not begin. */
  const asked = useRef(0)

  const choose = (next: Way) => {
    setWay(next)
    setDelay(keptDelay(next))
    setSaid('')
  }
  const finish = useCallback(() => {
    const window = Math.min(0.25, (times[1] ?? 1) - (times[0] ?? 0) || 0.25)
    const { matched } = matchTaps(times, round.current, Math.max(0.12, window * 0.6))
    round.current = []
    if (!matched.length) return
    session.current.matched.push(...matched)
    setRounds((r) => [...r.slice(-9), matched])
  }, [times])

  /** Puts what was measured into the log, once. */
  const keep = useCallback(() => {
    const { matched, person, by } = session.current
    session.current.matched = []
    if (matched.length < LEAST_KEPT || !person) return
    const { n, mean, spread } = timingOf(matched.map((m) => m.ms))
    const [worst] = worstCues(matched, labels)
    const tenth = (x: number) => Math.round(x * 10) / 10
    putTiming(id, {
      id: nanoid(),
      doneAt: Date.now(),
      from: songTime(page, plan.stretch.from),
      to: songTime(page, plan.stretch.to),
      label: cutText(stretchName(page.placed, plan.stretch), 300),
      speed: plan.speed,
      by,
      n,
      mean: tenth(mean),
      spread: tenth(spread),
      worst: worst?.label ?? '',
      worstMs: tenth(worst?.ms ?? 0),
    }).catch(() => {})
  }, [page, plan, labels, id])
  const keepLatest = useRef(keep)
  keepLatest.current = keep

  const stop = useCallback(() => {
    asked.current++
    closeMicrophone.current?.()
    closeMicrophone.current = null
    player.stop()
    calibration.current = null
    finish()
    keepLatest.current()
    setMode('still')
  }, [player, finish])

  /** Opens the microphone where claps are wanted. @returns false, with the reason said, where there is none */
  const open = async (least: number, heard: (at: number, level: number) => void): Promise<boolean> => {
    setMode('opening')
    setClaps(0)
    let listen: ReturnType<typeof clapListener> | null = null
    const mine = ++asked.current
    try {
      const close = await player.listen(
        (block, rate, at) => {
          listen ??= clapListener(rate, least)
          for (const clap of listen(block, at)) {
            setClaps((n) => n + 1)
            heard(clap.at, clap.level)
          }
        },
        () => {
          stop()
          setSaid('The microphone is gone. Plug it in again, then begin.')
        },
      )
      if (mine !== asked.current) {
        close()
        return false
      }
      closeMicrophone.current = close
      return true
    } catch (error) {
      if (mine === asked.current) {
        setSaid(reason(error))
        setMode('still')
      }
      return false
    }
  }

  const begin = async () => {
    setRounds([])
    setSaid('')
    round.current = []
    session.current = { matched: [], person: !dancer.on, by: way }
    const { ms, least } = keptDelay(way)
    const late = (at: number) => {
      const place = player.placeAt(at)
      if (place) round.current.push(place.into - ms / 1000)
    }
    if (way === 'clap' && !(await open(least, late))) return
    setMode('tapping')
    const lay = () =>
      drillTimeline({ times: page.times, placed: page.placed, from, to, cues }, plan.speed, plan.countIn)
    player.mute(plan.sound)
    perform({
      first: lay(),
      next: () => ({ timeline: lay(), countIn: true }),
      onLeg: finish,
      onEnd: stop,
    })
  }
  /** Without sound there is nothing to tap on. */
  const perform = async (what: Parameters<typeof player.perform>[0]) => {
    if (await player.perform(what)) return
    stop()
    setSaid(player.state.getState().problem)
  }

  /** @param own the loudspeaker's clicks are what the microphone is to hear */
  const calibrate = async (own: boolean) => {
    const taken = { taps: [] as number[], level: 0, own }
    const late = (at: number, level: number) => {
      const place = player.placeAt(at)
      if (!place) return
      taken.taps.push(place.into)
      taken.level = Math.max(taken.level, level)
    }
    setSaid('')
    if (way === 'clap' && !(await open(own ? LEAST_CLAP / 4 : LEAST_CLAP, late))) return
    calibration.current = taken
    setMode('calibrating')
    const placed = placePhrases({
      phrases: [{ length: 24, feel: 'straight', pickUp: false }],
      sections: [],
      usual: 8,
    })
    player.mute('counts')
    perform({
      first: drillTimeline({ times: CLICKS, placed, from: 0, to: 16 * 24, cues: [], wordsOnly: true }, 1, 4),
      next: () => null,
      onEnd: () => {
        measured(taken)
        stop()
      },
    })
  }
  const measured = ({ taps, level, own }: { taps: number[]; level: number; own: boolean }) => {
    const found = deviceDelay(CLICKS.slice(0, 16), taps)
    if (!found)
      return setSaid(
        own
          ? 'The microphone does not hear the clicks: turn them up, or wear headphones and clap along instead. The delay stays as it was.'
          : `At least ${LEAST_CALIBRATION} even ${way}s are needed. The delay stays as it was.`,
      )
    if (own && (found.ms < 0 || found.spread > OWN_SPREAD))
      return setSaid(
        `What the microphone heard did not come with the clicks (± ${Math.round(found.spread)} ms): is something else sounding? The delay stays as it was.`,
      )
    const kept = { ms: Math.round(found.ms), least: own ? Math.max(LEAST_CLAP, LOUDER * level) : LEAST_CLAP }
    keepDelay(way, kept)
    setDelay(kept)
    const who = way === 'tap' ? 'This device and your hand are' : 'Loudspeaker and microphone are'
    setSaid(`${who} ${kept.ms} ms late (± ${Math.round(found.spread)}). It is taken away from now on.`)
  }

  const tap = useCallback(
    (press: { timeStamp: number }) => {
      const place = player.now(sincePress(press))
      if (!place || way !== 'tap') return
      if (mode === 'calibrating') calibration.current?.taps.push(place.into)
      else if (mode === 'tapping') round.current.push(place.into - delay.ms / 1000)
    },
    [player, mode, way, delay],
  )

  // The simulated dancer taps by its set error and spread.
  useEffect(() => {
    if (mode !== 'tapping' || !dancer.on) return
    session.current.person = false
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

  // Leaving in any way lets go of the sound and the microphone, and keeps what was measured.
  const stopLatest = useRef(stop)
  stopLatest.current = stop
  useEffect(() => () => stopLatest.current(), [])
  useEffect(() => {
    if (mode === 'still') return
    const hidden = () => {
      if (!document.hidden) return
      stop()
      setSaid('This page was out of sight: it stopped. What was measured until then is kept.')
    }
    document.addEventListener('visibilitychange', hidden)
    return () => document.removeEventListener('visibilitychange', hidden)
  }, [mode, stop])
  return {
    ...{ mode, way, choose, rounds, delay: delay.ms, said, claps, dancer, setDancer },
    ...{ labels, begin, calibrate, stop, tap, canBegin: cues.length > 0 },
  }
}
