import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { backbeat, curves, every, harmony } from './curves.test-tools'
import { drumming, featuresOf, meanHit, ratio } from './level-features'
import { summed } from './turns'

describe('what drums say about how fast to count', () => {
  const o = curves(60, backbeat(0.5, 60))
  const counted = (period: number, from = 0.5) => drumming(o, every(period, from, 59))
  it('a backbeat sways by two, kick against snare', () => {
    const right = counted(0.5)
    // The kick has a little of the snare's band in it.
    expect(right['snare by two']).toBeGreaterThan(0.5)
    expect(right['kick by two']).toBeGreaterThan(0.9)
    expect(right['snare by four']).toBeLessThan(0.05)
    expect(right['kick against snare']).toBe(1)
  })
  it('counted twice as fast it sways by four', () => {
    const fast = counted(0.25)
    expect(fast['snare by four']).toBeGreaterThan(0.25)
    expect(fast['kick by four']).toBeGreaterThan(0.9)
    expect(fast['snare by two']).toBeLessThan(counted(0.5)['snare by two'] ?? 0)
  })
  it('counted half as fast the snare falls between', () => {
    const slow = counted(1)
    expect(slow['snare on']).toBeLessThan(-0.5)
    expect(slow['kick on']).toBeGreaterThan(0.5)
    expect(slow['snare by two']).toBeLessThan(0.05)
  })
  it('off the beat nothing falls on it', () => {
    const off = counted(0.5, 0.75)
    expect(off['on to half']).toBeLessThan(0)
    expect(counted(0.5)['on to half']).toBeGreaterThan(0)
    expect(counted(0.5)['on to quarters']).toBeGreaterThan(0.8)
  })
})

describe('what speaks for beats on some times', () => {
  const chords = harmony(60, (t) => Math.floor((t - 0.5) / 2) * 5)
  const sound = {
    onsets: curves(
      60,
      every(0.25, 0.5, 59.5).map((t) => ({ t })),
    ),
    chroma: summed(12, chords.frames, (f, c) => chords.chroma[f * 12 + c] as number),
    likeness: {
      counted: () => 0,
      later: (_: number, beats: number) => (beats === 1 ? 0.6 : 0.1),
      bars: () => ({ 3: 0, 4: 0, 5: 0, 7: 0 }),
    },
  }
  const at = (from: number, bpm = 120) => featuresOf(sound, every(60 / bpm, from, 59), bpm)
  it('chords that change on them, and not between them', () => {
    const on = at(0.5)
    expect(on['chords on one of four']).toBe(1)
    expect(on['chords on one of eight']).toBe(1)
    expect(at(0.75)['chords on one of four']).toBe(-1)
  })
  it('a tempo people step at: most at 125, as much less a third up as a third down', () => {
    fc.assert(
      fc.property(fc.double({ min: 1.05, max: 1.8, noNaN: true }), (r) => {
        const [up, down] = [at(0.5, 125 * r), at(0.5, 125 / r)]
        expect(up['tempo usual']).toBeCloseTo(down['tempo usual'] as number, 9)
        expect(up['tempo not far']).toBeCloseTo(down['tempo not far'] as number, 9)
        expect(up['tempo usual']).toBeLessThan(0)
      }),
      { numRuns: 20 },
    )
    expect(at(0.5, 125)['tempo usual']).toBeCloseTo(0, 9)
  })
  it('likeness a beat later, beyond that half a beat later', () => {
    expect(at(0.5)['like a beat later']).toBeCloseTo(4 * (0.6 - 0.1), 9)
  })
})

describe('strokes on some times', () => {
  it('are as strong as they are, up to 25 ms away, and nothing further', () => {
    const o = curves(
      20,
      every(1, 1, 19).map((t) => ({ t })),
    )
    const on = meanHit(o.all, every(1, 1, 19))
    expect(on).toBeCloseTo(Math.sqrt(6), 5)
    expect(meanHit(o.all, every(1, 1.02, 19))).toBeCloseTo(on, 5)
    expect(meanHit(o.all, every(1, 1.06, 19))).toBe(0)
    expect(meanHit(o.all, [])).toBe(0)
  })
  it('compare alike both ways round', () => {
    const strength = fc.double({ min: 0, max: 10, noNaN: true })
    fc.assert(
      fc.property(strength, strength, fc.double({ min: 0.01, max: 1, noNaN: true }), (a, b, floor) => {
        expect(ratio(a, b, floor)).toBeCloseTo(-ratio(b, a, floor), 9)
        if (a > b + 1e-9) expect(ratio(a, b, floor)).toBeGreaterThan(0)
      }),
    )
  })
})
