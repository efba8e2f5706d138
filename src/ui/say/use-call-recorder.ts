'use client'

import { nanoid } from 'nanoid'
import { useEffect, useEffectEvent, useRef, useState } from 'react'
import { callsIn, collected, drillTimeline, HEARD_AFTER, HEARD_BEFORE, type SpokenWord } from '@/core/drill'
import { said } from '@/core/formats/said'
import { LONGEST_RECORDING, type VoicePiece } from '@/core/routine'
import { type Ratio, type Seconds, type Stretch, timeOfTick } from '@/core/time'
import type { Page } from '../state/page'
import { usePlayer } from '../state/player'

/** A recording that is not kept yet. */
export interface Draft {
  recording: string
  sound: SpokenWord
  pieces: VoicePiece[]
}

/** Counts counted in before it is spoken. */
const COUNT_IN = 4

/** Records what is said over a stretch while it is played, and cuts it into pieces. */
export function useCallRecorder(page: Page, stretch: Stretch) {
  const player = usePlayer()
  const [state, setState] = useState<'idle' | 'opening' | 'recording'>('idle')
  const [draft, setDraft] = useState<Draft | null>(null)
  const [problem, setProblem] = useState('')
  const close = useRef<(() => void) | null>(null)
  /** Counts what was begun and stopped: what was stopped while the browser asked does not begin. */
  const turn = useRef(0)
  const letGo = () => {
    turn.current++
    close.current?.()
    close.current = null
  }
  const stop = () => {
    const busy = close.current !== null || state !== 'idle'
    letGo()
    if (busy) player.stop()
    setState('idle')
  }
  const failed = (why: string) => {
    letGo()
    player.stop()
    setState('idle')
    setProblem(why)
  }

  const start = async (speed: Ratio) => {
    stop()
    setProblem('')
    const seconds = (timeOfTick(page.times, stretch.to) - timeOfTick(page.times, stretch.from)) / speed
    if (seconds > LONGEST_RECORDING)
      return setProblem(
        `These counts last ${Math.round(seconds)} s so; ${LONGEST_RECORDING} s are recorded at once.`,
      )
    setState('opening')
    const mine = turn.current
    const blocks: { at: Seconds; block: Float32Array }[] = []
    /** The audio clock's time of the first count, once it is known. */
    let origin: Seconds | null = null
    const take = (block: Float32Array, rate: number, at: Seconds) => {
      if (mine !== turn.current) return
      const place = player.placeAt(at)
      if (origin === null && place) origin = at - place.into
      if (origin === null) return
      const [from, to] = [origin - HEARD_BEFORE, origin + seconds + HEARD_AFTER]
      if (at + block.length / rate >= from) blocks.push({ at, block })
      if (at + block.length / rate < to) return
      letGo()
      const sound = collected(blocks, rate, from, to)
      const pieces = callsIn(sound, stretch, speed, page.times)
      setState('idle')
      if (!pieces.length)
        return setProblem('Nothing was heard. Is the microphone the right one, and near enough?')
      setDraft({ recording: nanoid(), sound, pieces })
    }
    try {
      const done = await player.listen(take, () =>
        failed('The microphone is gone. Plug it in again, then record.'),
      )
      if (mine !== turn.current) return done()
      close.current = done
      const timeline = drillTimeline(
        { times: page.times, placed: page.placed, ...stretch, cues: [], words: new Map(), wordsOnly: true },
        speed,
        COUNT_IN,
      )
      player.mute('both')
      const sounds = await player.perform({ first: timeline, next: () => null })
      if (mine !== turn.current) return
      if (!sounds) return failed(player.state.getState().problem || 'There is no sound to speak to.')
      setState('recording')
    } catch (error) {
      if (mine === turn.current) failed(said(error))
    }
  }

  const leave = useEffectEvent(stop)
  useEffect(() => () => leave(), [])
  return { state, draft, problem, start, stop, forget: () => setDraft(null) }
}
