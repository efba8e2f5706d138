import { useEffect, useRef, useState } from 'react'
import { wordsOf } from '@/core/formats/said'
import type { PageVoice, PracticePage } from '@/core/handout'
import type { Copy } from './copy'
import { type Drill, type Heard, Player } from './drill'
import type { Kept } from './kept'

/** Keeps a phone's screen on while it plays, where the browser can. */
async function awake(): Promise<() => void> {
  const lock = await navigator.wakeLock?.request('screen').catch(() => null)
  return () => lock?.release().catch(() => {})
}

/** The page's player, and what is heard now. @param say tells what is to be known of it */
export function useDrill(page: PracticePage, voice: PageVoice | null, say: (words: string) => void) {
  const player = useRef<Player | null>(null)
  const [playing, setPlaying] = useState(false)
  const [heard, setHeard] = useState<Heard | null>(null)
  useEffect(() => {
    if (!playing) return setHeard(null)
    let frame = 0
    const look = () => {
      const now = player.current?.heard() ?? null
      setHeard((h) => (h?.tick === now?.tick && h?.countedIn === now?.countedIn ? h : now))
      frame = requestAnimationFrame(look)
    }
    look()
    let release = () => {}
    let here = true
    awake().then((r) => {
      if (here) release = r
      else r()
    })
    return () => {
      here = false
      cancelAnimationFrame(frame)
      release()
    }
  }, [playing])
  const stop = () => {
    player.current?.stop()
    setPlaying(false)
  }
  const play = async (drill: Drill, copy: Copy | null, volumes: Kept['sound']) => {
    if (!player.current) player.current = new Player(page, voice)
    player.current.onEnd = (why) => {
      setPlaying(false)
      say(why)
    }
    say('')
    setPlaying(true)
    try {
      say(await player.current.play(drill, copy, volumes))
    } catch (error) {
      player.current.stop()
      setPlaying(false)
      say(`It cannot be played: ${wordsOf(error)}`)
    }
  }
  const setVolumes = (volumes: Kept['sound'], song: boolean) => player.current?.setVolumes(volumes, song)
  return { playing, heard, play, stop, setVolumes }
}
