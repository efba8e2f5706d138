'use client'

import { useLayoutEffect, useRef } from 'react'
import { barsOf, type Peaks } from '@/core/hear'
import { type Seconds, TICKS_PER_COUNT, timeOfTick } from '@/core/time'
import { colourValue, usePalette } from '../theme/use-palette'

interface Props {
  peaks: Peaks
  times: readonly Seconds[]
  /** First tick and number of counts drawn, and how many counts the full width stands for. */
  from: number
  counts: number
  columns: number
  height: number
  colour: string
}

const BAR = 3

/** The sound of one phrase, warped so that every count is equally wide. */
export function Wave({ peaks, times, from, counts, columns, height, colour }: Props) {
  const ref = useRef<HTMLCanvasElement>(null)
  const shown = colourValue(colour, usePalette())
  useLayoutEffect(() => {
    const canvas = ref.current
    if (!canvas) return
    const draw = () => {
      const pen = sizedPen(canvas, height)
      if (!pen || times.length < 2) return
      pen.fillStyle = shown
      pen.beginPath()
      const bars = Math.floor((canvas.clientWidth * counts) / columns / BAR)
      const at = (i: number) => timeOfTick(times, from + (i / bars) * counts * TICKS_PER_COUNT)
      barsOf(peaks, bars, at).forEach((loud, i) => {
        const tall = Math.max(1.5, Math.min(1, loud / 150) * height)
        pen.rect(i * BAR, (height - tall) / 2, BAR - 1, tall)
      })
      pen.fill()
    }
    // It is told its size once the page was laid out, before that is seen: asked for here, the page would be laid out for each wave.
    const watch = new ResizeObserver(draw)
    watch.observe(canvas)
    return () => watch.disconnect()
  }, [peaks, times, from, counts, columns, height, shown])
  return <canvas ref={ref} style={{ width: '100%', height, display: 'block' }} aria-hidden />
}

/** What draws on a canvas as wide as it lies on the page, cleared; null where it has no width. */
function sizedPen(canvas: HTMLCanvasElement, height: number): CanvasRenderingContext2D | null {
  const width = canvas.clientWidth
  if (!width) return null
  const scale = window.devicePixelRatio || 1
  const [w, h] = [Math.round(width * scale), Math.round(height * scale)]
  // A canvas that is given a size is laid out anew, even if it is the same.
  if (canvas.width !== w) canvas.width = w
  if (canvas.height !== h) canvas.height = h
  const pen = canvas.getContext('2d')
  pen?.setTransform(scale, 0, 0, scale, 0, 0)
  pen?.clearRect(0, 0, width, height)
  return pen
}
