import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { deviceDelay, matchTaps, timingOf, worstCues } from '.'

describe('taps on cues', () => {
  it('go to the nearest cue, each once; others are missed or extra', () => {
    // Worked by hand: cues at 1, 2, 2.5, 4; taps at 1.05, 1.98, 2.46, 2.55, 5.
    const r = matchTaps([1, 2, 2.5, 4], [1.05, 1.98, 2.46, 2.55, 5], 0.2)
    expect(r.matched.map((m) => [m.cue, Math.round(m.ms)])).toEqual([
      [0, 50],
      [1, -20],
      [2, -40],
    ])
    expect(r.missed).toEqual([3])
    expect(r.extra).toBe(2)
  })
  it('have a mean and a spread', () => {
    // Worked by hand: mean of 10, -20, 40 is 10; squares about it 0, 900, 900; 1800 / 2 = 900; root 30.
    expect(timingOf([10, -20, 40])).toEqual({ n: 3, mean: 10, spread: 30 })
    expect(timingOf([5])).toEqual({ n: 1, mean: 5, spread: 0 })
    expect(timingOf([])).toEqual({ n: 0, mean: 0, spread: 0 })
  })
  it('name the counts that are off most', () => {
    const all = [
      { cue: 0, ms: 10 },
      { cue: 1, ms: 70 },
      { cue: 1, ms: 50 },
      { cue: 2, ms: -80 },
    ]
    expect(worstCues(all, ['1', '4&', '7'])).toEqual([
      { label: '7', ms: -80 },
      { label: '4&', ms: 60 },
    ])
  })
})

describe('the delay of a device', () => {
  const clicks = Array.from({ length: 16 }, (_, i) => 1 + i * 0.6)
  /** A hand with a steady, repeatable scatter of up to 20 ms. */
  const scatter = (i: number) => 0.02 * Math.sin(12.9898 * (i + 1))
  it('is recovered within 2 ms from a simulated one, strays thrown out', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 300 }), fc.integer({ min: 0, max: 15 }), (ms, stray) => {
        const taps = clicks.map((c, i) => c + ms / 1000 + scatter(i) + (i === stray ? 0.15 : 0))
        const found = deviceDelay(clicks, taps)
        const kept = clicks.map((_, i) => i).filter((i) => i !== stray)
        // What the scatter itself leaves over is not the device's.
        const own = (1000 * kept.reduce((s, i) => s + scatter(i), 0)) / kept.length
        expect(Math.abs((found?.ms ?? Number.NaN) - ms - own)).toBeLessThan(2)
      }),
    )
  })
  it('throws out what is further than three times the usual scatter, and never what is within 30 ms', () => {
    const late = (far: number) =>
      deviceDelay(
        clicks,
        clicks.map((c, i) => c + 0.1 + (i === 0 ? far / 1000 : 0)),
      )
    expect(late(29)?.ms).toBeCloseTo(100 + 29 / 16, 6)
    expect(late(31)?.ms).toBeCloseTo(100, 6)
    // Half of the taps 20 ms later than the others: 10 ms is the usual scatter.
    const two = clicks.map((c, i) => c + 0.1 + (i % 2 ? 0.02 : 0))
    expect(deviceDelay(clicks, two)).toMatchObject({
      ms: expect.closeTo(110, 6),
      spread: expect.closeTo(10, 0),
    })
  })
  it('is told by six taps that agree, not by five', () => {
    const told = (n: number) =>
      deviceDelay(
        clicks,
        clicks.slice(0, n).map((c) => c + 0.05),
      )
    expect(told(5)).toBeNull()
    expect(told(6)?.ms).toBeCloseTo(50, 6)
    // A seventh that is thrown out leaves six; of six, it leaves too few.
    const stray = (n: number) =>
      deviceDelay(
        clicks,
        clicks.slice(0, n).map((c, i) => c + (i ? 0.05 : 0.3)),
      )
    expect(stray(7)?.ms).toBeCloseTo(50, 6)
    expect(stray(6)).toBeNull()
  })
  it('is not told by a few taps', () => {
    expect(deviceDelay(clicks, [1.1, 1.7, 2.3])).toBeNull()
    expect(deviceDelay([], [])).toBeNull()
  })
})
