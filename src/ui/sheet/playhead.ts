'use client'

import { type RefObject, useEffect, useEffectEvent } from 'react'
import { glide } from '@/core/drill'
import { phraseAt } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
import type { Page } from '../state/page'
import { usePlayer, usePlayerState } from '../state/player'

/** Pictures move by themselves for so long, and are looked after this often. */
const AHEAD_MS = 1500
const LOOK_MS = 200
/** Further off than this, a picture is set right; below, the eye sees nothing and the audio clock's own steps lie. */
const OFF_MS = 25

/**
 * Calls back with the position again and again while something plays, and once with null when it stops.
 * @param tell may return after how many milliseconds it wants to be called next
 * @param every milliseconds between two calls where it does not say
 */
export function useMoments(page: Page, tell: (tick: number | null) => unknown, every = 50): void {
  const player = usePlayer()
  const playing = usePlayerState((s) => s.playing)
  const latest = useEffectEvent(tell)
  useEffect(() => {
    if (!playing) {
      latest(null)
      return
    }
    let timer: ReturnType<typeof setTimeout>
    const step = () => {
      const next = latest(player.tickNow(page))
      timer = setTimeout(step, typeof next === 'number' ? next : every)
    }
    step()
    return () => clearTimeout(timer)
  }, [playing, player, page, every])
}

/**
 * Moves a picture with the music while something plays. The browser moves it on its own, off the main thread, along what
 * is known of the next second and a half; it is set right when the sound goes elsewhere.
 * @param at transform of the picture at a tick; null where it has no place
 */
export function useGlide(
  page: Page,
  picture: RefObject<HTMLElement | null>,
  at: (tick: number) => string | null,
): void {
  const player = usePlayer()
  const playing = usePlayerState((s) => s.playing)
  const latest = useEffectEvent(at)
  useEffect(() => {
    if (!playing || page.times.length < 2) return
    let moving: Animation | null = null
    // When the picture last set off, where from, how fast, and for how long.
    let set = { when: 0, song: 0, speed: 1, ms: 0 }
    let timer: ReturnType<typeof setTimeout>
    const look = () => {
      timer = setTimeout(look, LOOK_MS)
      const place = player.now()
      const element = picture.current
      if (!place || !element) return
      const { timeline } = place.leg
      const into = Math.max(0, place.into)
      const song = timeline.songStart + into * timeline.speed
      const left = (timeline.body - into) * 1000 - Math.min(0, place.into) * 1000
      const now = performance.now()
      const expected = set.song + ((now - set.when) / 1000) * set.speed
      const right = moving && set.speed === timeline.speed && Math.abs(expected - song) * 1000 < OFF_MS
      // Looked after again just after a repetition ends: it may begin anew elsewhere.
      if (left < LOOK_MS) {
        clearTimeout(timer)
        timer = setTimeout(look, Math.max(8, left + 4))
      }
      if (right && now - set.when < set.ms - 2 * LOOK_MS) return
      const ms = place.into < 0 ? LOOK_MS : AHEAD_MS
      const points = glide(page.times, song, place.into < 0 ? 1e-6 : timeline.speed, ms / 1000)
      const frames = points.flatMap((p) => {
        // Twice at each count: a row that ends there is left at its end, and the next entered at its beginning.
        const [before, after] = [latest(p.tick - 1e-4), latest(p.tick)]
        const offset = p.in / (ms / 1000)
        return [before ?? after, after ?? before].flatMap((transform) =>
          transform === null ? [] : [{ transform, offset: Math.min(1, Math.max(0, offset)) }],
        )
      })
      if (!frames.length) return
      const next = element.animate(frames, { duration: ms, fill: 'forwards' })
      moving?.cancel()
      moving = next
      set = { when: now, song, speed: timeline.speed, ms }
    }
    look()
    return () => {
      clearTimeout(timer)
      moving?.cancel()
    }
  }, [playing, player, page, picture])
}

/** Where a tick stands on the sheet: its row and its share of the row's full width. */
export function placeOnSheet(
  page: Page,
  tick: number,
  columns: number,
): { row: number; share: number } | null {
  const at = phraseAt(page.lines, tick)
  if (!at) return null
  return { row: at.row, share: (tick - at.start) / TICKS_PER_COUNT / columns }
}
