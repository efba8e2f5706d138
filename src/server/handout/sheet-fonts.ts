import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { Font } from '@react-pdf/renderer'
import * as fontkit from 'fontkit'

/** Fonts embedded in the sheet: the app's own, and one that has more letters. */
const FILES: Record<string, { file: string; weight: number }[]> = {
  Figtree: [
    { file: 'figtree/files/figtree-latin-400-normal.woff', weight: 400 },
    { file: 'figtree/files/figtree-latin-700-normal.woff', weight: 700 },
  ],
  Bricolage: [{ file: 'bricolage-grotesque/files/bricolage-grotesque-latin-700-normal.woff', weight: 700 }],
  ...Object.fromEntries(
    (['latin-ext', 'cyrillic', 'greek', 'devanagari', 'vietnamese'] as const).map((script) => [
      `Noto ${script}`,
      [400, 700].map((weight) => ({
        file: `noto-sans/files/noto-sans-${script}-${weight}-normal.woff`,
        weight,
      })),
    ]),
  ),
}

const WIDER = Object.keys(FILES).filter((f) => f.startsWith('Noto'))
/** Families in the order in which a letter is looked for. */
export const TEXT = ['Figtree', ...WIDER]
export const DISPLAY = ['Bricolage', ...TEXT]

const fileOf = (file: string) => path.resolve(/* turbopackIgnore: true */ 'node_modules/@fontsource', file)

/** What the sheet is set with: how wide a text is, and which of its letters no font has. */
export interface Type {
  measure: (text: string, size: number) => number
  missing: (text: string) => string[]
}

let ready: Promise<Type> | null = null

/** Registers the fonts once, and measures with them. */
export function sheetType(): Promise<Type> {
  ready ??= load()
  return ready
}

async function load(): Promise<Type> {
  const fonts: fontkit.Font[] = []
  for (const [family, files] of Object.entries(FILES)) {
    Font.register({
      family,
      fonts: files.map(({ file, weight }) => ({ src: fileOf(file), fontWeight: weight })),
    })
    const first = files[0]
    if (first) fonts.push(fontkit.create(await readFile(fileOf(first.file))) as fontkit.Font)
  }
  // Words are never cut: what does not fit is set smaller, or said in a footnote.
  Font.registerHyphenationCallback((word) => [word])
  const fontFor = (code: number) => fonts.find((f) => f.hasGlyphForCodePoint(code))
  const wide = new Map<number, number>()
  const widthOf = (code: number): number => {
    let w = wide.get(code)
    if (w === undefined) {
      const font = fontFor(code)
      w = font ? font.glyphForCodePoint(code).advanceWidth / font.unitsPerEm : 0.6
      wide.set(code, w)
    }
    return w
  }
  return {
    measure: (text, size) => [...text].reduce((s, c) => s + widthOf(c.codePointAt(0) ?? 32), 0) * size * 1.02,
    missing: (text) => [...new Set(text)].filter((c) => c.trim() && !fontFor(c.codePointAt(0) ?? 32)),
  }
}
