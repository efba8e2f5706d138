'use client'

import { useEffect, useRef, useState } from 'react'
import { type OwnCall, type SpokenWord, trimmed, wordListener } from '@/core/drill'
import { said } from '../../parts/said'
import { usePlayer } from '../../state/player'

/** Records words one after the other: each is taken as soon as it was said. */
export function useRecorder(taken: (call: OwnCall, word: SpokenWord) => void) {
  const player = usePlayer()
  const [asked, setAsked] = useState<readonly OwnCall[]>([])
  const [problem, setProblem] = useState('')
  const latest = useRef(taken)
  latest.current = taken
  const close = useRef<(() => void) | null>(null)
  const gone = useRef(false)
  const stop = () => {
    close.current?.()
    close.current = null
    setAsked([])
  }
  const start = async (calls: readonly OwnCall[]) => {
    stop()
    setProblem('')
    let left = [...calls]
    let listen: ReturnType<typeof wordListener> | null = null
    try {
      const done = await player.listen(
        (block, rate) => {
          listen ??= wordListener(rate)
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
      // The dialog may have been closed while the browser asked.
      if (gone.current) return done()
      close.current = done
      setAsked(left)
    } catch (error) {
      setProblem(said(error))
    }
  }
  useEffect(() => {
    gone.current = false
    return () => {
      gone.current = true
      close.current?.()
    }
  }, [])
  return { asked, problem, start, stop }
}
