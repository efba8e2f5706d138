import type { Ratio } from '../time'
import { findTakes, type Take, WINDOW_FRAMES } from './match'
import { BANDS, CHROMA_RATE, TRACE_RATE, type Trace } from './trace'
import { windowFinder } from './windows'

/** So much faster or slower a copy may be. */
const FASTEST = 0.04
/** Speeds are told apart by so much: over a window that is a hundredth of a second. */
const STEP = 0.0025
/** Windows that are looked up at each speed. */
const WINDOWS = 5
/** A copy at its own speed has so much of the recording, or of the song where that is shorter. */
const ENOUGH = 0.5
/** Windows of a copy at the right speed are so alike on the average. */
const ALIKE = 0.4

/** A trace as it would be were the recording so many times as long. */
export function stretchedTrace({ frames, data, chroma }: Trace, by: Ratio): Trace {
  const rows = (from: Float32Array, width: number, count: number): Float32Array => {
    const out = new Float32Array(count * width)
    const last = from.length / width - 1
    for (let f = 0; f < count; f++) {
      const x = Math.min(last, f / by)
      const [a, part] = [Math.floor(x), x - Math.floor(x)]
      const b = Math.min(last, a + 1)
      for (let k = 0; k < width; k++)
        out[f * width + k] =
          (from[a * width + k] as number) * (1 - part) + (from[b * width + k] as number) * part
    }
    return out
  }
  const count = Math.floor(frames * by)
  return {
    frames: count,
    data: rows(data, BANDS, count),
    chroma: rows(chroma, 12, Math.floor((count / TRACE_RATE) * CHROMA_RATE)),
  }
}

const covered = (takes: readonly Take[]) => takes.reduce((n, t) => n + t.to - t.from, 0)

/** Windows of a recording, spread over what is loud enough in it. */
function spread({ frames }: Trace): number[] {
  const last = frames - WINDOW_FRAMES
  return last < 0 ? [] : Array.from({ length: WINDOWS }, (_, i) => Math.round(((i + 0.5) / WINDOWS) * last))
}

/** The speed at which some windows of a recording are most alike to the song; null where they are at none. */
function speedOf(song: Trace, recording: Trace, tick: (share: number) => void): Ratio | null {
  const look = windowFinder(song, WINDOW_FRAMES)
  const steps = Math.round(FASTEST / STEP)
  let best: { rate: Ratio; like: number } | null = null
  for (let i = -steps; i <= steps; i++) {
    const rate = 1 + i * STEP
    const at = stretchedTrace(recording, rate)
    const places = spread(at)
    const like = places.reduce((n, f) => n + Math.max(0, look(at, f).peaks[0]?.like ?? 0), 0) / WINDOWS
    if (like > (best?.like ?? 0)) best = { rate, like }
    tick((i + steps + 1) / (2 * steps + 1))
  }
  return best && best.like >= ALIKE ? best.rate : null
}

/**
 * Finds where a song plays in a recording, also where that is up to 4 % faster or slower, higher or lower. Another speed is looked for
 * only where too little is found at its own.
 * @param tick called now and then with the share done; may throw to cancel
 */
export function findTakesNear(
  song: Trace,
  recording: Trace,
  tick: (share: number) => void = () => {},
): Take[] {
  const own = findTakes(song, recording, (share) => tick(share / 3))
  const wanted = (ENOUGH * Math.min(song.frames, recording.frames)) / TRACE_RATE
  if (covered(own) >= wanted) return own
  const rate = speedOf(song, recording, (share) => tick((1 + share) / 3))
  if (rate === null || rate === 1) return own
  const takes = findTakes(song, stretchedTrace(recording, rate), (share) => tick((2 + share) / 3))
  const there = takes.map((t) => ({ ...t, from: t.from / rate, to: t.to / rate, rate: t.rate * rate }))
  return covered(there) > covered(own) ? there : own
}
