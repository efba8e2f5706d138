import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Spot } from '../routine'
import {
  arranged,
  exchangedSpots,
  mirroredSpots,
  nearestSpots,
  SHAPES,
  snapped,
  spreadSpots,
  turnedSpots,
} from './arrange'

const round = (n: number) => Math.round(n * 1000) / 1000 + 0

describe('shapes', () => {
  const some = (n: number) => Array.from({ length: n }, (_, i) => ({ x: i * 0.3, y: 2 + (i % 3) }))
  it.each(SHAPES)('%s keeps the middle, and nobody nearer than a metre', (shape) => {
    for (const n of [1, 2, 3, 4, 5, 6, 7, 8, 9, 12, 16, 17, 31, 60]) {
      const before = some(n)
      const after = arranged(before, shape)
      const mean = (l: readonly Spot[], k: 'x' | 'y') => l.reduce((s, p) => s + p[k], 0) / l.length
      expect(mean(after, 'x')).toBeCloseTo(mean(before, 'x'), 9)
      expect(mean(after, 'y')).toBeCloseTo(mean(before, 'y'), 9)
      for (const [i, p] of after.entries())
        for (const q of after.slice(i + 1)) expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeGreaterThanOrEqual(1)
    }
  })
  it('windows has those behind in the gaps of those in front', () => {
    const nine = arranged(some(9), 'windows')
    const front = nine.slice(0, 5).map((s) => s.x)
    for (const s of nine.slice(5)) for (const x of front) expect(Math.abs(s.x - x)).toBeGreaterThan(0.5)
  })
  it('are given out so that no two straight ways cross, and all together are no longer than before', () => {
    const spot = fc.record({ x: fc.integer({ min: -50, max: 50 }), y: fc.integer({ min: 0, max: 80 }) })
    const crosses = (a: Spot, b: Spot, c: Spot, d: Spot) => {
      const side = (p: Spot, q: Spot, r: Spot) =>
        Math.sign((q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x))
      return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0
    }
    fc.assert(
      fc.property(fc.array(fc.tuple(spot, spot), { minLength: 1, maxLength: 12 }), (pairs) => {
        const from = pairs.map(([a]) => a)
        const to = pairs.map(([, b]) => b)
        const given = nearestSpots(from, to)
        const all = (l: readonly Spot[]) =>
          l.reduce((s, p, i) => s + Math.hypot(p.x - (from[i] as Spot).x, p.y - (from[i] as Spot).y), 0)
        expect(all(given)).toBeLessThanOrEqual(all(to) + 1e-9)
        const sorted = (l: readonly Spot[]) => l.map((p) => `${p.x} ${p.y}`).sort()
        expect(sorted(given)).toEqual(sorted(to))
        for (const [i, a] of from.entries())
          for (let j = i + 1; j < from.length; j++)
            expect(crosses(a, given[i] as Spot, from[j] as Spot, given[j] as Spot)).toBe(false)
      }),
    )
  })
  it('come back when they are mirrored, turned and exchanged as often as it takes', () => {
    const list = some(5)
    const close = (a: readonly Spot[]) => a.map((s) => [round(s.x), round(s.y)])
    expect(close(mirroredSpots(mirroredSpots(list)))).toEqual(close(list))
    expect(close([1, 2, 3, 4, 5, 6, 7, 8].reduce((l) => turnedSpots(l, 1), list as Spot[]))).toEqual(
      close(list),
    )
    expect(close(spreadSpots(spreadSpots(list, 2), 0.5))).toEqual(close(list))
    expect(close([1, 2, 3, 4, 5].reduce((l) => exchangedSpots(l), list as Spot[]))).toEqual(close(list))
    expect(snapped({ x: 1.26, y: 0.74 })).toEqual({ x: 1.5, y: 0.5 })
  })
})
