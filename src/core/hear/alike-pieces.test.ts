import { describe, expect, it } from 'vitest'
import { type CountedPiece, likenessByLag, withEightsAlike } from './alike-pieces'
import { beatsOf } from './chords.test-tools'
import type { BeatFeatures } from './features'

/** Beats of a loop of chords, one a beat, from one of its beats on. */
const loopOf = (chords: readonly number[], from: number, beats: number): BeatFeatures =>
  beatsOf(
    Array.from({ length: beats }, (_, k) => chords[(from + k) % chords.length] as number),
    from,
  )

/** Sixteen beats that no bar of them repeats, so that each place is told from every other. */
const CHORDS = [0, 0, 5, 5, 7, 7, 2, 2, 0, 0, 5, 5, 9, 9, 4, 4]

const piece = (features: BeatFeatures, one: number, sure: number, own: Partial<CountedPiece> = {}) => {
  const starts = Array.from({ length: Math.ceil((features.beats - one) / 8) }, (_, i) => one + 8 * i)
  return {
    beats: Array.from({ length: features.beats }, (_, k) => k / 2),
    ...{ steady: true, bar: 4, metres: [{ from: 0, bar: 4 }], starts, features },
    sure: { beats: starts.map(() => 0.9), ones: starts.map(() => sure) },
    confidence: { beats: 0.9, one: sure },
    others: { tempi: [], bars: [], ones: [] },
    ...own,
  } as CountedPiece
}

describe('pieces of one song', () => {
  it('are alike as many beats later as they are apart', () => {
    for (const from of [0, 3, 6]) {
      const list = likenessByLag(loopOf(CHORDS, 0, 48), loopOf(CHORDS, from, 40))
      expect(list.indexOf(Math.max(...list))).toBe(from % 8)
      expect(list[from % 8]).toBeCloseTo(1)
    }
  })

  it('have the eights of the surer one where the same music comes in both', () => {
    const sure = piece(loopOf(CHORDS, 0, 48), 0, 0.9)
    // It begins with the seventh beat of the loop: the eight is two beats later, not six.
    const wrong = piece(loopOf(CHORDS, 6, 41), 6, 0.6)
    const right = piece(loopOf(CHORDS, 6, 41), 2, 0.6)
    expect(withEightsAlike([sure, wrong])[1]).toMatchObject({ starts: right.starts })
    expect(withEightsAlike([wrong, sure])[0]).toMatchObject({ starts: right.starts })
    expect(withEightsAlike([sure, right])).toEqual([sure, right])
    const { starts, sure: sures } = withEightsAlike([sure, wrong])[1] as CountedPiece
    expect([sures.beats.length, sures.ones.length]).toEqual([starts.length, starts.length])
    // No phrase begins after its last beat.
    const late = withEightsAlike([sure, piece(loopOf(CHORDS, 1, 40), 3, 0.6)])[1] as CountedPiece
    expect(late.starts).toEqual([7, 15, 23, 31, 39])
  })

  it('keep their own where nothing tells them, or their bars are others', () => {
    const sure = piece(loopOf(CHORDS, 0, 48), 0, 0.9)
    const other = piece(loopOf([11], 0, 40), 4, 0.6)
    expect(withEightsAlike([sure, other])).toEqual([sure, other])
    const three = piece(loopOf(CHORDS, 6, 41), 6, 0.6, { bar: 3 })
    expect(withEightsAlike([sure, three])).toEqual([sure, three])
    const short = piece(loopOf(CHORDS, 6, 12), 6, 0.6)
    expect(withEightsAlike([sure, short])).toEqual([sure, short])
    expect(withEightsAlike([])).toEqual([])
  })
})
