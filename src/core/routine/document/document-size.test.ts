import fc from 'fast-check'
import { expect, it } from 'vitest'
import { documentBytes } from './document-size'

const texts = fc.string({ unit: 'binary', maxLength: 12 }).filter((s) => !/\p{Surrogate}/u.test(s))
// As long as two, three and four bytes begin and end (RFC 3629, section 3).
const edges = fc.constantFrom(
  '\u007f',
  '\u0080',
  '\u07ff',
  '\u0800',
  '\ud7ff',
  '\ue000',
  '\uffff',
  '\u{10000}',
  '\u{10ffff}',
)
const values = fc.oneof(texts, edges, fc.integer(), fc.boolean(), fc.record({ name: fc.oneof(texts, edges) }))
const documents = fc.dictionary(
  fc.stringMatching(/^[a-z]{1,6}$/),
  fc.oneof(values, fc.array(values, { maxLength: 4 })),
)

it('is what the document takes as JSON in UTF-8, commas aside', () => {
  fc.assert(
    fc.property(documents, (document) => {
      const lists = Object.values(document).filter(Array.isArray)
      // A comma after each field and each of a list, and no brackets.
      const counted =
        (Object.keys(document).length ? 1 : 0) - lists.reduce((n, l) => n + (l.length ? 1 : 2), 0)
      expect(documentBytes(document)).toBe(
        new TextEncoder().encode(JSON.stringify(document)).length + counted,
      )
      // Measured once, it is the same.
      expect(documentBytes(document)).toBe(documentBytes({ ...document, none: undefined }))
    }),
    { numRuns: 300 },
  )
})
