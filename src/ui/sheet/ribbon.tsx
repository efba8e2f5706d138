'use client'

import { memo, useEffect, useMemo, useRef } from 'react'
import styled from 'styled-components'
import { barsOf, type Peaks } from '@/core/hear'
import { danceOf, type SectionBand, sectionBands } from '@/core/routine'
import { type Seconds, snapTick, tickOfTime, timeOfTick } from '@/core/time'
import { TakesOnRibbon } from '../film/takes-on-ribbon'
import { useDance } from '../state/choreo'
import { useCursor } from '../state/cursor'
import { type Page, useSong } from '../state/page'
import { desk, tintOf } from '../theme/tokens'
import { usePalette } from '../theme/use-palette'
import { doubtOf } from './doubt'
import { useMoments } from './playhead'

const Strip = styled.div`
  position: relative;
  /* The playhead's layer is as wide as the ribbon wherever it stands: beyond it there is nothing to scroll to. */
  overflow-x: clip;
  overflow-clip-margin: 4px;
  height: 46px;
  margin: 8px 20px 6px;
`

const Band = styled.div`
  position: absolute;
  top: 0;
  bottom: 0;
  border-radius: 6px;
  overflow: hidden;
  font-size: 11.5px;
  padding: 2px 6px;
  white-space: nowrap;
  text-overflow: ellipsis;
  b { margin-right: 5px; }
`

const Loud = styled.canvas`
  position: absolute;
  inset: 16px 0 2px;
  width: 100%;
  height: 28px;
  pointer-events: none;
`

const Bracket = styled.div`
  position: absolute;
  top: -3px;
  bottom: -3px;
  border: 2.5px solid ${desk.ink};
  border-radius: 7px;
  pointer-events: none;
`

/** As wide as the ribbon and moved by its own width, so that moving it lays nothing out anew. */
const Mark = styled.div`
  position: absolute;
  inset: -3px 0;
  pointer-events: none;
  will-change: transform;
  forced-color-adjust: none;
  &::before { content: ''; position: absolute; inset: 0 auto 0 -1px; width: 2.5px; background: ${desk.azalea}; border-radius: 2px; }
`

const Doubt = styled.i`
  position: absolute;
  bottom: -5px;
  width: 0;
  border: 5px solid transparent;
  border-top-width: 0;
  border-bottom: 7px solid ${desk.amber};
  forced-color-adjust: none;
`

/** Bands of sections over the loudness of the whole song; drawn alone on the shelf, with marks on the stations. */
export function Bands({
  list,
  duration,
  peaks,
}: {
  list: readonly SectionBand[]
  duration: Seconds
  peaks: Pick<Peaks, 'levels'>
}) {
  const ref = useRef<HTMLCanvasElement>(null)
  const { ink } = usePalette().desk
  useEffect(() => {
    const canvas = ref.current
    if (!canvas) return
    const draw = () => {
      const scale = window.devicePixelRatio || 1
      canvas.width = canvas.clientWidth * scale
      canvas.height = canvas.clientHeight * scale
      const pen = canvas.getContext('2d')
      if (!pen) return
      pen.fillStyle = `${ink}66`
      const bars = Math.floor(canvas.width / (3 * scale))
      barsOf(peaks, bars, (i) => (i / bars) * duration).forEach((loud, i) => {
        const h = Math.max(scale, Math.min(1, loud / 130) * canvas.height)
        pen.fillRect(i * 3 * scale, canvas.height - h, 2 * scale, h)
      })
    }
    // Drawn once it is told its size, before that is seen.
    const watch = new ResizeObserver(draw)
    watch.observe(canvas)
    return () => watch.disconnect()
  }, [peaks, duration, ink])
  const share = (t: Seconds) => `${(t / Math.max(1, duration)) * 100}%`
  return (
    <>
      {list.map((s) => {
        const tint = tintOf(s.letter || undefined)
        return (
          <Band
            key={s.from}
            title={s.name}
            style={{
              left: share(s.from),
              width: `calc(${share(s.to - s.from)} - 2px)`,
              background: tint.ground,
              color: tint.ink,
            }}
          >
            <b>{s.letter}</b>
            {s.name}
          </Band>
        )
      })}
      <Loud ref={ref} aria-hidden />
    </>
  )
}

/** The whole song at once: sections, loudness, the excerpt, where it plays; a press goes there. */
export const Ribbon = memo(function Ribbon({ page }: { page: Page }) {
  const { heard } = useSong()
  const routine = useDance()
  const mark = useRef<HTMLDivElement>(null)
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const list = useMemo(() => sectionBands(page.placed, page.times, page.duration), [page])
  const has = page.times.length > 1
  const place = (t: number) =>
    `${(Math.max(0, Math.min(page.duration, timeOfTick(page.times, t))) / Math.max(1, page.duration)) * 100}%`
  // It creeps: moved a few times a second, where moving it each frame would have the whole page put together anew.
  useMoments(
    page,
    (now) => {
      if (mark.current && has) mark.current.style.transform = `translateX(${place(now ?? tick)})`
    },
    250,
  )
  const doubts = useMemo(
    () =>
      heard && !page.renumbered
        ? page.placed.flatMap((p) => {
            const why = doubtOf(heard.hearing, p)
            return why ? [{ id: p.index, start: p.start, why }] : []
          })
        : [],
    [heard, page],
  )
  if (!heard || !has) return <Strip />
  const excerpt = danceOf(routine)
  const from = timeOfTick(page.times, excerpt.from)
  const until = timeOfTick(page.times, excerpt.to)
  return (
    <Strip
      data-testid="ribbon"
      onPointerDown={(e) => {
        const box = e.currentTarget.getBoundingClientRect()
        const t = ((e.clientX - box.left) / box.width) * page.duration
        const last = page.placed.at(-1)?.end ?? 0
        const count = Math.floor(tickOfTime(page.times, t) / 24) * 24
        to(Math.max(0, Math.min(last - 24, snapTick(count))))
      }}
    >
      <Bands list={list} duration={page.duration} peaks={heard.peaks} />
      <TakesOnRibbon duration={page.duration} />
      {doubts.map((d) => (
        <Doubt key={d.id} title={d.why} style={{ left: place(d.start) }} />
      ))}
      {routine.excerpt && (
        <Bracket style={{ left: place(excerpt.from), width: `${((until - from) / page.duration) * 100}%` }} />
      )}
      <Mark ref={mark} style={{ transform: `translateX(${place(tick)})` }} />
    </Strip>
  )
})
