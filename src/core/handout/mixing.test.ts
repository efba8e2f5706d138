import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Mixing } from './mixing'

describe('mixing', () => {
  it('taken out bit by bit it is the sum of all, wherever it is cut', () => {
    const sound = fc.record({
      at: fc.integer({ min: 0, max: 60 }),
      left: fc.array(fc.integer({ min: -50, max: 50 }), { maxLength: 40 }),
    })
    fc.assert(
      fc.property(fc.array(sound, { maxLength: 8 }), (unsorted) => {
        const sounds = [...unsorted].sort((a, b) => a.at - b.at)
        const whole = [new Array(120).fill(0), new Array(120).fill(0)] as [number[], number[]]
        const mixing = new Mixing(2)
        const out: [number[], number[]] = [[], []]
        const take = (until: number) => {
          for (const [k, c] of mixing.take(until).entries()) out[k as 0 | 1].push(...c)
        }
        for (const { at, left } of sounds) {
          take(at)
          mixing.add(at, [Float32Array.from(left), Float32Array.from(left, (x) => -2 * x)])
          left.forEach((x, i) => {
            whole[0][at + i] = (whole[0][at + i] as number) + x
            whole[1][at + i] = (whole[1][at + i] as number) - 2 * x
          })
        }
        take(120)
        // A sum of −2 × 0 is −0.
        expect(out.map((c) => c.map((x) => x + 0))).toEqual(whole.map((c) => c.map((x) => x + 0)))
      }),
    )
  })

  it('adds one channel to both, and nothing to what is gone', () => {
    const mixing = new Mixing(2)
    mixing.add(2, [Float32Array.of(1, 2)])
    expect(mixing.take(3)).toEqual([Float32Array.of(0, 0, 1), Float32Array.of(0, 0, 1)])
    expect(() => mixing.add(2, [Float32Array.of(1)])).toThrow('before')
    expect(mixing.take(5)).toEqual([Float32Array.of(2, 0), Float32Array.of(2, 0)])
    expect(mixing.take(4)).toEqual([new Float32Array(0), new Float32Array(0)])
  })
})
