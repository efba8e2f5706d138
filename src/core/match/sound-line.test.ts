import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { SoundLine } from './sound-line'

const RATE = 1000
/** What is heard of pieces: each of so many samples of its own number. */
function laid(...pieces: [at: number, samples: number][]): number[] {
  const out: number[] = []
  const line = new SoundLine((samples) => out.push(...samples), RATE)
  for (const [i, [at, n]] of pieces.entries()) line.lay({ at, samples: new Float32Array(n).fill(i + 1) })
  return out
}
const of = (...parts: [value: number, samples: number][]) =>
  parts.flatMap(([value, n]) => Array.from({ length: n }, () => value))

describe('pieces of sound', () => {
  it('that follow one another are heard as they come', () => {
    expect(laid([0, 20], [0.02, 30])).toEqual(of([1, 20], [2, 30]))
  })
  it('leave silence where there is a hole, or where they begin later', () => {
    expect(laid([0.05, 20], [0.1, 10])).toEqual(of([0, 50], [1, 20], [0, 30], [2, 10]))
  })
  it('are not heard before the beginning', () => {
    expect(laid([-0.05, 70])).toEqual(of([1, 20]))
    expect(laid([-0.05, 30], [-0.02, 30])).toEqual(of([2, 10]))
  })
  it('are not heard over what came', () => {
    expect(laid([0, 50], [0.03, 40])).toEqual(of([1, 50], [2, 20]))
    expect(laid([0, 50], [0.01, 20], [0.05, 5])).toEqual(of([1, 50], [3, 5]))
  })
  it('a clock’s grain moves nothing', () => {
    expect(laid([0, 20], [0.0295, 10], [0.029, 10])).toEqual(of([1, 20], [2, 10], [3, 10]))
  })
  it('each lies where its time says, within that grain', () => {
    const gaps = fc.array(fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 1, max: 60 })), {
      maxLength: 20,
    })
    fc.assert(
      fc.property(gaps, (list) => {
        let at = 0
        const pieces = list.map(([gap, n]): [number, number] => {
          const begin = at + gap / RATE
          at = begin + n / RATE
          return [begin, n]
        })
        const heard = laid(...pieces)
        // Grains do not add up to more than a hole.
        for (const [i, [begin]] of pieces.entries())
          expect(Math.abs(heard.indexOf(i + 1) - begin * RATE)).toBeLessThanOrEqual(10.01)
      }),
    )
  })
})
