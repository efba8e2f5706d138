import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CEILING, PieceLimiter } from './limiter'

const RATE = 44_100
/** A tone, louder and louder. */
const tone = (hz: number, level: (t: number) => number, seconds: number, phase = 0) =>
  Float32Array.from(
    { length: seconds * RATE },
    (_, i) => level(i / RATE) * Math.sin((2 * Math.PI * hz * i) / RATE + phase),
  )
function limited(sound: readonly Float32Array[], pieces: readonly number[]): Float32Array[] {
  const limiter = new PieceLimiter(sound.length, RATE)
  const out = sound.map(() => [] as number[])
  const take = (part: readonly Float32Array[]) => {
    for (const [k, c] of part.entries()) out[k]?.push(...c)
  }
  let at = 0
  for (const n of [...pieces, sound[0]?.length ?? 0]) {
    take(limiter.add(sound.map((c) => c.slice(at, at + n))))
    at += n
  }
  take(limiter.rest())
  return out.map((c) => Float32Array.from(c))
}
/** The highest peak, between samples too: by sixteen places a sample and 64 samples around, another way than its own. */
function truePeak(sound: Float32Array): number {
  let most = 0
  for (let i = 64; i < sound.length - 64; i++) {
    if (Math.abs(sound[i] as number) < 0.5) continue
    for (let p = 0; p < 16; p++) {
      let sum = 0
      for (let k = -32; k < 32; k++) {
        const x = k - p / 16
        const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)
        sum += (sound[i + k] as number) * sinc * (0.5 + 0.5 * Math.cos((Math.PI * x) / 33))
      }
      most = Math.max(most, Math.abs(sum))
    }
  }
  return most
}
const decibels = (x: number) => 20 * Math.log10(x)

describe('what is handed out', () => {
  it.each([
    ['low', 110, 0],
    ['whose peaks lie between samples', RATE / 4, Math.PI / 4],
    ['high', 7001, 0.3],
  ])('never lies above the ceiling, between samples either: a tone %s', (_, hz, phase) => {
    const loud = tone(hz, (t) => (t > 0.05 && t < 0.1 ? 2.5 : 0.3), 0.15, phase)
    expect(decibels(truePeak(loud))).toBeGreaterThan(7)
    const [out] = limited([loud], [1000, 333, 5])
    expect(out).toHaveLength(loud.length)
    expect(decibels(truePeak(out as Float32Array))).toBeLessThan(-0.9)
    // Where it is loud it is as loud as may be.
    expect(decibels(truePeak(out?.subarray(0.07 * RATE, 0.09 * RATE) as Float32Array))).toBeGreaterThan(-1.3)
  })

  it('is left as it was where it is under it, to the bit', () => {
    const quiet = tone(440, () => 0.8, 0.3)
    expect(limited([quiet, quiet], [77])).toEqual([quiet, quiet])
    // Before a peak and long after it, too.
    const once = tone(440, (t) => (t > 0.5 && t < 0.51 ? 1.5 : 0.4), 2)
    const [out] = limited([once], [])
    expect(out?.subarray(0, 0.49 * RATE)).toEqual(once.subarray(0, 0.49 * RATE))
    expect(out?.subarray(1.6 * RATE)).toEqual(once.subarray(1.6 * RATE))
  })

  it('comes back slowly after a peak, and all the way', () => {
    const level = (i: number) => (i > 4000 && i < 4020 ? 1.8 : 0.5)
    const steady = Float32Array.from({ length: 2 * RATE }, (_, i) => level(i))
    const [out] = limited([steady], [])
    const gain = (seconds: number) => {
      const i = 4020 + Math.round(seconds * RATE)
      return (out?.[i] ?? 0) / level(i)
    }
    const [soon, later, much] = [gain(0.02), gain(0.1), gain(0.4)]
    expect(soon).toBeLessThan(0.62)
    expect(later).toBeGreaterThan(soon + 0.05)
    expect(much).toBeGreaterThan(later + 0.05)
    expect(much).toBeLessThan(1)
    // A mean of what comes back by the same share in the same time: no faster, no slower.
    const share = (a: number, b: number) => (1 - b) / (1 - a)
    expect(share(gain(0.1), gain(0.2))).toBeCloseTo(share(gain(0.2), gain(0.3)), 2)
    expect(out?.subarray(1.6 * RATE)).toEqual(steady.subarray(1.6 * RATE))
  })

  it('gives way on both sides alike, and moves without a jump', () => {
    const left = tone(100, (t) => (t > 0.1 ? 3 : 0.2), 0.3)
    const right = left.map((x) => x / 10)
    const [a, b] = limited([left, right], [])
    a?.forEach((x, i) => {
      expect(Math.abs((b?.[i] as number) - x / 10)).toBeLessThan(1e-6)
    })
    const gains = Array.from(right, (x, i) => (Math.abs(x) > 0.005 ? (b?.[i] as number) / x : Number.NaN))
    for (const [i, g] of gains.entries()) {
      const next = gains[i + 1] as number
      if (!Number.isNaN(g) && !Number.isNaN(next)) expect(Math.abs(next - g)).toBeLessThan(0.01)
    }
  })

  it('is the same, however it comes', () => {
    const sound = tone(60, (t) => 4 * t, 0.5)
    const [whole] = limited([sound], [])
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 4000 }), { maxLength: 8 }), (pieces) => {
        const [out] = limited([sound], pieces)
        expect(out).toEqual(whole)
      }),
      { numRuns: 20 },
    )
    expect(limited([new Float32Array(0)], [])).toEqual([new Float32Array(0)])
    expect(decibels(CEILING)).toBeCloseTo(-1)
  })
})
