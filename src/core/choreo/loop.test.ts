import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { danced } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import { followBody, loopNeeds, moveBook, STARTING_MOVES, stepAt } from '.'

const book = moveBook(STARTING_MOVES)
/** What the eight of a number needs to be danced again after itself, of a dance of so many lines. */
const needs = (lines: string[], i = 0) => {
  const cues = danced(page(lines.length, cuesOf(lines)))
  const { steps } = followBody(cues, book)
  return loopNeeds(cues, steps, { from: i * 192, to: (i + 1) * 192 }, book)
}

// Worked by hand: the foot that carries the weight at the end cannot be the one that steps first.
describe('a phrase danced again right after itself', () => {
  it('needs nothing where the weight ends on the other foot, facing as it began', () => {
    expect(needs(['1 step R; 5 step L'])).toEqual([])
    expect(needs(['1 step R; 2 touch L; 3 step L'])).toEqual([])
  })
  it('needs a change of weight where it ends on the foot it begins with', () => {
    expect(needs(['1 step R; 3 step L; 5 step R'])).toEqual(['change the weight off the right foot'])
    expect(needs(['1 step L'])).toEqual(['change the weight off the left foot'])
  })
  it('needs a turn where it ends to another wall than it began with, whichever that was', () => {
    const turned = '1 step R; 3 pivot ½ left; 5 step R; 7 step L'
    expect(needs([turned]).join()).toMatch(/^turn from .* to /)
    // The second time it begins at the back, and ends in front.
    expect(needs([turned, turned], 1).join()).toMatch(/^turn from .* to /)
    expect(needs([turned, turned], 1)).not.toEqual(needs([turned, turned], 0))
    expect(needs([turned, '1 step R; 3 step L'], 1)).toEqual([])
  })
  it('goes by how it began, before its first step, and by its own end, before the next one begins', () => {
    expect(needs(['1 pivot ½ left; 5 step R']).join()).toMatch(/turn from/)
    expect(needs(['1 step R; 5 step L', '1 step R; 5 step L'], 0)).toEqual([])
  })
  it('needs nothing where no foot moves', () => {
    expect(needs(['', '1 step R'])).toEqual([])
  })
})

describe('the body at a place', () => {
  const { steps } = followBody(cuesOf('1 step R; 3 step L; 5& step R', 'feet', ids()), book)
  it('is that of the last step at or before it, whatever the place', () => {
    expect(stepAt(steps, 0)?.weight).toBe('right')
    expect(stepAt(steps, 47)?.weight).toBe('right')
    expect(stepAt(steps, 48)?.weight).toBe('left')
    fc.assert(
      fc.property(fc.integer({ min: -50, max: 300 }), (tick) => {
        const here = stepAt(steps, tick)
        const before = steps.filter((s) => s.at <= tick)
        expect(here).toBe(before.at(-1) ?? null)
      }),
    )
  })
})
