'use client'

import { useEffect, useEffectEvent, useState } from 'react'
import { refused } from '@/audio/microphone'
import { mustLoad } from '../../state/devices'
import { type Filmed, Reel } from './reel'

/** Enough to see a wrist; a minute is about 11 MB. */
const BITS = 1_500_000
/** A repetition broken off earlier than this share of it is no replay of the phrase. */
const WHOLE = 0.8

/**
 * The camera, open while it is wanted.
 * @param still nothing is danced that loading the page would break off
 * @param load loads the page anew, where it may not ask for a camera as it is
 */
export function useCamera(
  wanted: boolean,
  still: boolean,
  load: () => void,
): { stream: MediaStream | null; problem: string } {
  const [stream, setStream] = useState<MediaStream | null>(null)
  const [problem, setProblem] = useState('')
  const latest = useEffectEvent(load)
  const [must, setMust] = useState(false)
  useEffect(() => setMust(wanted && mustLoad('camera')), [wanted])
  useEffect(() => {
    if (must && still) latest()
  }, [must, still])
  useEffect(() => {
    if (!wanted || mustLoad('camera')) return
    let mine: MediaStream | null = null
    let here = true
    const close = () => {
      for (const track of mine?.getTracks() ?? []) track.stop()
    }
    const ask = navigator.mediaDevices?.getUserMedia?.({
      video: { width: { ideal: 960 }, height: { ideal: 720 }, facingMode: 'user' },
    })
    if (!ask) setProblem('This browser has no way to a camera here. Open Azalea by localhost or https.')
    ask?.then(
      (s) => {
        mine = s
        if (!here) return close()
        s.getVideoTracks()[0]?.addEventListener('ended', () => {
          setStream(null)
          setProblem('The camera is gone.')
        })
        setStream(s)
      },
      (e: unknown) => here && setProblem(refused(e, 'camera')),
    )
    return () => {
      here = false
      close()
      setStream(null)
      setProblem('')
    }
  }, [wanted])
  return { stream, problem: must ? 'The camera opens as soon as this is over.' : problem }
}

/**
 * Films each repetition from its first count to its last.
 * @param key which repetition is being danced; null in a count-in and while nothing is
 * @param about what is danced, how long a whole one takes, and the time of the song that is heard now
 * @returns false where this browser cannot film
 */
export function useFilming(
  stream: MediaStream | null,
  key: string | null,
  about: { label: string; speed: number; seconds: number; songNow: () => number | null },
  taken: (filmed: Filmed) => void,
): boolean {
  const [can, setCan] = useState(true)
  const aboutNow = useEffectEvent(() => about)
  const take = useEffectEvent(taken)
  useEffect(() => {
    if (!stream || key === null) return
    const recorder = recorderOf(stream)
    if (!recorder) return setCan(false)
    const { label, speed, seconds, songNow } = aboutNow()
    let at: number | null = null
    recorder.onstart = () => {
      at = songNow()
    }
    const parts: Blob[] = []
    const begun = performance.now()
    let took = 0
    recorder.ondataavailable = (e) => parts.push(e.data)
    recorder.onstop = () => {
      if (took < WHOLE * seconds) return
      const film = new Blob(parts, { type: recorder.mimeType.split(';')[0] ?? 'video/webm' })
      if (film.size) take({ film, url: URL.createObjectURL(film), label, speed, key, at })
    }
    recorder.start()
    return () => {
      took = (performance.now() - begun) / 1000
      if (recorder.state !== 'inactive') recorder.stop()
    }
  }, [stream, key])
  return can
}

/** What films a stream; null where this browser cannot. */
function recorderOf(stream: MediaStream): MediaRecorder | null {
  try {
    return new MediaRecorder(stream, { videoBitsPerSecond: BITS })
  } catch {
    return null
  }
}

/** The last repetition that was filmed; the one before is forgotten, and all are when the floor is left. */
export function useFilmed(): { filmed: Filmed | null; keep: (filmed: Filmed) => void; forget: () => void } {
  const [filmed, setFilmed] = useState<Filmed | null>(null)
  const [reel] = useState(() => new Reel(setFilmed))
  useEffect(() => {
    reel.open()
    return () => reel.close()
  }, [reel])
  return { filmed, keep: reel.keep, forget: reel.forget }
}
