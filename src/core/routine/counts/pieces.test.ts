import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { commit } from '../gate/commit'
import { ids, page, phrase } from '../hand.test-tools'
import { joinPhrase, rebase, setBorders, setUsualBorder, shiftPhrases, splitPhrase } from '../index'
import { stretchName } from '../names/names'
import { danceRows } from '../repeats/dance'
import { placePhrases } from './layout'
import { borderOfBeginning, borderOfEnd, pieceOf } from './pieces'

// Eights of 192 ticks; a count has 24. All by hand.
const four = page(4)
const LEANS = { lean: 12, resolve: 0 }
const LANDS = { lean: 0, resolve: 24 }
const eight = (n: number) => ({ from: n * 192, to: (n + 1) * 192 })

describe('a piece of the dance', () => {
  it('begins with its pick-up, and ends where the next one begins', () => {
    const placed = placePhrases(setUsualBorder(four, LEANS).routine)
    expect([0, 1, 2, 3].map((n) => pieceOf(placed, eight(n)))).toEqual([
      { from: 0, to: 180 },
      { from: 180, to: 372 },
      { from: 372, to: 564 },
      { from: 564, to: 768 },
    ])
    expect(pieceOf(placed, { from: 192, to: 576 })).toEqual({ from: 180, to: 564 })
    // Half an eight takes along what belongs to its end at a border.
    expect(pieceOf(placed, { from: 192, to: 288 })).toEqual({ from: 180, to: 288 })
    expect(pieceOf(placed, { from: 288, to: 384 })).toEqual({ from: 288, to: 372 })
    expect(pieceOf(placed, { from: 200, to: 300 })).toEqual({ from: 200, to: 300 })
  })
  it('ends on the 1 it lands on, which also begins the next', () => {
    const placed = placePhrases(setBorders(four, [192], LANDS))
    expect(pieceOf(placed, eight(0))).toEqual({ from: 0, to: 216 })
    expect(pieceOf(placed, eight(1))).toEqual(eight(1))
  })
  it('is never empty, however much belongs to what follows', () => {
    const placed = placePhrases(setUsualBorder(four, { lean: 192, resolve: 0 }).routine)
    expect(pieceOf(placed, { from: 100, to: 192 })).toEqual({ from: 100, to: 192 })
    const short = placePhrases({
      ...setUsualBorder(four, { lean: 96, resolve: 0 }).routine,
      phrases: [2, 8].map((length) => ({ length, feel: 'straight' as const, pickUp: length < 8 })),
    })
    expect(short.map((p) => p.lean)).toEqual([0, 48])
  })
  it('is traced back to its borders', () => {
    const breath = fc.record({
      lean: fc.integer({ min: 0, max: 96 }),
      resolve: fc.integer({ min: 0, max: 48 }),
    })
    fc.assert(
      fc.property(breath, fc.nat(3), fc.nat(3), (b, x, y) => {
        const placed = placePhrases(setUsualBorder(four, b).routine)
        const whole = { from: Math.min(x, y) * 192, to: (Math.max(x, y) + 1) * 192 }
        const piece = pieceOf(placed, whole)
        expect(borderOfBeginning(placed, piece.from)).toBe(whole.from)
        expect(borderOfEnd(placed, piece.to)).toBe(whole.to)
      }),
    )
  })
})

describe('pieces of a dance', () => {
  const rows = (r: typeof four) => danceRows(r).map((d) => [d.row.from, d.row.to])
  it('meet without a hole, and what the dance ends with stays in it', () => {
    const all = setUsualBorder(four, LEANS).routine
    expect(rows(all)).toEqual([
      [0, 180],
      [180, 372],
      [372, 564],
      [564, 768],
    ])
    expect(rows({ ...all, excerpt: { from: 180, to: 576 } })).toEqual([
      [180, 372],
      [372, 576],
    ])
  })
  it('of which one is all danced with the one before are one', () => {
    const lands = { ...setUsualBorder(four, LANDS).routine, excerpt: { from: 0, to: 216 } }
    expect(rows(lands)).toEqual([[0, 216]])
  })
})

describe('what is said of borders', () => {
  const done = (edit: Parameters<typeof commit>[1], of = four) => {
    const c = commit(of, edit)
    if (!c.done) throw new Error(c.why)
    return c
  }
  it('is kept where it is not as usual', () => {
    const usual = done((r) => setUsualBorder(r, LEANS)).routine
    expect(done((r) => setBorders(r, [192], LANDS), usual).routine.borders).toEqual([{ at: 192, ...LANDS }])
    const one = done((r) => setBorders(r, [192], LANDS), usual).routine
    expect(done((r) => setBorders(r, [192], LEANS), one).routine.borders).toEqual([])
    expect(done((r) => setUsualBorder(r, LANDS), one).routine).toMatchObject({
      usualBorder: LANDS,
      borders: [],
    })
  })
  it('is refused where no phrase ends and another begins', () => {
    for (const at of [0, 100, 768])
      expect(commit(four, (r) => setBorders(r, [at], LEANS))).toMatchObject({ done: false })
    expect(commit(four, (r) => setUsualBorder(r, { lean: 500, resolve: 0 }))).toMatchObject({ done: false })
  })
  it('goes along with its border, and goes with it, which is said', () => {
    const two = done((r) => setBorders(r, [192, 384], LANDS)).routine
    const along = done((r) => shiftPhrases(r, 2), two)
    expect(along.routine.borders.map((b) => b.at)).toEqual([240, 432])
    const gone = done((r) => joinPhrase(r, 0), two)
    expect(gone.routine.borders.map((b) => b.at)).toEqual([384])
    expect(gone.said.join()).toContain('What belongs together was said at a border')
    expect(done((r) => splitPhrase(r, 4), two).routine.borders).toEqual(two.borders)
  })
  it('is as long in the music where counts are halved or doubled', () => {
    const r = setBorders(setUsualBorder(four, LEANS).routine, [384], { lean: 24, resolve: 12 })
    const twice = rebase(r, (t) => 2 * t, 64, ids()).routine
    expect(twice.usualBorder).toEqual({ lean: 24, resolve: 0 })
    expect(twice.borders).toEqual([{ at: 768, lean: 48, resolve: 24 }])
    const shifted = rebase(r, (t) => t + 24, 33, ids()).routine
    expect([shifted.usualBorder, shifted.borders]).toEqual([LEANS, [{ at: 408, lean: 24, resolve: 12 }]])
  })
  it('of every border is said where it was otherwise', () => {
    const one = done((r) => setBorders(r, [192, 384], LANDS)).routine
    expect(done((r) => setUsualBorder(r, LEANS), one).said).toEqual([
      '2 places were said otherwise, and are so now too.',
    ])
    expect(done((r) => setUsualBorder(r, LANDS), one).said).toEqual([])
  })
  it('is what the names of pieces say', () => {
    const r = setBorders(setUsualBorder(four, LEANS).routine, [384], LANDS)
    const placed = placePhrases(r)
    const name = (from: number, to: number) => stretchName(placed, { from, to })
    expect(name(0, 180)).toBe('Eight 1 until 8&')
    expect(name(180, 408)).toBe('Eight 2, from 8& to the 1 after')
    expect(name(192, 384)).toBe('Eight 2')
    expect(name(180, 288)).toBe('Eight 2, 1 to 4 with the 8& before')
    expect(phrase(r, 1).lean).toBe(12)
  })
})
