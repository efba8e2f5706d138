import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { common, contains, covered, holds, joined, type Stretch, without } from '.'

const stretch = fc
  .tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: 1, max: 40 }))
  .map(([from, length]): Stretch => ({ from, to: from + length }))
/** The ticks of stretches, one by one. */
const ticks = (...list: readonly Stretch[]) =>
  new Set(list.flatMap((s) => Array.from({ length: s.to - s.from }, (_, i) => s.from + i)))
const sorted = (set: Iterable<number>) => [...set].sort((a, b) => a - b)

describe('stretches, tick by tick', () => {
  it('share what both hold, and leave what the other does not', () => {
    fc.assert(
      fc.property(stretch, stretch, (a, b) => {
        const both = sorted(ticks(a)).filter((t) => ticks(b).has(t))
        const piece = common(a, b)
        expect(piece ? sorted(ticks(piece)) : []).toEqual(both)
        expect(sorted(ticks(...without(a, b)))).toEqual(sorted(ticks(a)).filter((t) => !ticks(b).has(t)))
        expect(contains(a, b)).toBe(both.length === b.to - b.from)
        for (const t of [a.from - 1, a.from, a.to - 1, a.to]) expect(holds(a, t)).toBe(ticks(a).has(t))
      }),
    )
  })
  it('joined are the same ticks in as few pieces as can be, in order', () => {
    fc.assert(
      fc.property(fc.array(stretch, { maxLength: 8 }), (list) => {
        const pieces = joined(list)
        expect(sorted(ticks(...pieces))).toEqual(sorted(ticks(...list)))
        pieces.forEach((p, i) => {
          if (i) expect(p.from).toBeGreaterThan(pieces[i - 1]?.to as number)
        })
      }),
    )
  })
  it('covered is held by several together', () => {
    fc.assert(
      fc.property(stretch, fc.array(stretch, { maxLength: 5 }), (s, list) => {
        expect(covered(s, list)).toBe(sorted(ticks(s)).every((t) => ticks(...list).has(t)))
      }),
    )
  })
})
