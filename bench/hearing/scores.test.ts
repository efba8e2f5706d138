import { describe, expect, it } from 'vitest'
import { corrections } from './corrections'
import { clickError, continuity, firstEight, fMeasure, matched, nearest, score, tempoHits } from './scores'

const grid = (bpm: number, n: number, start = 6) =>
  Array.from({ length: n }, (_, k) => start + (k * 60) / bpm)

// Worked by hand from the definitions in Davies, Degara & Plumbley 2009.
describe('F-measure', () => {
  it('is the harmonic mean of precision and recall within 70 ms', () => {
    expect(fMeasure([1, 2, 3, 4], [1.07, 2, 3.08])).toBeCloseTo((2 * 2) / 7, 9)
    expect(fMeasure([1, 2], [1, 2])).toBe(1)
    expect(fMeasure([1, 2], [])).toBe(0)
  })
  it('counts each beat once', () => {
    expect(matched([1], [0.98, 1.02])).toHaveLength(1)
    expect(fMeasure([1, 2], [0.98, 1.02, 2])).toBeCloseTo(0.8, 9)
  })
  it('finds the nearest time, the earlier one of two alike', () => {
    expect([0, 1.4, 1.5, 9].map((x) => nearest([1, 2, 3], x))).toEqual([0, 0, 0, 2])
    expect(nearest([], 1)).toBe(-1)
  })
})

describe('continuity', () => {
  it('is whole for the truth itself, and for one that is a little late throughout', () => {
    const t = grid(120, 40)
    expect(continuity(t, t)).toEqual({ cmlt: 1, amlt: 1 })
    expect(
      continuity(
        t,
        t.map((x) => x + 0.04),
      ).cmlt,
    ).toBe(1)
  })
  it('is nothing at another level or phase, which the allowed levels forgive', () => {
    const t = grid(120, 40)
    for (const other of [grid(240, 79), grid(60, 20), grid(120, 39, 6.25)]) {
      expect(continuity(t, other).cmlt).toBeLessThan(0.05)
      expect(continuity(t, other).amlt).toBeGreaterThan(0.95)
    }
  })
  it('forgives no period of two thirds', () => {
    expect(continuity(grid(120, 40), grid(180, 60)).amlt).toBeLessThan(0.2)
  })
  it('loses a beat and the one after where a beat is missing', () => {
    const t = grid(120, 20)
    expect(
      continuity(
        t,
        t.filter((_, i) => i !== 10),
      ).cmlt,
    ).toBeCloseTo(18 / 20, 9)
  })
})

it('tempo is right within 4 %, or right but for a factor of 2 or 3', () => {
  expect(tempoHits(120, 124.7)).toEqual({ acc1: 1, acc2: 1 })
  expect(tempoHits(120, 125)).toEqual({ acc1: 0, acc2: 0 })
  expect([240, 60, 360, 40].map((b) => tempoHits(120, b).acc2)).toEqual([1, 1, 1, 1])
  expect(tempoHits(120, 0)).toEqual({ acc1: 0, acc2: 0 })
})

it('lateness is told apart from unevenness', () => {
  const { bias, error } = clickError([1, 2, 3], [1.01, 2.012, 3.014])
  expect(bias).toBeCloseTo(12, 6)
  expect(error).toBeCloseTo(2, 6)
})

describe('a whole song', () => {
  const beats = grid(120, 128, 0)
  const every = (n: number, from = 0) => beats.filter((_, i) => i % n === from)
  const truth = { tempo: 120, beats, downbeats: every(4), eights: every(8) }
  const heard = (one: number) => ({ tempo: 120, beats, downbeats: every(4, one % 4), eights: every(8, one) })

  it('knows the wrong one of two bars from a wrong bar', () => {
    expect(score(truth, heard(0))).toMatchObject({ f: 1, down: 1, eight: 1 })
    expect(score(truth, heard(4))).toMatchObject({ down: 1, eight: 0, eightBest: 1 })
    expect(score(truth, heard(2))).toMatchObject({ down: 0, eight: 0, eightBest: 0 })
  })
  it('leaves out what the truth does not say', () => {
    expect(score({ ...truth, downbeats: null, eights: null }, heard(0)).down).toBeNaN()
  })
  it('counts the moves at the Count station', () => {
    const at = (bpm: number, n: number, start: number, one = 0) => {
      const b = grid(bpm, n, start)
      return {
        tempo: bpm,
        beats: b,
        downbeats: b.filter((_, i) => i % 4 === one),
        eights: b.filter((_, i) => i % 8 === one),
      }
    }
    expect(corrections(truth, heard(0))).toBe(0)
    expect(corrections(truth, heard(3))).toBe(1)
    expect(corrections(truth, at(240, 256, 0))).toBe(1)
    expect(corrections(truth, at(60, 64, 0))).toBe(1)
    expect(corrections(truth, at(120, 127, 0.25))).toBe(1)
    expect(corrections(truth, at(120, 127, 0.1))).toBe(1)
    expect(corrections(truth, at(240, 254, 0.125, 1))).toBeLessThanOrEqual(3)
    expect(corrections(truth, at(170, 180, 0))).toBe(4)
  })
})

it('the first eight is at its place, or not, from the very beginning on', () => {
  expect(firstEight([0.01, 4], [0.05, 4])).toBe(1)
  expect(firstEight([0.01, 4], [4, 8])).toBe(0)
  expect(firstEight([7, 11], [3, 7.06, 11])).toBe(1)
  expect(firstEight([7], [])).toBe(0)
  expect(firstEight(null, [1])).toBeNaN()
  expect(firstEight([], [1])).toBeNaN()
})
