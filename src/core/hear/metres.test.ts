import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { clues } from './clues'
import type { BeatFeatures } from './features'
import type { Bar } from './hearing'
import { countedIn, type LikelyBar, metresOf } from './metres'
import { BAR_RULE } from './ones'
import { pairClues } from './pair-clues'

/** Beats of some bars, each with a kick and another chord on its 1, and a snare on what is between. */
function features(bars: readonly Bar[]): BeatFeatures {
  const places = bars.flatMap((bar, b) => Array.from({ length: bar }, (_, k) => ({ b, k })))
  const n = places.length
  const each = (of: (p: (typeof places)[number]) => number) => Float32Array.from(places, of)
  const chroma = new Float32Array(n * 12)
  const bass = new Float32Array(n * 18)
  places.forEach(({ b }, i) => {
    chroma[i * 12 + ((b * 5) % 12)] = 1
    bass[i * 18 + ((b * 5) % 12)] = 1
  })
  const one = each(({ k }) => Number(k === 0))
  const between = one.map((x) => 1 - x)
  return {
    ...{ beats: n, timbre: new Float32Array(n * 12), chroma, bass },
    ...{ low: one, mid: between, high: between, all: each(() => 1), busy: each(() => 1) },
    ...{ loudness: each(() => 0.5), shine: each(() => 0.3) },
  }
}
const list = (bars: readonly Bar[]) => clues(features(bars))
const times = (bar: Bar, n: number) => Array.from({ length: n }, () => bar)
const SIZES = [4, 3, 5, 7] as const
/** What is looked for, the first likeliest. */
const among = (first: Bar, share = 0.1): LikelyBar[] =>
  [first, ...SIZES.filter((b) => b !== first)].map((bar, i) => ({ bar, share: i ? share : 0.7 }))

describe('where the metre changes', () => {
  it('is nowhere in bars of one size, whatever else is looked for', () => {
    for (const bar of SIZES)
      expect(metresOf(list(times(bar, 30)), BAR_RULE, among(bar))).toEqual([{ from: 0, bar }])
    expect(metresOf(list(times(4, 30)), BAR_RULE, among(4).slice(0, 1))).toEqual([{ from: 0, bar: 4 }])
    expect(metresOf(list(times(4, 5)), BAR_RULE, among(4))).toEqual([{ from: 0, bar: 4 }])
    expect(metresOf({}, BAR_RULE, among(4))).toEqual([{ from: 0, bar: 4 }])
  })
  it('is found to the beat, there and back, however long the song goes on', () => {
    const sizes = fc.constantFrom<Bar>(3, 5, 7)
    const long = fc.integer({ min: 12, max: 40 })
    fc.assert(
      fc.property(sizes, long, long, fc.integer({ min: 12, max: 80 }), (other, a, b, c) => {
        const bars = [...times(4, a), ...times(other, b), ...times(4, c)]
        expect(metresOf(list(bars), BAR_RULE, among(4))).toEqual([
          { from: 0, bar: 4 },
          { from: 4 * a, bar: other },
          { from: 4 * a + other * b, bar: 4 },
        ])
      }),
      { numRuns: 25 },
    )
  })
  it('is not looked for in bars the song is hardly ever counted in', () => {
    const bars = [...times(4, 16), ...times(3, 20), ...times(4, 16)]
    expect(metresOf(list(bars), BAR_RULE, among(4, 0.2)).length).toBe(3)
    expect(metresOf(list(bars), BAR_RULE, among(4, 0.04))).toEqual([{ from: 0, bar: 4 }])
  })
  it('is no single bar of another size', () => {
    const spare = [...times(4, 20), 3 as const, ...times(4, 20)]
    expect(metresOf(list(spare), BAR_RULE, among(4))).toEqual([{ from: 0, bar: 4 }])
  })
  it('gives each stretch phrases of two of its own bars, the first on its first beat', () => {
    const f = features([...times(4, 16), ...times(3, 20)])
    const all = clues(f)
    const counted = countedIn(metresOf(all, BAR_RULE, among(4)), { ...all, ...pairClues(f) }, 0)
    expect(counted.bar).toBe(4)
    expect(counted.starts).toEqual([
      ...Array.from({ length: 8 }, (_, i) => 8 * i),
      ...Array.from({ length: 10 }, (_, i) => 64 + 6 * i),
    ])
    expect(counted.sure.length).toBe(counted.starts.length)
  })
})
