import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { backbeat, curves, every, harmony } from './curves.test-tools'
import { folder, folds } from './folds'
import { BARS, type Bar } from './hearing'

const still = harmony(60, () => 0)
const chords = harmony(60, (t) => Math.floor((t - 0.5) / 2) * 5)
const drums = curves(60, backbeat(0.5, 60))

/** What folding shows of beats of a period from a time on, in bars of so many. */
const seen = (song = folder(still, drums), period = 0.5, from = 0.5, bar: Bar = 4) =>
  folds(song, every(period, from, 59), 60 / period)(bar)

describe('a song folded onto a beat', () => {
  it('shows strokes where they are, and how kick and snare sway', () => {
    const on = seen()
    expect(on['all at 0']).toBeGreaterThan(3 * (on['all at 1/3'] ?? 9))
    expect(on['low sways by two at 0']).toBeGreaterThan(0.5)
    expect(on['low sways by the bar at 0']).toBeLessThan(0.05)
    expect(on['snare sways by two at 0']).toBeGreaterThan(0.5)
    expect(on['kick against snare on']).toBeGreaterThan(0)
    expect(on['all on to half']).toBeGreaterThan(0)
  })
  it('counted twice as fast, sways by four; between the beats, shows the strokes on the half', () => {
    expect(seen(undefined, 0.25)['low sways by the bar at 0']).toBeGreaterThan(0.3)
    const off = seen(undefined, 0.5, 0.75)
    expect(off['low at 1/2']).toBeGreaterThan(off['low at 0'] ?? 9)
    expect(off['kick against snare half']).toBeGreaterThan(0)
    expect(off['all on to half']).toBeLessThan(0)
  })
  it('shows on which of four beats chords change', () => {
    const on = seen(folder(chords, drums))
    expect(on['harmony best of a bar on']).toBeGreaterThan(2 * (on['harmony best of a bar half'] ?? 9))
    expect(on['harmony on to half']).toBeGreaterThan(0)
    const off = seen(folder(chords, drums), 0.5, 0.75)
    expect(off['harmony best of a bar half']).toBeGreaterThan(off['harmony best of a bar on'] ?? 9)
  })
  it.each(BARS)('strokes on one beat of %d stand out in bars of that size, and of no other', (bar) => {
    const song = folder(
      still,
      curves(
        60,
        every(0.5, 0.5, 59).map((t, k) => ({ t, low: k % bar === 0 ? 1 : 0.1 })),
      ),
    )
    const sway = (b: Bar) => seen(song, 0.5, 0.5, b)['low sways by the bar at 0'] ?? 9
    for (const other of BARS) if (other !== bar) expect(sway(bar)).toBeGreaterThan(3 * sway(other))
  })
  it('shows that halves are swung', () => {
    const swung = curves(
      60,
      every(0.5, 0.5, 59).flatMap((t) => [{ t }, { t: t + 0.5 * (2 / 3) }]),
    )
    expect(seen(folder(still, swung))['late swing']).toBeGreaterThan(0.5)
    const straight = curves(
      60,
      every(0.25, 0.5, 59).map((t) => ({ t })),
    )
    expect(seen(folder(still, straight))['late swing']).toBeLessThan(-0.5)
  })
  it('shows loudness that swells in the beat or against it', () => {
    const wave = (late: number) => ({
      ...still,
      loudness: Float32Array.from({ length: still.frames }, (_, f) =>
        Math.max(0, 0.5 + 0.4 * Math.cos(2 * Math.PI * ((f / 100 - 0.5) / 0.5 - late))),
      ),
    })
    const [on, off] = [seen(folder(wave(0), drums)), seen(folder(wave(0.5), drums))]
    expect(on['loudness in the beat']).toBeCloseTo(0.8, 1)
    expect(off['loudness in the beat']).toBeCloseTo(-0.8, 1)
    expect(Math.abs(on['loudness across the beat'] ?? 9)).toBeLessThan(0.1)
    expect(seen(folder(wave(0.25), drums))['loudness across the beat']).toBeCloseTo(0.8, 1)
  })
  it('has the same features whatever the beats, all of them numbers', () => {
    const names = Object.keys(seen())
    const song = folder(chords, drums)
    fc.assert(
      fc.property(
        fc.double({ min: 0.26, max: 1.2, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.integer({ min: 7, max: 40 }),
        fc.constantFrom(...BARS),
        (period, from, n, bar) => {
          const beats = Array.from({ length: n }, (_, k) => from + k * period)
          const out = folds(song, beats, 60 / period)(bar)
          expect(Object.keys(out)).toEqual(names)
          expect(Object.entries(out).filter(([, x]) => !Number.isFinite(x))).toEqual([])
        },
      ),
      { numRuns: 40 },
    )
  })
})
