import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ofPass, placePhrases, type Routine } from '../routine'
import { cuesOf, page } from '../routine/hand.test-tools'
import { contains } from '../time'
import { rangeOf, stretchOfPhrases } from './plan'

const four = page(4)
const placed = placePhrases(four)
const chosen = (first: number, last: number, excerpt: Routine['excerpt'] = null) =>
  stretchOfPhrases(
    { ...four, excerpt },
    placed,
    placed[first] as (typeof placed)[0],
    placed[last] as (typeof placed)[0],
  )

// Eights of 192 ticks, by hand.
describe('the counts that are danced when phrases are chosen', () => {
  it('are whole ones as far as they belong to the dance', () => {
    expect(chosen(1, 2)).toEqual({ from: 192, to: 576 })
    // Danced from the 8 of the first eight to the 4 of the third.
    const dance = { from: 168, to: 480 }
    expect(chosen(0, 0, dance)).toEqual({ from: 168, to: 192 })
    expect(chosen(2, 2, dance)).toEqual({ from: 384, to: 480 })
    expect(chosen(0, 1, { from: 200, to: 768 })).toEqual({ from: 200, to: 384 })
    // A phrase outside the dance is drilled whole.
    expect(chosen(3, 3, dance)).toEqual({ from: 576, to: 768 })
  })
  it('begin with what leads into the first of them: on 8, or on the 8& before the 1', () => {
    expect(chosen(1, 1, { from: 168, to: 768 })).toEqual({ from: 168, to: 384 })
    expect(chosen(1, 2, { from: 180, to: 768 })).toEqual({ from: 180, to: 576 })
    // Half an eight before is danced by itself.
    expect(chosen(1, 1, { from: 96, to: 768 })).toEqual({ from: 192, to: 384 })
  })
})

describe('what a drill plays', () => {
  const range = (from: number, to: number, runUp: number, excerpt: Routine['excerpt'] = null) =>
    rangeOf({ stretch: { from, to }, runUp }, { ...four, excerpt })
  it('is its stretch, any counts, with its run-up as far as the dance reaches', () => {
    expect(range(240, 384, 0)).toEqual({ from: 240, to: 384 })
    expect(range(192, 384, 4)).toEqual({ from: 96, to: 384 })
    expect(range(0, 192, 4)).toEqual({ from: 0, to: 192 })
    expect(range(192, 384, 4, { from: 168, to: 768 })).toEqual({ from: 168, to: 384 })
  })
  it('always holds the stretch itself', () => {
    const tick = fc.integer({ min: 0, max: 767 })
    fc.assert(
      fc.property(tick, tick, tick, tick, fc.integer({ min: 0, max: 32 }), (a, b, x, y, runUp) => {
        const stretch = { from: Math.min(a, b), to: Math.max(a, b) + 1 }
        const excerpt = { from: Math.min(x, y), to: Math.max(x, y) + 1 }
        const played = rangeOf({ stretch, runUp }, { ...four, excerpt })
        expect(contains(played, stretch)).toBe(true)
        expect(stretch.from - played.from).toBeLessThanOrEqual(runUp * 24 + (runUp ? 23 : 0))
      }),
    )
  })
})

describe('a pass that is drilled', () => {
  const cues = [...cuesOf('1 step R'), ...cuesOf('1 clap', 'arms'), ...cuesOf('1 sway R', 'body')]
  it('is arms, or all that is not arms, or everything; nothing twice, nothing lost', () => {
    const layers = (pass?: 'feet' | 'arms' | 'all') => ofPass(cues, pass).map((c) => c.layer)
    expect(layers('arms')).toEqual(['arms'])
    expect(layers('feet')).toEqual(['feet', 'body'])
    expect(layers('all')).toEqual(['feet', 'arms', 'body'])
    expect(layers()).toEqual(layers('all'))
  })
})
