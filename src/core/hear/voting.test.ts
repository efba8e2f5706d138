import { describe, expect, it } from 'vitest'
import { backbeat, curves, every, harmony } from './curves.test-tools'
import { barFeatures, likenessFeatures, tempoFeatures } from './voting'

const none = { counted: () => 0, later: () => 0, threes: () => 0 }

describe('what is known of a way to count beside its strokes', () => {
  it('its tempo, bent at knots: nothing below a knot, octaves above it', () => {
    const slow = tempoFeatures(60, 4)
    expect(slow['tempo over 60']).toBe(0)
    expect(tempoFeatures(120, 2)['tempo over 60']).toBeCloseTo(1, 9)
    expect(tempoFeatures(240, 1)['tempo over 60']).toBeCloseTo(2, 9)
    expect(tempoFeatures(250, 1)['tempo in octaves']).toBeCloseTo(1, 9)
    expect(tempoFeatures(62.5, 1)['tempo from the middle']).toBeCloseTo(1, 9)
    expect([1, 2, 3, 4].map((n) => slow[`beats of ${n}`])).toEqual([0, 0, 0, 1])
  })
  it('how like itself it is later, and how much more than at other lags', () => {
    const f = likenessFeatures({ ...none, later: (_, n) => 1 / (1 + n) }, 120)
    expect(f['like 3 later']).toBeCloseTo(1 / 4, 9)
    expect(f['like 4 over 3']).toBeCloseTo(1 / 5 - 1 / 4, 9)
    expect(f['like 2 over 1.5']).toBeCloseTo(1 / 3 - 1 / 2.5, 9)
  })
  it('chords that change every four beats stand out under the right beat, not under one twice as slow', () => {
    const chords = harmony(60, (t) => Math.floor((t - 0.5) / 2) * 5)
    const drums = curves(60, backbeat(0.5, 60))
    const at = (period: number, from: number) =>
      barFeatures(chords, drums, none, every(period, from, 59)).features
    const right = at(0.5, 0.5)
    expect(right['harmony 1 on bars']).toBeGreaterThan(1)
    expect(right['harmony 1 on bars']).toBeGreaterThan(at(1, 0.5)['harmony 1 on bars'] ?? 9)
    expect(right['bars odd']).toBe(0)
    expect(right['bars sure of each']).toBeGreaterThan(0.5)
    const beats = every(0.5, 0.5, 59)
    const found = barFeatures(chords, drums, { ...none, threes: () => 0.3 }, beats)
    expect(found.features['bars of three ahead']).toBe(0.3)
    expect(((found.one - 0.5) / 2) % 1).toBeCloseTo(0, 9)
  })
})
