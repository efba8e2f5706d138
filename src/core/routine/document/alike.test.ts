import { isDeepStrictEqual } from 'node:util'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { alike } from './alike'

const few = fc.jsonValue({ maxDepth: 2 })

it('is what Node calls deeply equal, of what JSON holds', () => {
  fc.assert(
    fc.property(
      fc.oneof(
        fc.tuple(few, few),
        few.map((x) => [x, structuredClone(x)] as const),
      ),
      ([a, b]) => {
        // JSON has one zero.
        const text = (x: unknown) => JSON.parse(JSON.stringify(x))
        expect(alike(text(a), text(b))).toBe(isDeepStrictEqual(text(a), text(b)))
      },
    ),
    { numRuns: 400 },
  )
})
it('is not of another kind, and takes what is left out for what is not there', () => {
  for (const [a, b] of [
    [{}, null],
    [null, {}],
    [{}, 'x'],
    ['x', {}],
    [1, '1'],
    [{ a: 1 }, { b: 1 }],
  ])
    expect(alike(a, b)).toBe(false)
  expect(alike({ a: undefined, b: { c: 1, d: undefined } }, { b: { c: 1 } })).toBe(true)
  expect(alike({ b: 1, a: 2 }, { a: 2, b: 1 })).toBe(true)
})
