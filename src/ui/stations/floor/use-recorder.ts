'use client'

import { useEffect, useEffectEvent, useRef, useState } from 'react'
import { type OwnCall, type SpokenWord, trimmed, wordListener } from '@/core/drill'
import { said } from '@/core/formats/said'
import { usePlayer } from '../../state/player'

/** Records words one after the other: each is taken as soon as it was said. */
export function useRecorder(taken: (call: OwnCall, word: SpokenWord) => void) {
  const player = usePlayer()
  const [asked, setAsked] = useState<readonly OwnCall[]>([])
  const [problem, setProblem] = useState('')
  const latest = useRef(taken)
  useEffect(() => {
    latest.current = taken
  })
  const close = useRef<(() => void) | null>(null)
  const [opening, setOpening] = useState(false)
  /** Counts what was begun and stopped: what was stopped while the browser asked does not begin. */
  const turn = useRef(0)
  const letGo = () => {
    turn.current++
    close.current?.()
    close.current = null
  }
  const stop = () => {
    letGo()
    setOpening(false)
    setAsked([])
  }
  const start = async (calls: readonly OwnCall[]) => {
    stop()
    setProblem('')
    setOpening(true)
    const mine = turn.current
    let left = [...calls]
    let listen: ReturnType<typeof wordListener> | null = null
    try {
      const done = await player.listen(
        (block, rate) => {
          if (!listen) listen = wordListener(rate)
          const word = listen(block)
          const call = left[0]
          if (!word || !call) return
          latest.current(call, trimmed(word))
          left = left.slice(1)
          if (left.length) setAsked(left)
          else stop()
        },
        () => {
          stop()
          setProblem('The microphone is gone. Plug it in again, then record.')
        },
      )
      if (mine !== turn.current) return done()
      close.current = done
      setOpening(false)
      setAsked(left)
    } catch (error) {
      if (mine !== turn.current) return
      stop()
      setProblem(said(error))
    }
  }
  const leave = useEffectEvent(letGo)
  useEffect(() => () => leave(), [])
  return { asked, opening, problem, start, stop }
}
