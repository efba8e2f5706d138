import { describe, expect, it } from 'vitest'
import { drillSeconds, ladder } from './time'

describe('a ladder of speeds', () => {
  it.each([
    [0.6, 1, 4, [0.6, 0.7, 0.85, 1]],
    [0.5, 1, 2, [0.5, 1]],
    [0.9, 1, 5, [0.9, 0.95, 1]],
    [0.75, 1, 1, [0.75]],
    [1, 1, 3, [1]],
    [1.1, 1, 3, [1]],
  ])('from %f to %f in %i', (from, to, rungs, speeds) => {
    expect(ladder(from, to, rungs)).toEqual(speeds)
  })
})

describe('how long repetitions last', () => {
  it('adds up count-in and dance at their speed, and a pause after each', () => {
    expect(drillSeconds(3, 2, 8, 0.5, 4)).toBe(3 * (20 + 4))
    expect(drillSeconds(1, 0, 8, 1, 0)).toBe(8)
    expect(drillSeconds(0, 2, 8, 1, 4)).toBe(0)
  })
})
