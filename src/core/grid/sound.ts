import { onsetOf } from '../hear'
import { lastAtOrBefore, median, type Seconds } from '../time'

/** Onset curve of a song as it is stored: one byte per frame. */
export interface OnsetCurve {
  frameRate: number
  onset: Uint8Array
}

/** Strength between frames, square-rooted so that one loud stroke is not many; 0 outside. */
function strengthAt({ onset, frameRate }: OnsetCurve, t: Seconds): number {
  const x = t * frameRate
  const i = Math.floor(x)
  const a = onset[i]
  const b = onset[i + 1]
  if (a === undefined || b === undefined) return 0
  return Math.sqrt(onsetOf(a)) * (1 - (x - i)) + Math.sqrt(onsetOf(b)) * (x - i)
}

/** How far a whole grid is moved at most to meet the sound. */
const FURTHEST: Seconds = 0.12
const STEP: Seconds = 0.002

/**
 * How much later the whole grid should lie for the song's strokes to fall on it: the shift, up to 120 ms or a fifth of a
 * beat, that gathers most onset strength.
 */
export function shiftToSound(curve: OnsetCurve, beats: readonly Seconds[]): Seconds {
  if (beats.length < 2) return 0
  const period = median(beats.slice(1).map((t, i) => t - (beats[i] as number)))
  const most = Math.min(FURTHEST, period / 5)
  const n = Math.floor(most / STEP)
  const raw = Array.from({ length: 2 * n + 1 }, (_, i) => {
    const by = (i - n) * STEP
    return beats.reduce((sum, t) => sum + strengthAt(curve, t + by), 0)
  })
  // The centre of what is gathered within 12 ms, so that a broad stroke is met in its middle.
  const soft = raw.map((_, i) => raw.slice(Math.max(0, i - 3), i + 4).reduce((a, b) => a + b, 0))
  const best = soft.indexOf(Math.max(...soft))
  return soft[best] === 0 ? 0 : (best - n) * STEP
}

/** Beats looked back on for where the next one is expected. */
const MEMORY = 8
/** A stroke is looked for this far from where the beat is expected, as a share of the period. */
const WINDOW = 0.14

/** Where the strongest stroke near an expected beat lies, and how strong it is. */
function stroke(curve: OnsetCurve, expected: Seconds, period: Seconds): { t: Seconds; w: number } {
  let best = { t: expected, w: 0 }
  const reach = WINDOW * period
  for (let t = expected - reach; t <= expected + reach; t += 0.005) {
    const near = 1 - 0.7 * ((t - expected) / reach) ** 2
    const w = strengthAt(curve, t) * near
    if (w > best.w) best = { t, w }
  }
  return best
}

/**
 * Re-fits beats to the sound outward from one that is right: each next beat is expected where the last eight lead, and
 * drawn to the stroke found there. Every beat keeps its number.
 * @param anchor index of a beat that lies right
 */
export function followSound(curve: OnsetCurve, beats: readonly Seconds[], anchor: number): Seconds[] {
  const out = [...beats]
  const at = Math.max(0, Math.min(beats.length - 1, anchor))
  for (const way of [1, -1] as const) {
    const trail: Seconds[] = [beats[at] as number]
    let period = Math.abs((beats[at + way] ?? beats[at - way] ?? 0) - (beats[at] as number))
    for (let k = at + way; k >= 0 && k < beats.length; k += way) {
      const from = trail.at(-1) as number
      const expected = from + way * period
      const { t, w } = stroke(curve, expected, period)
      // The clearer the stroke, the more it is believed.
      const pull = 0.6 * (w / (w + 0.8))
      const next = expected + pull * (t - expected)
      trail.push(next)
      out[k] = next
      if (trail.length > 3) {
        const recent = trail.slice(-MEMORY)
        const mean = Math.abs((recent.at(-1) as number) - (recent[0] as number)) / (recent.length - 1)
        period += 0.35 * (mean - period)
      }
    }
  }
  return out
}

/** How far the strokes of each phrase lie from the counts, in milliseconds; later strokes are positive. */
export interface Offset {
  /** Median, or null where fewer than three strokes lie near counts. */
  ms: number | null
  /** Half of them lie within this of the median. */
  spread: number
}

/** A stroke further than this from a count does not speak about it. */
const NEAR: Seconds = 0.07

/** How far the stroke near each beat lies from it, in milliseconds; NaN where none is near. */
export function strokeOffsets(curve: OnsetCurve, beats: readonly Seconds[]): Float32Array {
  return Float32Array.from(beats, (t) => {
    let best = 0
    let at = 0
    for (let by = -NEAR; by <= NEAR + 1e-9; by += 0.0025) {
      const w = strengthAt(curve, t + by)
      if (w > best) {
        best = w
        at = by
      }
    }
    return best > 0.5 && Math.abs(at) < NEAR - 0.003 ? 1000 * at : Number.NaN
  })
}

/**
 * For each phrase, how far strokes lie from its counts, so that a drift is seen before it is heard.
 * @param strokes of `strokeOffsets`, one a beat
 * @param starts times at which the phrases begin, ascending
 */
export function offsets(
  strokes: Float32Array,
  beats: readonly Seconds[],
  starts: readonly Seconds[],
): Offset[] {
  const list = starts.map((): number[] => [])
  beats.forEach((t, i) => {
    const ms = strokes[i] as number
    if (!Number.isNaN(ms)) list[Math.max(0, lastAtOrBefore(starts, t + 0.02))]?.push(ms)
  })
  return list.map((ms) => {
    if (ms.length < 3) return { ms: null, spread: 0 }
    const mid = median(ms)
    return { ms: mid, spread: median(ms.map((x) => Math.abs(x - mid))) }
  })
}
