import { describe, expect, it } from 'vitest'
import { WORD_CHARACTERS, wholeWords, wordBegins, wordEnds } from './word-edges'

const OURS = new RegExp(`^[${WORD_CHARACTERS}]$`, 'u')
/** The scripts of those who are likely to write moves here; the others are taken as a whole. */
const SCRIPTS =
  /^[\p{Script=Latin}\p{Script=Greek}\p{Script=Cyrillic}\p{Script=Hebrew}\p{Script=Arabic}\p{Script=Devanagari}\p{Script=Thai}\p{Script=Han}\p{Script=Hangul}\p{Script=Hiragana}\p{Script=Katakana}]$/u
const between = (from: number, to: number) => Array.from({ length: to - from }, (_, i) => from + i)
const named = (all: number[]) => all.map((c) => `${String.fromCodePoint(c)} ${c.toString(16)}`)

describe('what words are made of, against Unicode’s own classes', () => {
  // The Unicode Standard, general categories, as the engine has them.
  it('holds every letter and number of those scripts, and every digit of 0 to 9', () => {
    const wanted = between(0, 0x10000).filter((c) => {
      const text = String.fromCodePoint(c)
      return SCRIPTS.test(text) && /^[\p{L}\p{N}]$/u.test(text)
    })
    expect(wanted.length).toBeGreaterThan(40_000)
    // Letters in circles and brackets, of 1 to 20 and the days of the week, are signs here.
    const left = wanted.filter((c) => !OURS.test(String.fromCodePoint(c)))
    expect(named(left.filter((c) => !(c >= 0x2100 && c < 0x3400)))).toEqual([])
  })
  it('holds nothing that ends a word: no space, and no sign or bracket of those who write so', () => {
    const signs = between(0, 0x10000).filter((c) => {
      const text = String.fromCodePoint(c)
      return /^[\p{P}\p{S}\p{Z}\p{Cc}\p{Cs}]$/u.test(text)
    })
    const taken = signs.filter((c) => OURS.test(String.fromCodePoint(c)))
    // Of scripts that are taken as a whole, and of Greek accents that stand alone, some signs are among their letters.
    const common = (c: number) =>
      c < 0x0370 ||
      (c >= 0x0590 && c < 0x0700) ||
      (c >= 0x0900 && c < 0x0970) ||
      (c >= 0x2000 && c < 0x2070) ||
      (c >= 0x3000 && c < 0x3041) ||
      (c >= 0xfe00 && c < 0xfe70) ||
      (c >= 0xff00 && c < 0xff66)
    expect(named(taken.filter(common))).toEqual([])
    for (const sign of ' .,;:!?-–—/“”‘’«»()&+*\'"¡¿×÷°†…、。「」・،؛؟।״־\u{1f57a}')
      expect(OURS.test(sign), sign).toBe(false)
  })
})

describe('words', () => {
  it('are found where they stand whole, in whatever is written beside them', () => {
    const turn = wholeWords('turn|tour en l’air')
    for (const text of [
      'turn',
      'a turn.',
      '“turn”',
      '右，turn、',
      'turn\u{1f57a}',
      'der (turn)',
      'tour en l’air',
    ])
      expect(turn.test(text), text).toBe(true)
    for (const text of [
      'return',
      'turns',
      'turné',
      'éturn',
      'turn2',
      '½turn',
      'поturn',
      'turn右',
      'turn\u0301',
    ])
      expect(turn.test(text), text).toBe(false)
  })
  it('are found everywhere with the flag that says so', () => {
    expect('left and Left, leftish'.replace(wholeWords('left', 'gi'), 'x')).toBe('x and x, leftish')
  })
  it('begin and end at whatever else is named', () => {
    const quoted = new RegExp(`${wordBegins('“')}L${wordEnds('”’')}`, 'gu')
    expect('L, “L”, L’arabesque, (L)'.replace(quoted, '*')).toBe('*, “L”, L’arabesque, (*)')
  })
})
