/* What a stretch of music plays in eight pulses, all of them laid on each other: so that two stretches can be compared wherever they lie. */
import type { Line, Seconds } from '../time'
import { GROUPS, type Onsets } from './onsets'
import { FRAME_RATE } from './spectrum'

/** A bar of four beats at two pulses a beat. */
const PULSES = 8
/** Parts a pulse is looked at in. */
const PARTS = 24
const ALL = PULSES * PARTS
const PULSE = PARTS * GROUPS

/** Strength of strokes by the part of eight pulses they fall in and their band, without its mean. */
export interface Folded {
  pulses: number
  /** Part by part, GROUPS bands each. */
  strokes: Float32Array
}

/** Strokes by the parts of the pulses of a line, from one pulse up to before another. */
function partsOf(o: Onsets, line: Line, first: number, last: number): Float32Array {
  const many = (last - first) * PARTS
  const out = new Float32Array((many + 1) * GROUPS)
  const frameOf = (pulse: number) => Math.round((line.start + pulse * line.period) * FRAME_RATE)
  for (let f = Math.max(0, frameOf(first)); f < Math.min(o.frames, frameOf(last)); f++) {
    const x = ((f / FRAME_RATE - line.start) / line.period - first) * PARTS
    const part = Math.floor(x)
    if (part < 0 || part >= many) continue
    for (let g = 0; g < GROUPS; g++) {
      const strength = Math.sqrt(Math.max(0, o.groups[f * GROUPS + g] as number))
      const [here, next] = [part * GROUPS + g, (part + 1) * GROUPS + g]
      out[here] = (out[here] as number) + strength * (1 - (x - part))
      out[next] = (out[next] as number) + strength * (x - part)
    }
  }
  return out.subarray(0, many * GROUPS)
}

/** Eight pulses, softened, without the mean of each band. @param sums of all that was laid on each other */
function foldedFrom(sums: Float32Array): Folded {
  const size = sums.length
  const strokes = new Float32Array(size)
  for (let i = 0; i < size; i++) {
    const before = sums[i < GROUPS ? i + size - GROUPS : i - GROUPS] as number
    const after = sums[i + GROUPS < size ? i + GROUPS : i + GROUPS - size] as number
    strokes[i] = 0.25 * before + 0.5 * (sums[i] as number) + 0.25 * after
  }
  const means = new Float32Array(GROUPS)
  for (let i = 0; i < size; i += GROUPS)
    for (let g = 0; g < GROUPS; g++) means[g] = (means[g] as number) + (strokes[i + g] as number) / ALL
  for (let i = 0; i < size; i += GROUPS)
    for (let g = 0; g < GROUPS; g++) strokes[i + g] = (strokes[i + g] as number) - (means[g] as number)
  return { pulses: PULSES, strokes }
}

/** Lays on each other all pulses of a line in a stretch; pulse 0 of the line comes first. */
export function foldPulses(o: Onsets, line: Line, from: Seconds, to: Seconds): Folded {
  const [first, last] = [pulseFrom(line, from), pulseFrom(line, to)]
  const sums = new Float32Array(ALL * GROUPS)
  addParts(sums, partsOf(o, line, first, last), first, 1)
  return foldedFrom(sums)
}

/** The first pulse of a line at a time or after it. */
const pulseFrom = (line: Line, t: Seconds) => Math.ceil((t - line.start) / line.period)

/** Adds parts to what they are laid on. @param first pulse they begin with; @param sign 1, or -1 to take them away */
function addParts(sums: Float32Array, parts: Float32Array, first: number, sign: number): void {
  const from = (((first % PULSES) + PULSES) % PULSES) * PULSE
  for (let i = 0, at = from; i < parts.length; i++) {
    sums[at] = (sums[at] as number) + sign * (parts[i] as number)
    if (++at === sums.length) at = 0
  }
}

/** How like the later of two is to the earlier, the later laid so many pulses earlier: in parts of a pulse, once round. */
export function likenessAfter(before: Folded, after: Folded): { by: number; like: number }[] {
  return likenesses(before, after, GROUPS)
}

