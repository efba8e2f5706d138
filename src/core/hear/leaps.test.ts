import { describe, expect, it } from 'vitest'
import type { Folded } from './fold-pulses'
import { isLeap } from './leaps'
import { GROUPS } from './onsets'

const PARTS = 24

/** Eight pulses with a stroke in each, in bands that tell them apart; without the mean of each band. */
function pulses(bands: readonly number[]): Folded {
  const strokes = new Float32Array(bands.length * PARTS * GROUPS)
  bands.forEach((band, k) => {
    strokes[k * PARTS * GROUPS + band] = 1
  })
  const mean = (i: number) => bands.filter((b) => b === i % GROUPS).length / (bands.length * PARTS)
  return { pulses: bands.length, strokes: strokes.map((x, i) => x - mean(i)) }
}

const RHYTHM = pulses([0, 7, 4, 7, 1, 7, 4, 6])

describe('what comes after a place', () => {
  it('has leapt where it is the same, but beside its pulses or on others', () => {
    for (const beside of [0.3, -0.3, 2, 3.5, 5, -1.2]) expect(isLeap(RHYTHM, RHYTHM, beside, 0.25)).toBe(true)
  })
  it('has not where it lies as before, to a hair, whole rounds on or back', () => {
    for (const beside of [0, 0.05, -0.05, 8, -16.04]) expect(isLeap(RHYTHM, RHYTHM, beside, 0.25)).toBe(false)
  })
  it('has not where other music comes, or what comes is as like where it lies', () => {
    expect(isLeap(RHYTHM, pulses([2, 2, 3, 5, 5, 3, 2, 5]), 0.3, 0.25)).toBe(false)
    // The same every two pulses.
    const even = pulses([0, 7, 0, 7, 0, 7, 0, 7])
    expect(isLeap(even, even, 2, 0.25)).toBe(false)
  })
})
