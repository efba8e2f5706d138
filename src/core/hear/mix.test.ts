import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import { demoTruth, renderDemoSong } from '../../../demo/song'
import { drumsAt } from '../../../e2e/sounds'
import { toMono } from '../formats/wav'
import { type Counted, paceOf } from './count-song'
import type { Hearing } from './hearing'
import { joined } from './joined'
import { LEAD } from './lead'
import { eights, listen } from './listen'
import { type Cut, cutsOf } from './mix'
import { FRAME_RATE, spectrum } from './spectrum'
import { tempiOf } from './tempi'

const RATE = 44_100
const near = (list: readonly number[], t: number, within = 0.03) => list.some((x) => Math.abs(x - t) < within)

describe('two songs cut together', () => {
  // The drums alone at 96, then the demo song (126) from its chorus on, from one beat to the next.
  const drums = Array.from({ length: 64 }, (_, k) => 0.4 + (k * 60) / 96)
  const seam = 0.4 + (64 * 60) / 96
  let truth: number[]
  let ones: number[]
  let h: Hearing
  let cuts: Cut[]
  beforeAll(() => {
    const known = demoTruth()
    const { left, right, sampleRate } = renderDemoSong()
    const song = toMono({ sampleRate, channels: [left, right] })
    const from = known.beats[known.sections.find((s) => s.kind === 'chorus')?.beat ?? 0] as number
    const mix = new Float32Array(Math.round((seam + 45) * RATE))
    mix.set(drumsAt(drums, seam, RATE).subarray(0, Math.round(seam * RATE)))
    mix.set(song.subarray(Math.round(from * RATE), Math.round((from + 45) * RATE)), Math.round(seam * RATE))
    const later = (times: readonly number[]) =>
      times.filter((t) => t >= from - 0.01).map((t) => t - from + seam)
    truth = later(known.beats).filter((t) => t < seam + 40)
    ones = later(known.phrases.map((p) => known.beats[p.beat] as number)).filter((t) => t < seam + 20)
    h = listen(mix, RATE).hearing
    cuts = cutsOf(paceOf(spectrum(mix, RATE, () => {}, LEAD * FRAME_RATE)), mix.length / RATE)
  }, 120_000)

  it('are told apart where the later one begins', () => {
    expect(cuts.map((c) => c.different)).toEqual([true])
    expect(Math.abs((cuts[0]?.at ?? 0) - seam)).toBeLessThan(0.05)
  })
  it('have each its own beats, from the first to the last, and none between', () => {
    const all = [...drums, ...truth]
    expect(all.filter((t) => !near(h.beats, t))).toEqual([])
    expect(h.beats.filter((t) => t < seam + 40).length).toBe(all.length)
  })
  it('have each its own eights: the later one begins where it was cut in', () => {
    expect(ones.length).toBeGreaterThan(2)
    expect(ones.filter((t) => !near(eights(h), t))).toEqual([])
  })
  it('offer no other way to hear all of it, and are called by no one tempo', () => {
    expect([h.steady, h.tempi, h.bars, h.ones]).toEqual([false, [], [], []])
  })
})

describe('where the tempo changes at once', () => {
  const path = (...held: readonly (readonly [number, number])[]) =>
    Float32Array.from(held.flatMap(([period, windows]) => Array(windows).fill(period)))

  it('is between two that are held, an octave being the same', () => {
    expect(tempiOf(path([50, 12], [48.5, 9]))).toEqual([
      { from: 0, to: 12 },
      { from: 12, to: 21 },
    ])
    expect(tempiOf(path([50, 12], [100, 9]))).toHaveLength(1)
    expect(tempiOf(path([50, 12], [49.5, 9]))).toHaveLength(1)
  })
  it('is nowhere beside what is too short to be a song, nor in a drift', () => {
    expect(tempiOf(path([50, 12], [40, 5], [60, 12]))).toHaveLength(1)
    expect(tempiOf(path([50, 7], [40, 12]))).toHaveLength(1)
    const drift = Float32Array.from({ length: 60 }, (_, w) => 50 * (1 + 0.03 * Math.sin(w / 3)))
    expect(tempiOf(drift)).toHaveLength(1)
  })
})

/** Beats of one tempo, counted in eights from one of them on. */
const countedAt = (from: number, period: number, beats: number, one: number): Counted => {
  const starts = Array.from({ length: Math.ceil((beats - one) / 8) }, (_, i) => one + 8 * i)
  return {
    beats: Array.from({ length: beats }, (_, k) => from + k * period),
    ...{ steady: true, bar: 4, metres: [{ from: 0, bar: 4 }], starts },
    sure: { beats: starts.map(() => 0.9), ones: starts.map(() => 0.8) },
    confidence: { beats: 0.9, one: 0.8 },
    others: { tempi: [], bars: [], ones: [{ shift: 4, weight: 0.2 }] },
  }
}

describe('countings of two songs as one', () => {
  it('go on without a gap, in phrases of ten counts at most, the later one’s own 1s kept', () => {
    fc.assert(
      fc.property(
        ...[fc.double({ min: 0.3, max: 1, noNaN: true }), fc.double({ min: 0.3, max: 1, noNaN: true })],
        ...[fc.integer({ min: 16, max: 40 }), fc.integer({ min: 16, max: 40 })],
        ...[fc.integer({ min: 0, max: 7 }), fc.integer({ min: 0, max: 7 })],
        fc.double({ min: -3, max: 12, noNaN: true }),
        (p, q, n, m, a, b, gap) => {
          const before = countedAt(1, p, n, a)
          const after = countedAt((before.beats.at(-1) as number) + p + gap * p, q, m, b)
          const { beats, starts, sure } = joined(before, after)
          const steps = beats.slice(1).map((t, i) => t - (beats[i] as number))
          expect(Math.min(...steps)).toBeGreaterThan(0.59 * Math.min(p, q))
          expect(Math.max(...steps)).toBeLessThan(1.51 * Math.max(p, q))
          const long = starts.slice(1).map((k, i) => k - (starts[i] as number))
          expect(Math.min(...long)).toBeGreaterThan(1)
          expect(Math.max(...long)).toBeLessThanOrEqual(10)
          const times = starts.map((k) => beats[k])
          expect(times).toEqual(expect.arrayContaining(after.starts.map((k) => after.beats[k])))
          expect([sure.beats.length, sure.ones.length]).toEqual([starts.length, starts.length])
        },
      ),
    )
  })
  it('say where the metre changes with the song, and are as sure as both, by their length', () => {
    const waltz: Counted = { ...countedAt(20, 0.5, 30, 0), bar: 3, metres: [{ from: 0, bar: 3 }] }
    const all = joined({ ...countedAt(0, 0.5, 40, 0), confidence: { beats: 0.3, one: 0.4 } }, waltz)
    expect([all.bar, all.metres]).toEqual([
      4,
      [
        { from: 0, bar: 4 },
        { from: 40, bar: 3 },
      ],
    ])
    expect(all.confidence.beats).toBeCloseTo((0.3 * 40 + 0.9 * 30) / 70, 4)
    expect(joined(countedAt(0, 0.5, 40, 0), countedAt(20, 0.4, 40, 0)).metres).toHaveLength(1)
  })
})
