import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cuesOf, page } from '../routine/hand.test-tools'
import { calledIn, soundPlan, USUAL_SOUND, usualContents } from '.'

const routine = page(4, cuesOf(['1 step R; 3 big slow turn L; 5 kick R', '1 step L; 5 clap']))
const times = Array.from({ length: 33 }, (_, i) => 3 + i * 0.5)
const contents = { ...usualContents(routine), stretch: { from: 0, to: 384 } }
const plan = (what: Partial<typeof USUAL_SOUND> = {}) =>
  soundPlan(routine, times, contents, { ...USUAL_SOUND, ...what })

describe('a practice sound', () => {
  it('goes up a ladder, each rung said, counted in, and so often', () => {
    const p = plan({ speeds: [0.5, 1], times: 2 })
    expect(p.chapters.map((c) => c.name)).toEqual(['50 %', '100 %'])
    expect(p.announced.map((a) => a.words)).toEqual(['50 percent', '100 percent'])
    expect(p.legs.map((l) => l.timeline.speed)).toEqual([0.5, 0.5, 1, 1])
    // Worked by hand: 16 counts of half a second are 16 s at half the speed, four counts of count-in 4 s.
    expect(p.legs[0]?.start).toBeCloseTo(0.5 + 1.8 + 4, 9)
    expect(p.legs[1]?.start).toBeCloseTo(6.3 + 16 + 4, 9)
    expect(p.chapters[1]?.at).toBeCloseTo(6.3 + 16 + 4 + 16 + 1, 9)
    expect(p.seconds).toBeCloseTo((p.legs[3]?.start ?? 0) + 8 + 0.8, 9)
    expect(p.words).toContain('step R')
  })
  it('calls fade: words, their first words, numbers, nothing', () => {
    expect([0, 1, 2, 3].map((k) => calledIn('fading', k, 4))).toEqual(['words', 'first', 'numbers', 'none'])
    expect([0, 7].map((k) => calledIn('fading', k, 8))).toEqual(['words', 'none'])
    const calls = plan({ speeds: [0.5], times: 4, calls: 'fading' }).legs.map((l) =>
      l.timeline.counts.filter((c) => c.call).map((c) => c.call),
    )
    expect(calls[0]).toContain('big slow turn L')
    expect(calls[1]).toContain('big')
    expect(calls[2]?.slice(0, 3)).toEqual(['1', '2', '3'])
    expect(calls[3]).toEqual([])
  })
  it('nothing lies over anything else, and all of it within its length', () => {
    fc.assert(
      fc.property(
        fc.subarray([0.5, 0.6, 0.75, 0.9, 1], { minLength: 1 }),
        fc.integer({ min: 1, max: 5 }),
        fc.constantFrom(2, 4, 8),
        fc.boolean(),
        (speeds, n, countIn, announced) => {
          const p = plan({ speeds, times: n, countIn, announced })
          expect(p.legs).toHaveLength(speeds.length * n)
          let end = 0
          for (const l of p.legs) {
            expect(l.start - l.timeline.lead).toBeGreaterThanOrEqual(end - 1e-9)
            end = l.start + l.timeline.body
          }
          for (const a of p.announced)
            for (const l of p.legs)
              expect(a.at + 1.5 <= l.start - l.timeline.lead || a.at >= l.start + l.timeline.body).toBe(true)
          expect(p.seconds).toBeGreaterThan(end)
        },
      ),
    )
  })
})
