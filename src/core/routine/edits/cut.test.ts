import fc from 'fast-check'
import { expect, it } from 'vitest'
import { cutText } from './cut'

it('is never longer, never half a character, and all of what is short enough', () => {
  const flags = '🇨🇭🇸🇪'
  expect(cutText(flags, 5)).toBe('🇨🇭')
  expect(cutText('e\u0301a', 1)).toBe('')
  expect(cutText('abcd', 3)).toBe('abc')
  expect(cutText('one two', 5)).toBe('one t')
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme', maxLength: 80 }), fc.nat(60), (text, most) => {
      const cut = cutText(text, most)
      expect(cut.length).toBeLessThanOrEqual(most)
      expect(text.startsWith(cut)).toBe(true)
      // Half a character cannot be encoded.
      expect(() => encodeURIComponent(cut)).not.toThrow()
      if (text.length <= most) expect(cut).toBe(text)
    }),
  )
})
