import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import learned from './level-rule.json' with { type: 'json' }
import { type RuleData, ruleOf } from './rule'

const feature = (name: string, direct: number, hidden = '') => ({
  name,
  mean: 2,
  deviation: 4,
  direct,
  hidden,
})
const rule: RuleData = {
  features: [feature('a', 3, '500 -1000'), feature('b', -1, '250 0')],
  units: [
    { bias: 0.1, out: 2 },
    { bias: -0.2, out: -0.5 },
  ],
  sharpness: 1,
}

describe('a rule', () => {
  it('adds up what is direct and what passes its hidden units', () => {
    const { score } = ruleOf(rule)
    const [a, b] = [1, -0.5]
    const byHand = 3 * a - b + 2 * Math.tanh(0.1 + 0.5 * a + 0.25 * b) - 0.5 * Math.tanh(-0.2 - a)
    expect(score({ a: 2 + 4 * a, b: 2 + 4 * b, c: 99 })).toBeCloseTo(byHand, 12)
  })
  it('counts nothing as further than four deviations, and what is no number not at all', () => {
    const { score } = ruleOf({ features: [feature('a', 1)], units: [], sharpness: 1 })
    fc.assert(
      fc.property(fc.double({ noNaN: true }), (a) => {
        expect(Math.abs(score({ a }))).toBeLessThanOrEqual(4)
      }),
    )
    expect(score({ a: 1e9 })).toBe(4)
    expect(score({ a: Number.NaN })).toBe(0)
  })
  it('refuses a way without one of its features, by the feature’s name', () => {
    expect(() => ruleOf(rule).score({ a: 1 })).toThrow('“b”')
  })
  it('refuses data in which weights are missing', () => {
    expect(() => ruleOf({ ...rule, features: [feature('a', 1, '500')] })).toThrow(
      '“a” has 1 weights for 2 units',
    )
  })
  it('that is learned is whole: no name twice, no number missing', () => {
    expect(new Set(learned.features.map((f) => f.name)).size).toBe(learned.features.length)
    for (const f of learned.features) {
      expect(f.deviation).toBeGreaterThan(0)
      expect(Number.isFinite(f.mean) && Number.isFinite(f.direct)).toBe(true)
    }
    expect(
      Number.isFinite(ruleOf(learned).score(Object.fromEntries(learned.features.map((f) => [f.name, 1])))),
    ).toBe(true)
  })
})
