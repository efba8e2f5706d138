import { useEffect, useRef, useState } from 'react'
import type { PageVoice, PracticePage } from '@/core/handout'
import type { Copy } from './copy'
import { type Drill, type Heard, Player } from './drill'
import type { Kept } from './kept'

/** Keeps a phone's screen on while it plays, where the browser can. */
async function awake(): Promise<() => void> {
  const lock = await navigator.wakeLock?.request('screen').catch(() => null)
  return () => lock?.release().catch(() => {})
}

/** The page's player: what is heard now, and what is to be known of it. */
export function useDrill(page: PracticePage, voice: PageVoice | null) {
  const player = useRef<Player | null>(null)
  const [playing, setPlaying] = useState(false)
  const [heard, setHeard] = useState<Heard | null>(null)
  const [said, setSaid] = useState('')
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
    player.current ??= new Player(page, voice)
    player.current.onEnd = (why) => {
      setPlaying(false)
      setSaid(why)
    }
    setSaid('')
    setPlaying(true)
    try {
      setSaid(await player.current.play(drill, copy, volumes))
    } catch (error) {
      player.current.stop()
      setPlaying(false)
      setSaid(`It cannot be played: ${error instanceof Error ? error.message : String(error)}`)
    }
  }
  const setVolumes = (volumes: Kept['sound'], song: boolean) => player.current?.setVolumes(volumes, song)
  return { playing, heard, said, setSaid, play, stop, setVolumes }
}
