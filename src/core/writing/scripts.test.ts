import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { foreignLetters, inRanges, LETTERS, lettersFor } from './scripts'

const names = (text: string) => lettersFor(text).map((l) => l.name)

describe('the letters a text is set with', () => {
  it.each([
    ['step R, pivot ½ left – “go” …', []],
    ['Überschlag, façade', []],
    ['шаг вправо', ['noto-sans']],
    ['βήμα', ['noto-sans']],
    ['bước tới', ['noto-sans']],
    ['कदम दायाँ', ['noto-sans']],
    ['خطوة يمين', ['vazirmatn']],
    ['צעד ימינה', ['noto-sans-hebrew']],
    ['ก้าวขวา', ['noto-sans-thai']],
    ['손을 들어', ['noto-sans-kr']],
    ['サビ', ['noto-sans-jp']],
  ])('%s', (text, wanted) => expect(names(text)).toEqual(wanted))
  it('draws Han as the language of the whole text does', () => {
    expect(names('夜空')[0]).toBe('noto-sans-sc')
    expect(names('夜空 を見上げて').slice(0, 2)).toEqual(['noto-sans-jp', 'noto-sans-tc'])
    expect(names('夜空 밤하늘').slice(0, 2)).toEqual(['noto-sans-kr', 'noto-sans-tc'])
    expect(names('我愛聽風')[0]).toBe('noto-sans-tc')
    expect(names('我爱听风')[0]).toBe('noto-sans-sc')
  })
  it('asks for no letters where a text has only those of the app', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary-ascii' }), (text) => {
        expect(lettersFor(text)).toEqual([])
        expect(foreignLetters(text)).toBe('')
      }),
    )
  })
  it('asks for no face twice', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) => {
        const asked = names(text)
        expect(new Set(asked).size).toBe(asked.length)
        expect(asked.length).toBeLessThanOrEqual(Object.keys(LETTERS).length)
      }),
    )
  })
})

it('reads ranges as style sheets write them', () => {
  expect(inRanges(0x131, 'U+0000-00FF,U+0131, U+ac00-ac0f')).toBe(true)
  expect(inRanges(0xac0f, 'U+0000-00FF,U+0131, U+ac00-ac0f')).toBe(true)
  expect(inRanges(0xac10, 'U+0000-00FF,U+0131, U+ac00-ac0f')).toBe(false)
})
