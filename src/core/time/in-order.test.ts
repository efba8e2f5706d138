import fc from 'fast-check'
import { expect, it } from 'vitest'
import { countWhile } from '.'

it('counts what comes before a place in a list in order, as looking at all of it does', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: -20, max: 20 })), fc.integer({ min: -25, max: 25 }), (list, n) => {
      const inOrder = [...list].sort((a, b) => a - b)
      expect(countWhile(inOrder, (x) => x < n)).toBe(list.filter((x) => x < n).length)
      expect(countWhile(inOrder, (x) => x <= n)).toBe(list.filter((x) => x <= n).length)
    }),
  )
})
