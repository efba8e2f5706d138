'use client'

import { type KeyboardEvent, type PointerEvent, type RefObject, useRef } from 'react'
import styled from 'styled-components'
import { takeAt } from '@/core/film'
import type { Film } from '@/core/routine'
import { clockText, type Seconds } from '@/core/time'
import { desk } from '../theme/tokens'

const Line = styled.div`
  position: relative;
  height: 30px;
  border-radius: 8px;
  background: ${desk.line};
  cursor: pointer;
  touch-action: none;
  overflow: hidden;
  > b {
    position: absolute; top: 0; bottom: 0; padding: 6px 4px 0 6px; overflow: hidden; border-radius: 4px;
    background: ${desk.azaleaSoft}; color: ${desk.ink}; box-shadow: inset 0 0 0 1.5px ${desk.azalea};
    font-size: 12px; font-weight: 600; white-space: nowrap;
  }
  > b[data-by='hand'] { box-shadow: inset 0 0 0 1.5px ${desk.ink}; }
  > i { position: absolute; top: 0; bottom: 0; left: 0; width: 2px; margin-left: -1px; background: ${desk.azalea}; }
`

/** A second, and five, as keys go. */
const [STEP, LEAP]: [Seconds, Seconds] = [1, 5]

interface Props {
  film: Film
  /** The mark on the picture that is seen; who shows the picture moves it. */
  head: RefObject<HTMLElement | null>
  /** The picture that is seen. */
  now: () => Seconds
  look: (at: Seconds) => void
}

/** A film from end to end, its takes on it: pressed or drawn along, a picture of it is looked at. */
export function FilmLine({ film, head, now, look }: Props) {
  const line = useRef<HTMLDivElement>(null)
  const share = (s: Seconds) => `${(100 * s) / film.seconds}%`
  const point = (e: PointerEvent) => {
    const box = line.current?.getBoundingClientRect()
    if (!box || !(e.buttons & 1)) return
    look(Math.max(0, Math.min(film.seconds, ((e.clientX - box.left) / box.width) * film.seconds)))
  }
  const key = (e: KeyboardEvent) => {
    const by = keySteps(e, film.frameRate)
    if (by === null) return
    e.preventDefault()
    e.stopPropagation()
    look(Math.max(0, Math.min(film.seconds, by === 'first' ? 0 : by === 'last' ? film.seconds : now() + by)))
  }
  return (
    <Line
      ref={line}
      role="slider"
      tabIndex={0}
      aria-label="Pictures of the film: arrows go from one to the next, with shift by a second"
      aria-valuemin={0}
      aria-valuemax={Math.round(film.seconds)}
      aria-valuenow={0}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId)
        point(e)
      }}
      onPointerMove={point}
      onKeyDown={key}
      onFocus={(e) => speak(e.currentTarget, film, now())}
      onKeyUp={(e) => speak(e.currentTarget, film, now())}
    >
      {film.takes.map((t) => (
        <b key={t.from} data-by={t.by} style={{ left: share(t.from), width: share(t.to - t.from) }}>
          {Math.round(100 * t.rate)} %
        </b>
      ))}
      <i ref={head} />
    </Line>
  )
}

/** What is said of a picture: drawn by hand, a slider is only heard where it says itself what it is at. */
function speak(line: HTMLElement, film: Film, at: Seconds): void {
  const take = takeAt(film, at)
  line.setAttribute('aria-valuenow', String(Math.round(at)))
  line.setAttribute(
    'aria-valuetext',
    `${clockText(at, true)}, ${take ? `danced at ${Math.round(100 * take.rate)} %` : 'no take'}`,
  )
}

/** Where a key goes in a film, in seconds; null where it goes nowhere. */
function keySteps(e: KeyboardEvent, frameRate: number): Seconds | 'first' | 'last' | null {
  const frame = e.shiftKey ? STEP : 1 / frameRate
  switch (e.key) {
    case 'ArrowLeft':
      return -frame
    case 'ArrowRight':
      return frame
    case 'PageUp':
      return -LEAP
    case 'PageDown':
      return LEAP
    case 'Home':
      return 'first'
    case 'End':
      return 'last'
    default:
      return null
  }
}
