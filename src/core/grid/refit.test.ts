import { describe, expect, it } from 'vitest'
import { carriedOn, fitTaps, followSound, LEAST_TAPS, steadied } from '.'

describe('beats made steady', () => {
  it('lie on the line through them, in their stretch alone', () => {
    const beats = [0, 1, 2.1, 2.9, 4, 9]
    const part = steadied(beats, 1, 5)
    // Least squares through (0, 1), (1, 2.1), (2, 2.9), (3, 4), by hand: start 1.03, period 0.98.
    expect(part.map((t) => Math.round(t * 1000) / 1000)).toEqual([1.03, 2.01, 2.99, 3.97])
    expect(steadied(beats, 4, 6)).toEqual([4, 9])
    expect(steadied([0, 1, 2.3], 0, 3)).not.toEqual([0, 1, 2.3])
  })
  it('go on over the whole song, through one that lies right', () => {
    expect(carriedOn(2.5, 1, 4)).toEqual([0.5, 1.5, 2.5, 3.5])
    expect(carriedOn(2, 0.5, 1)).toEqual([0, 0.5])
  })
})

describe('beats that follow the sound', () => {
  /** Strokes every 0.6 s from 0.2 s on, as an onset curve of a hundred frames a second. */
  const rate = 100
  const strokes = Array.from({ length: 30 }, (_, k) => 0.2 + 0.6 * k)
  const onset = new Uint8Array(2000)
  for (const t of strokes) onset[Math.round(t * rate)] = 200
  const curve = { frameRate: rate, onset }
  const off = (beats: readonly number[]) => beats.map((t, k) => Math.abs(t - (strokes[k] as number)))
  const drawn = strokes.map((_, k) => 0.2 + 0.6 * 10 + 0.603 * (k - 10))
  it('are drawn to its strokes on both sides of the one that is right, and keep their number', () => {
    const found = followSound(curve, drawn, 10)
    expect(found).toHaveLength(drawn.length)
    expect(found[10]).toBe(drawn[10])
    expect(Math.max(...off(drawn))).toBeGreaterThan(0.05)
    expect(Math.max(...off(found))).toBeLessThan(0.02)
  })
  it('take the last beat for one that is too far, the first for one before all', () => {
    expect(followSound(curve, strokes, 99).at(-1)).toBe(strokes.at(-1))
    expect(followSound(curve, strokes, -5)[0]).toBe(strokes[0])
    expect(followSound(curve, [0.2], 0)).toEqual([0.2])
  })
})

describe('taps', () => {
  const even = (n: number, period = 0.5) => Array.from({ length: n }, (_, k) => 2 + k * period)
  it('need to be four, between a fifth of a second and three apart', () => {
    expect(fitTaps(even(LEAST_TAPS - 1))).toBeNull()
    expect(fitTaps(even(LEAST_TAPS))).toMatchObject({ bpm: 120, steady: true, dropped: 0 })
    expect(fitTaps(even(6, 0.19))).toBeNull()
    expect(fitTaps(even(6, 3.1))).toBeNull()
  })
  it('that get faster say how far they lie from the beats that move with them', () => {
    let t = 2
    const faster = Array.from({ length: 24 }, (_, k) => {
      t += 0.6 - 0.008 * k
      return t + (k % 2 ? 0.004 : -0.004)
    })
    const fit = fitTaps(faster)
    expect(fit?.steady).toBe(false)
    expect(fit?.spread).toBeGreaterThan(0.001)
    expect(fit?.spread).toBeLessThan(0.05)
  })
  it('are steady within a hand, else they move', () => {
    const wobble = (x: number) => even(12).map((t, k) => t + (k % 4 < 2 ? x : -x))
    expect(fitTaps(wobble(0.02))?.steady).toBe(true)
    expect(fitTaps(wobble(0.06))?.steady).toBe(false)
    // At half the speed a hand is as unsteady in beats, twice in seconds.
    expect(fitTaps(even(12, 1).map((t, k) => t + (k % 4 < 2 ? 0.06 : -0.06)))?.steady).toBe(true)
    const slowing = Array.from({ length: 16 }, (_, k) => 2 + 0.5 * k + 0.012 * k * k)
    const fit = fitTaps(slowing)
    expect(fit?.steady).toBe(false)
    expect(fit?.beats).toHaveLength(16)
    expect(fit?.beats.at(-1)).toBeCloseTo(slowing.at(-1) as number, 1)
  })
  it('that limp are even over two beats; a finger that trembles taps none', () => {
    for (const x of [0.03, 0.05, 0.06]) {
      const fit = fitTaps(even(12).map((t, k) => t + (k % 2 ? x : -x)))
      expect(fit).toMatchObject({ dropped: 0, steady: x < 0.04 })
      expect(fit?.bpm).toBeCloseTo(120, -1)
    }
    // Three presses a beat are no beat of a twentieth of a second.
    expect(fitTaps(even(5).flatMap((t) => [t, t + 0.05, t + 0.1]))).toBeNull()
  })
  it('tell how far from it they are, and how many were thrown out', () => {
    const taps = even(10).map((t, k) => t + (k === 4 ? 0.18 : 0))
    expect(fitTaps(taps)).toMatchObject({ steady: true, dropped: 1 })
    expect(fitTaps(even(8).map((t, k) => t + (k % 2 ? 0.01 : -0.01)))?.spread).toBeCloseTo(0.01, 2)
    const missed = even(9).filter((_, k) => k !== 3 && k !== 4)
    expect(fitTaps(missed)?.beats).toEqual(even(9).map((t) => expect.closeTo(t, 6)))
  })
})
