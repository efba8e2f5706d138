import { describe, expect, it } from 'vitest'
import { backbeat, curves, every, harmony } from './curves.test-tools'
import { barFeatures, barLikenessFeatures, likenessFeatures, tempoFeatures } from './voting'

const none = { counted: () => 0, later: () => 0, bars: () => ({ 3: 0, 4: 0, 5: 0, 7: 0 }) }

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
  it('how like itself it is a bar later, and how much more than a beat beside that', () => {
    const inBars = barLikenessFeatures({ ...none, later: (_, n) => Number(n % 3 === 0) }, 120)
    expect(inBars(3)).toMatchObject({ 'like a bar later': 1, 'like two bars over their neighbours': 1 })
    expect(inBars(4)).toMatchObject({ 'like a bar later': 0, 'like a bar over its neighbours': -0.5 })
  })
  it('chords that change every four beats stand out under the right beat, not under one twice as slow', () => {
    const chords = harmony(60, (t) => Math.floor((t - 0.5) / 2) * 5)
    const drums = curves(60, backbeat(0.5, 60))
    const at = (period: number, from: number) =>
      barFeatures(chords, drums, none, every(period, from, 59))(4).features
    const right = at(0.5, 0.5)
    expect(right['harmony 1 on bars']).toBeGreaterThan(1)
    expect(right['harmony 1 on bars']).toBeGreaterThan(at(1, 0.5)['harmony 1 on bars'] ?? 9)
    expect(right['bars odd']).toBe(0)
    expect(right['bars sure of each']).toBeGreaterThan(0.5)
    const beats = every(0.5, 0.5, 59)
    const like = { 3: 0.1, 4: 0.4, 5: 0, 7: 0.2 }
    const inBars = barFeatures(chords, drums, { ...none, bars: () => like }, beats)
    expect(inBars(4).features).toMatchObject({ 'bars alike': 0.4, 'bars of 4': 1, 'bars of 3': 0 })
    expect(inBars(4).features['bars alike ahead']).toBeCloseTo(0.2, 9)
    expect(inBars(3).features['bars alike ahead']).toBeCloseTo(-0.3, 9)
    expect(((inBars(4).one - 0.5) / 2) % 1).toBeCloseTo(0, 9)
    // Bars of a size they do not have gather less.
    for (const other of [3, 5, 7] as const)
      expect(inBars(4).features['bars ahead']).toBeGreaterThan(
        2 * (inBars(other).features['bars ahead'] ?? 9),
      )
  })
})
