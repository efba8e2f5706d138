import fc from 'fast-check'
import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import { base64Of, base64Text, bytesOf, isBase64 } from './base64'

describe('base64', () => {
  // RFC 4648, section 10.
  it.each(['', 'Zg==', 'Zm8=', 'Zm9v', 'Zm9vYg==', 'Zm9vYmE=', 'Zm9vYmFy'])(
    'takes the test vector “%s”',
    (text) => {
      expect(isBase64(text)).toBe(true)
      expect(base64Of(bytesOf(text))).toBe(text)
    },
  )
  it.each(['Z', 'Zg=', 'Zm9v=', '====', 'Zm 9', 'Zm9v\n', 'Zm-_', 'Zé==', 'Z=9v'])(
    'takes no “%s”',
    (text) => {
      expect(isBase64(text)).toBe(false)
    },
  )
  it('is what Node writes, whatever the bytes', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 20_000 }), (bytes) => {
        const text = Buffer.from(bytes).toString('base64')
        expect(base64Of(bytes)).toBe(text)
        expect(isBase64(text)).toBe(true)
        expect(Buffer.from(bytesOf(text)).equals(Buffer.from(bytes))).toBe(true)
      }),
      { numRuns: 50 },
    )
  })
  it('looks through as much as a recording may have, and a wrong letter at its end', () => {
    const longest = 'A'.repeat(7_000_000)
    expect(v.is(base64Text(7_000_000), longest)).toBe(true)
    expect(v.is(base64Text(7_000_000), `${longest.slice(0, -4)}AA!A`)).toBe(false)
    expect(v.is(base64Text(7_000_000), `${longest}AAAA`)).toBe(false)
  })
})
