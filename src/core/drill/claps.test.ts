import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { clapListener } from './claps'

const RATE = 44_100

/** The same numbers for the same seed (mulberry32). */
function noise(seed: number) {
  let a = seed
  return () => {
    a = (a + 0x6d2b79f5) | 0
    let t = Math.imul(a ^ (a >>> 15), 1 | a)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 31 - 1
  }
}

/** Claps as bursts of noise that fade within 20 ms, over a tone and a little noise. */
function room(seconds: number, at: readonly number[], tone = 0.1, hiss = 0.002): Float32Array {
  const next = noise(7)
  const out = new Float32Array(seconds * RATE)
  for (let i = 0; i < out.length; i++)
    out[i] = tone * Math.sin((2 * Math.PI * 220 * i) / RATE) + hiss * next()
  for (const t of at) {
    const first = Math.round(t * RATE)
    for (let i = 0; i < 0.06 * RATE; i++)
      out[first + i] = (out[first + i] ?? 0) + 0.5 * next() * Math.exp(-i / (0.02 * RATE))
  }
  return out
}

function heard(sound: Float32Array, size: number, from = 0) {
  const listen = clapListener(RATE)
  const claps = []
  for (let i = 0; i < sound.length; i += size)
    claps.push(...listen(sound.subarray(i, i + size), from + i / RATE))
  return claps
}

describe('claps', () => {
  it('are each heard once, within a millisecond, whatever the size of the blocks', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.2, max: 0.9, noNaN: true }), { minLength: 1, maxLength: 8 }),
        fc.integer({ min: 64, max: 4096 }),
        fc.double({ min: 0, max: 100, noNaN: true }),
        (gaps, size, from) => {
          let t = 0.3
          const at = gaps.map((g) => (t += g))
          const claps = heard(room(t + 0.5, at), size, from)
          expect(claps).toHaveLength(at.length)
          for (const [i, c] of claps.entries())
            expect(Math.abs(c.at - from - (at[i] as number))).toBeLessThan(0.001)
        },
      ),
      { numRuns: 25 },
    )
  })

  it('are not heard in silence, in steady noise, in a tone, nor where a tone swells', () => {
    expect(heard(new Float32Array(2 * RATE), 1024)).toEqual([])
    expect(heard(room(2, [], 0.3, 0.02).subarray(RATE / 2), 1024)).toEqual([])
    const swell = Float32Array.from(
      { length: 2 * RATE },
      (_, i) => Math.sin((2 * Math.PI * 440 * i) / RATE) * 0.5 * Math.min(1, i / RATE),
    )
    expect(heard(swell, 1024)).toEqual([])
  })

  it('quieter than asked for are left out', () => {
    const listen = clapListener(RATE, 2)
    expect(listen(room(1, [0.5]), 0)).toEqual([])
  })
})
