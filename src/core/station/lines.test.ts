import { describe, expect, it } from 'vitest'
import { labelIn, type Phrase, phraseAt, placePhrases } from '@/core/routine'
import { linesOf } from './lines'

const phrase = (length: number, pickUp = false): Phrase => ({ length, feel: 'straight', pickUp })
const placed = placePhrases({
  phrases: [phrase(1, true), phrase(8), phrase(12), phrase(16), phrase(6)],
  sections: [],
  usual: 8,
})

describe('the lines of the sheet', () => {
  const lines = linesOf(placed)
  it('are one a phrase, two where it is longer than eight counts', () => {
    expect(lines.map((l) => [l.index, l.piece, (l.end - l.start) / 24, l.first])).toEqual([
      [0, 0, 1, 8],
      [1, 0, 8, 1],
      [2, 0, 8, 1],
      [2, 1, 4, 9],
      [3, 0, 8, 1],
      [3, 1, 8, 9],
      [4, 0, 6, 1],
    ])
    expect(lines.map((l) => l.row)).toEqual([0, 1, 2, 3, 4, 5, 6])
  })
  it('follow one another without holes, and count on where their phrase does', () => {
    for (const [i, l] of lines.entries()) expect(l.start).toBe(lines[i - 1]?.end ?? 0)
    for (const tick of [0, 30, 216, 216 + 8 * 24, 216 + 11 * 24 + 12]) {
      const [whole, line] = [phraseAt(placed, tick), phraseAt(lines, tick)]
      expect(line && labelIn(line, tick)).toBe(whole && labelIn(whole, tick))
    }
  })
})
