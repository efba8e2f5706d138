import * as fontkit from 'fontkit'
import { describe, expect, it } from 'vitest'
import { letterFonts } from './letter-fonts'

const open = (font: Buffer) => fontkit.create(font) as fontkit.Font

describe('letters that hand-outs carry', () => {
  it('are none where the words are written with those of the app', async () =>
    expect(await letterFonts('step R – “go” … façade', 'sfnt')).toEqual([]))
  it('are the letters of the words and no others, each once, in two weights', async () => {
    const fonts = await letterFonts('서울의 밤 서울 – шаг', 'sfnt')
    expect(
      fonts
        .map((f) => f.letters)
        .join('')
        .split('')
        .sort(),
    ).toEqual([...'서울의밤шаг'].sort())
    for (const { letters, regular, bold } of fonts) {
      for (const font of [open(regular), open(bold)]) {
        // Read by a library that did not cut it.
        expect(
          [...font.characterSet]
            .filter((c) => c < 0xffff)
            .map((c) => String.fromCodePoint(c))
            .sort(),
        ).toEqual([...letters].sort())
      }
      const ink = (font: Buffer) => open(font).glyphForCodePoint(letters.codePointAt(0) ?? 0).path.bbox
      expect(ink(bold).width).toBeGreaterThan(ink(regular).width)
    }
  })
  it('are drawn as the language of the words draws them', async () => {
    const drawn = async (words: string) => {
      const piece = (await letterFonts(words, 'sfnt')).find((f) => f.letters.includes('直'))
      return open(piece?.regular ?? Buffer.alloc(0))
        .glyphForCodePoint(0x76f4)
        .path.toSVG()
    }
    expect(await drawn('直 まっすぐ')).not.toBe(await drawn('直线 说'))
  })
  it('leave out what the app ships in no face', async () =>
    expect(await letterFonts('ᚱ', 'woff2')).toEqual([]))
})
