import { loopHere } from '@/core/station'
import { bound } from '../keys/table'
import { useCalls, useStarts } from '../state/choreo'
import { useCursor } from '../state/cursor'
import { useKeys } from '../state/keys'
import type { Page } from '../state/page'
import { usePlayer, usePlayerState } from '../state/player'
import { useView } from '../state/view'

/** What playing is told to do, by buttons and by keys. @param can there is something to play */
export function useTransport(page: Page, can: boolean) {
  const player = usePlayer()
  const playing = usePlayerState((s) => s.playing)
  const speed = usePlayerState((s) => s.speed)
  const starts = useStarts()
  const calls = useCalls(page)
  const flip = useView((s) => s.flip)
  const tick = useCursor((s) => s.tick)
  const setLoop = useCursor((s) => s.setLoop)
  const play = (from: number) => player.playFrom(page, from, starts, useCursor.getState().loop, calls)
  /** What is marked, or else the row at the cursor, again and again; pressed again, not any more. */
  const again = (reach: boolean) => {
    setLoop(loopHere(useCursor.getState(), page.placed, reach))
    const now = playing ? player.tickNow(page) : null
    if (now !== null) play(Math.max(0, Math.round(now)))
  }
  const toggle = () => {
    if (!playing) return can && play(tick)
    player.pause(page)
  }
  const faster = (by: number) => player.setSpeed(speed + by)
  useKeys(
    bound({
      play: toggle,
      playHere: () => can && play(tick),
      slower: () => faster(-0.05),
      faster: () => faster(0.05),
      loop: () => again(false),
      loopMore: () => again(true),
      mirrored: flip,
    }),
  )
  return { toggle, again, faster }
}
