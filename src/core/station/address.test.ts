import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { emptyRoutine, placePhrases, type Routine } from '../routine'
import { namedOffsets } from '../time'
import { hashOf, tickOfHash } from './address'

const phrases = fc.array(
  fc.record({
    length: fc.integer({ min: 1, max: 12 }),
    feel: fc.constantFrom('straight' as const, 'triplet' as const),
    pickUp: fc.constant(false),
  }),
  { minLength: 2, maxLength: 12 },
)
const name = fc.constantFrom('', 'Verse', 'A & B, slowly', '손뼉 + 1', 'half #2 %41')

describe('the place in the address', () => {
  it('is read back from its own words, whatever sections are called', () => {
    fc.assert(
      fc.property(phrases, name, fc.nat(), fc.nat(), (list, called, row, n) => {
        const routine: Routine = {
          ...emptyRoutine('x'),
          phrases: list,
          sections: [{ id: 's', at: 0, kind: 'verse', letter: 'A', name: called }],
        }
        const placed = placePhrases(routine)
        const p = placed[row % placed.length] as (typeof placed)[0]
        const offsets = namedOffsets(p.phrase.feel)
        const tick = p.start + (n % p.phrase.length) * 24 + (offsets[n % offsets.length] as number)
        const hash = hashOf(placed, tick)
        expect(new URL(hash, 'http://localhost/r/1/cue').hash).toBe(hash)
        expect(tickOfHash(placed, hash)).toBe(tick)
      }),
    )
  })
  it.each(['', '#', '#nowhere', '#%', '#%E0%A4%A', '#Verse, eight 99, 1'])('%s names none', (hash) => {
    const placed = placePhrases({
      ...emptyRoutine('x'),
      phrases: [{ length: 8, feel: 'straight', pickUp: false }],
    })
    expect(tickOfHash(placed, hash)).toBeNull()
  })
})