function likenesses(before: Folded, after: Folded, step: number): { by: number; like: number }[] {
  const [a, b] = [before.strokes, after.strokes]
  const scale = Math.sqrt(power(a) * power(b))
  return Array.from({ length: a.length / step }, (_, k) => {
    const round = b.length - k * step
    let dot = 0
    for (let i = 0; i < round; i++) dot += (a[i] as number) * (b[i + k * step] as number)
    for (let i = round; i < a.length; i++) dot += (a[i] as number) * (b[i - round] as number)
    return { by: (k * step) / PULSE, like: dot / scale }
  })
}

function power(xs: Float32Array): number {
  let sum = 1e-9
  for (let i = 0; i < xs.length; i++) sum += (xs[i] as number) ** 2
  return sum
}

/** How like a stretch before a pulse and one after it are as they lie, and at best some whole pulses elsewhere. */
export interface Beside {
  at: Seconds
  here: number
  elsewhere: number
  /** How strongly the weaker side is played. */
  strength: number
}

/**
 * Compares what is before and after each pulse of a line in a stretch.
 * @param reach how much before and after, in seconds
 */
export function compareAlong(o: Onsets, line: Line, from: Seconds, to: Seconds, reach: Seconds): Beside[] {
  const [first, last] = [pulseFrom(line, from), pulseFrom(line, to)]
  const many = PULSES * Math.max(1, Math.round(reach / line.period / PULSES))
  if (last - first < 2 * many) return []
  const parts = partsOf(o, line, first, last)
  const pulse = (k: number) => parts.subarray((k - first) * PULSE, (k - first + 1) * PULSE)
  const [before, after] = [new Float32Array(ALL * GROUPS), new Float32Array(ALL * GROUPS)]
  for (let k = first; k < first + many; k++) {
    addParts(before, pulse(k), k, 1)
    addParts(after, pulse(k + many), k + many, 1)
  }
  const out: Beside[] = []
  for (let k = first + many; k <= last - many; k++) {
    const [a, b] = [foldedFrom(before), foldedFrom(after)]
    const [here, ...others] = likenesses(a, b, PULSE).map((x) => x.like)
    out.push({
      ...{ at: line.start + k * line.period, here: here as number, elsewhere: Math.max(...others) },
      strength: Math.min(power(a.strokes), power(b.strokes)),
    })
    if (k === last - many) break
    addParts(before, pulse(k), k, 1)
    addParts(before, pulse(k - many), k - many, -1)
    addParts(after, pulse(k + many), k + many, 1)
    addParts(after, pulse(k), k, -1)
  }
  return out
}

/**
 * The pulse up to which the music is like what was before it, and from which on it is like what comes after.
 * @param reach what is before and after is told from so much
 * @param searched how far from a time it is looked for
 */
export function seamInPulses(o: Onsets, line: Line, t: Seconds, reach: Seconds, searched: Seconds): Seconds {
  const before = foldPulses(o, line, t - reach, t - searched)
  const after = foldPulses(o, line, t + searched, t + reach)
  const [first, last] = [pulseFrom(line, t - searched), pulseFrom(line, t + searched)]
  const parts = partsOf(o, line, first, last)
  const scales = [Math.sqrt(power(before.strokes)), Math.sqrt(power(after.strokes))] as const
  const gains = Array.from({ length: last - first }, (_, i) => {
    const from = ((((first + i) % PULSES) + PULSES) % PULSES) * PULSE
    let [past, next] = [0, 0]
    for (let k = 0; k < PULSE; k++) {
      const x = parts[i * PULSE + k] as number
      past += x * (before.strokes[from + k] as number)
      next += x * (after.strokes[from + k] as number)
    }
    return past / scales[0] - next / scales[1]
  })
  let [sum, top, best] = [0, 0, 0]
  gains.forEach((gain, i) => {
    sum += gain
    if (sum > top) [top, best] = [sum, i + 1]
  })
  return line.start + (first + best) * line.period
}
