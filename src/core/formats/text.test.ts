import { describe, expect, it } from 'vitest'
import { decodeText } from './text'

const bytes = (...b: number[]) => Uint8Array.from(b)
const utf16 = (text: string, big: boolean, mark: boolean) => {
  const codes = Array.from({ length: text.length }, (_, i) => text.charCodeAt(i))
  const all = mark ? [0xfeff, ...codes] : codes
  return Uint8Array.from(all.flatMap((c) => (big ? [c >> 8, c & 255] : [c & 255, c >> 8])))
}

describe('the text of a file', () => {
  const text = 'Grüße, eight 1\n♪'
  it('is UTF-8, with a mark or without', () => {
    expect(decodeText(new TextEncoder().encode(text))).toBe(text)
    expect(decodeText(bytes(0xef, 0xbb, 0xbf, 0x41))).toBe('A')
    expect(decodeText(bytes())).toBe('')
  })
  it.each([
    ['little', false],
    ['big', true],
  ])('is UTF-16, %s end first, with a mark whatever it holds, without one where it is plain', (_, big) => {
    expect(decodeText(utf16('♪♫♪', big, true))).toBe('♪♫♪')
    expect(decodeText(utf16(text, big, true))).toBe(text)
    expect(decodeText(utf16('plain words', big, false))).toBe('plain words')
    // Half of these are letters without a zero byte, still more than a quarter is.
    expect(decodeText(utf16('ab♪♪ab♪a', big, false))).toBe('ab♪♪ab♪a')
  })
  it('is Windows-1252 where it is nothing else', () => {
    expect(decodeText(bytes(0x47, 0x72, 0xfc, 0xdf, 0x65))).toBe('Grüße')
    expect(decodeText(bytes(0xff, 0x41))).toBe('ÿA')
    expect(decodeText(bytes(0xfe, 0x41))).toBe('þA')
    expect(decodeText(bytes(0x41, 0xfe))).toBe('Aþ')
    expect(decodeText(bytes(0x41, 0xff))).toBe('Aÿ')
  })
  it('is not UTF-16 for a zero or two, nor for zeros at both places', () => {
    expect(decodeText(bytes(0x41, 0, 0x42, 0x43, 0x44, 0x45, 0x46, 0x47))).toBe('A\0BCDEFG')
    expect(decodeText(bytes(0, 0, 0, 0))).toBe('\0\0\0\0')
  })
})
