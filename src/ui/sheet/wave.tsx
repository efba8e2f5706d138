'use client'

import { useEffect, useRef } from 'react'
import type { Peaks } from '@/core/hear'
import { type Seconds, TICKS_PER_COUNT, timeOfTick } from '@/core/time'

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
  useEffect(() => {
    const canvas = ref.current
    if (!canvas) return
    const draw = () => {
      const width = canvas.clientWidth
      const scale = window.devicePixelRatio || 1
      canvas.width = Math.round(width * scale)
      canvas.height = Math.round(height * scale)
      const pen = canvas.getContext('2d')
      if (!pen || times.length < 2) return
      pen.scale(scale, scale)
      pen.fillStyle = colour
      const frames = peaks.peak.length
      const bars = Math.floor((width * counts) / columns / BAR)
      const frame = (x: number) =>
        Math.floor(timeOfTick(times, from + (x / bars) * counts * TICKS_PER_COUNT) * 100)
      let next = frame(0)
      for (let i = 0; i < bars; i++) {
        const a = next
        next = frame(i + 1)
        const b = Math.max(a + 1, next)
        let loud = 0
        for (let f = Math.max(0, a); f < b && f < frames; f++)
          loud = Math.max(loud, ((peaks.peak[f] ?? 0) + (peaks.loudness[f] ?? 0)) / 2)
        const h = Math.max(1.5, Math.min(1, loud / 150) * height)
        pen.fillRect(i * BAR, (height - h) / 2, BAR - 1, h)
      }
    }
    draw()
    const watch = new ResizeObserver(draw)
    watch.observe(canvas)
    return () => watch.disconnect()
  }, [peaks, times, from, counts, columns, height, colour])
  return <canvas ref={ref} style={{ width: '100%', height, display: 'block' }} aria-hidden />
}
