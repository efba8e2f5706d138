import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ruleOf } from '../../../src/core/hear/rule'
import { dataOf, learned, pull, scores, tableOf } from './learn'
import { reliability, shares, toldOf } from './report'
import type { Trial } from './trials'

/** Songs of four ways each, of which the one with the largest product of both features is right: no line tells it. */
function crossed(n: number): Trial[] {
  let x = 1
  const random = () => {
    x = (x * 16_807) % 2_147_483_647
    return (2 * x) / 2_147_483_647 - 1
  }
  return Array.from({ length: n }, (_, i) => {
    const ways = [0, 1, 2, 3].map(() => [random(), random()] as const)
    const products = ways.map(([a, b]) => a * b)
    const best = products.indexOf(Math.max(...products))
    return {
      id: `${i}`,
      base: `${i}`,
      source: i % 2 ? 'odd' : 'even',
      family: 'crossed',
      tempo: 120,
      bar: 4,
      done: [],
      names: ['a', 'b'],
      ways: ways.map((features, k) => ({ bpm: 120, bar: 4, right: k === best, features: [...features] })),
    }
  })
}

const table = tableOf(crossed(300), () => 1)
const all = table.trials.map((_, i) => i)
const net = { units: 8, decay: 0.0001, drop: 0, parts: 1, steps: 400, rate: 0.03 }
const rightShare = (score: Float64Array) =>
  all.filter((i) => {
    const t = toldOf(table, i, score)
    return t.right[t.scores.indexOf(Math.max(...t.scores))]
  }).length / all.length

describe('learning which way is right', () => {
  it('pulls scores the way that lowers the loss, as small steps show', () => {
    const small = tableOf(crossed(3), (t) => (t.id === '1' ? 0.5 : 1))
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 12, maxLength: 12 }),
        fc.integer({ min: 0, max: 11 }),
        (xs, i) => {
          const at = (d: number) =>
            pull(
              small,
              Float64Array.from(xs, (x, k) => x + (k === i ? d : 0)),
            )
          const slope = (at(1e-5).loss - at(-1e-5).loss) / 2e-5
          expect(at(0).g[i]).toBeCloseTo(-slope, 6)
        },
      ),
    )
  })
  it('with hidden units finds what no line can', () => {
    const line = rightShare(scores(table, learned(table, { ...net, units: 0 })))
    const bent = rightShare(scores(table, learned(table, net)))
    expect(line).toBeLessThan(0.5)
    expect(bent).toBeGreaterThan(0.8)
  })
  it('as well by a third of the trials at a time', () => {
    expect(rightShare(scores(table, learned(table, { ...net, parts: 3 })))).toBeGreaterThan(0.8)
  })
  it('is the same every time, and the same as data', () => {
    const some = { ...net, parts: 4, steps: 40 }
    const [one, two] = [learned(table, some), learned(table, some)]
    expect(two).toEqual(one)
    const rule = ruleOf(dataOf(table.names, one, 1))
    const score = scores(table, one)
    table.trials.slice(0, 20).forEach((t, i) => {
      t.ways.forEach((w, k) => {
        const named = { a: w.features[0] as number, b: w.features[1] as number }
        expect(rule.score(named)).toBeCloseTo(score[(table.first[i] as number) + k] as number, 1)
      })
    })
  })
  it('lets versions of a song weigh one together, and refuses trials of other features', () => {
    const twice = crossed(2).map((t) => ({ ...t, base: 'same' }))
    expect([...tableOf(twice, () => 1).weight]).toEqual([0.5, 0.5])
    const [a, b] = crossed(2) as [Trial, Trial]
    expect(() => tableOf([a, { ...b, names: ['a', 'c'] }], () => 1)).toThrow('other features')
  })
})

describe('how sure a rule may be', () => {
  it('shares add up to one, sharper the more they are multiplied', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -9, max: 9, noNaN: true }), { minLength: 2, maxLength: 9 }),
        (xs) => {
          expect(shares(xs, 0.7).reduce((a, b) => a + b)).toBeCloseTo(1, 9)
          expect(Math.max(...shares(xs, 2))).toBeGreaterThanOrEqual(Math.max(...shares(xs, 1)) - 1e-12)
        },
      ),
    )
  })
  it('is told bin by bin: a rule that is always sure and half the time right is out by a half', () => {
    const told = crossed(40).map((trial, i) => ({
      trial,
      weight: 1,
      scores: [50, 0],
      right: i % 2 ? [true, false] : [false, true],
    }))
    const text = reliability(told, 1)
    expect(text).toContain('right 0.500 of 40')
    expect(text).toContain('called 0.95 to 1: 20 of 40 right')
    expect(text).toContain('expected calibration error 0.500')
  })
})
