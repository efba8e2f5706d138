import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { carriedOn, fitTaps, followSound, offsets, shiftToSound, steadied, strokeOffsets } from '.'

/** An onset curve with strokes at given times. */
const curve = (seconds: number, strokes: readonly number[]) => {
  const onset = new Uint8Array(seconds * 100)
  for (const t of strokes) {
    const x = t * 100
    const i = Math.floor(x)
    onset[i] = Math.round(150 * Math.sqrt(1 - (x - i)))
    onset[i + 1] = Math.round(150 * Math.sqrt(x - i))
  }
  return { frameRate: 100, onset }
}
const every = (period: number, from: number, n: number) =>
  Array.from({ length: n }, (_, k) => from + k * period)

describe('taps', () => {
  it('by a steady hand give the exact tempo; doubles and strays are thrown out, missed beats filled in', () => {
    const hand = every(0.5, 10, 24).map((t, i) => t + 0.015 * Math.sin(i * 7.3))
    const taps = [...hand.filter((_, i) => i !== 7 && i !== 8), 12.06, 15.73]
    const fit = fitTaps(taps)
    expect(fit?.steady).toBe(true)
    expect(fit?.bpm).toBeCloseTo(120, 0)
    expect(fit?.beats).toHaveLength(24)
    expect(fit?.dropped).toBe(2)
    fit?.beats.forEach((t, k) => {
      expect(Math.abs(t - 10 - k * 0.5)).toBeLessThan(0.012)
    })
  })
  it('along a tempo that moves follow it', () => {
    const times = [5]
    for (let k = 0; k < 60; k++) times.push((times.at(-1) as number) + 0.5 * (1 + 0.12 * Math.sin(k / 9)))
    const fit = fitTaps(times)
    expect(fit?.steady).toBe(false)
    times.forEach((t, k) => {
      expect(Math.abs((fit?.beats[k] ?? 0) - t)).toBeLessThan(0.03)
    })
  })
  it('a stray before them decides nothing', () => {
    const fit = fitTaps([9.72, ...every(0.5, 10, 12)])
    expect(fit?.bpm).toBeCloseTo(120, 6)
    expect(fit?.beats[0]).toBeCloseTo(10, 6)
    expect(fit?.dropped).toBe(1)
  })
  it('too few, too fast or too slow say nothing', () => {
    expect(fitTaps([1, 2, 3])).toBeNull()
    expect(fitTaps(every(0.1, 0, 20))).toBeNull()
    expect(fitTaps(every(4, 0, 20))).toBeNull()
  })
  it('exact taps are met exactly, at any tempo', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 1.2, noNaN: true }),
        fc.integer({ min: 4, max: 60 }),
        (period, n) => {
          const fit = fitTaps(every(period, 3, n))
          expect(fit?.beats).toHaveLength(n)
          expect(fit?.bpm).toBeCloseTo(60 / period, 6)
        },
      ),
    )
  })
})

describe('a grid and the sound', () => {
  it('a grid 30 ms late is moved back onto the strokes', () => {
    const strokes = every(0.5, 2, 80)
    const by = shiftToSound(
      curve(50, strokes),
      strokes.map((t) => t + 0.03),
    )
    expect(by).toBeCloseTo(-0.03, 2)
    expect(shiftToSound(curve(50, []), strokes)).toBe(0)
  })
  it('a grid is moved by a fifth of a beat at most, and 120 ms; one beat alone is not', () => {
    const late = (period: number, by: number) => {
      const strokes = every(period, 2, 40)
      return shiftToSound(
        curve(50, strokes),
        strokes.map((t) => t + by),
      )
    }
    expect(late(0.5, 0.08)).toBeCloseTo(-0.08, 2)
    expect(late(0.3, 0.08)).toBeGreaterThanOrEqual(-0.06)
    expect(late(1, 0.11)).toBeCloseTo(-0.11, 2)
    expect(late(1, 0.15)).toBeGreaterThanOrEqual(-0.12)
    expect(shiftToSound(curve(50, [2]), [2.03])).toBe(0)
    expect(shiftToSound(curve(50, [2, 2.5]), [2.03, 2.53])).toBeCloseTo(-0.03, 2)
  })
  it('a drift of 3 % is followed from a beat that is right, both ways', () => {
    const strokes = [1]
    while ((strokes.at(-1) as number) < 88) {
      const t = strokes.at(-1) as number
      strokes.push(t + 0.5 / (1 + 0.03 * Math.sin(t / 7)))
    }
    const anchor = 80
    const stiff = every(0.5, (strokes[anchor] as number) - anchor * 0.5, strokes.length)
    const worst = (beats: readonly number[]) =>
      Math.max(...beats.slice(3, -3).map((t, k) => Math.abs(t - (strokes[k + 3] as number))))
    expect(worst(stiff)).toBeGreaterThan(0.15)
    expect(worst(followSound(curve(90, strokes), stiff, anchor))).toBeLessThan(0.03)
  })
  it('where nothing sounds the grid goes on as it was', () => {
    const beats = every(0.5, 1, 40)
    followSound(curve(30, []), beats, 20).forEach((t, k) => {
      expect(t).toBeCloseTo(beats[k] as number, 9)
    })
  })
  it('shows per phrase how far the strokes lie from the counts', () => {
    const strokes = [...every(0.5, 1, 8), ...every(0.5, 5.03, 8)]
    const [a, b] = offsets(strokeOffsets(curve(12, strokes), every(0.5, 1, 16)), every(0.5, 1, 16), [1, 5])
    expect(a?.ms).toBeCloseTo(0, 0)
    expect(Math.abs((b?.ms ?? 0) - 30)).toBeLessThan(3)
    expect(
      offsets(strokeOffsets(curve(12, []), every(0.5, 1, 16)), every(0.5, 1, 16), [1, 5])[0]?.ms,
    ).toBeNull()
  })
})

describe('a tempo by number', () => {
  it('goes through the beat it was set on', () => {
    const beats = carriedOn(10.2, 60 / 97.5, 60)
    expect(Math.min(...beats.map((t) => Math.abs(t - 10.2)))).toBeLessThan(1e-9)
    expect((beats[1] as number) - (beats[0] as number)).toBeCloseTo(60 / 97.5, 9)
    expect(beats[0]).toBeGreaterThanOrEqual(0)
    expect(carriedOn(0, 0.5, 2)).toEqual([0, 0.5, 1, 1.5])
  })
  it('a stretch made steady keeps its place and length', () => {
    const wobbly = every(0.5, 3, 16).map((t, i) => t + 0.01 * (-1) ** i)
    const out = steadied(wobbly, 0, 16)
    const steps = out.slice(1).map((t, i) => t - (out[i] as number))
    for (const s of steps) expect(s).toBeCloseTo(steps[0] as number, 9)
    expect(Math.abs((out[0] as number) - 3)).toBeLessThan(0.01)
  })
})
