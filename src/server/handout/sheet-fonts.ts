import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { Font } from '@react-pdf/renderer'
import * as fontkit from 'fontkit'
import { letterFonts } from './letter-fonts'

/** The app's own type, embedded in every sheet. */
const OWN: Record<string, { file: string; weight: number }[]> = {
  Figtree: [
    { file: 'figtree/files/figtree-latin-400-normal.woff', weight: 400 },
    { file: 'figtree/files/figtree-latin-700-normal.woff', weight: 700 },
  ],
  Bricolage: [{ file: 'bricolage-grotesque/files/bricolage-grotesque-latin-700-normal.woff', weight: 700 }],
}

const fileOf = (file: string) => path.resolve(/* turbopackIgnore: true */ 'node_modules/@fontsource', file)

/** What a sheet is set with: its families, how wide a text is, and which of its letters no font has. */
export interface Type {
  /** Families in the order in which a letter is looked for. */
  text: string[]
  display: string[]
  measure: (text: string, size: number) => number
  missing: (text: string) => string[]
}

let own: Promise<fontkit.Font[]> | null = null
let registered = 0

/** Registers the app's own fonts, once. */
async function ownFonts(): Promise<fontkit.Font[]> {
  const fonts: fontkit.Font[] = []
  for (const [family, files] of Object.entries(OWN)) {
    Font.register({
      family,
      fonts: files.map(({ file, weight }) => ({ src: fileOf(file), fontWeight: weight })),
    })
    const first = files[0]
    if (first) fonts.push(fontkit.create(await readFile(fileOf(first.file))) as fontkit.Font)
  }
  // Words are never cut: what does not fit is set smaller, or said in a footnote.
  Font.registerHyphenationCallback((word) => [word])
  return fonts
}

const inAddress = (font: Buffer) => `data:font/ttf;base64,${font.toString('base64')}`

/** Registers the other letters of a text. @returns their families, and the regular fonts to measure with */
async function otherFonts(text: string): Promise<{ families: string[]; fonts: fontkit.Font[] }> {
  const pieces = await letterFonts(text, 'sfnt')
  const families = pieces.map(({ regular, bold }) => {
    // A family is for one sheet: another has other letters.
    const family = `Letters ${registered++}`
    Font.register({
      family,
      fonts: [
        { src: inAddress(regular), fontWeight: 400 },
        { src: inAddress(bold), fontWeight: 700 },
      ],
    })
    return family
  })
  return { families, fonts: pieces.map(({ regular }) => fontkit.create(regular) as fontkit.Font) }
}

/** A text in runs of one font each; letters that join or stand on one another are measured together. */
function runsOf(text: string, fontFor: (code: number) => fontkit.Font | undefined) {
  const runs: { font: fontkit.Font | undefined; text: string }[] = []
  for (const c of text) {
    const [font, last] = [fontFor(c.codePointAt(0) ?? 32), runs.at(-1)]
    if (last && last.font === font) last.text += c
    else runs.push({ font, text: c })
  }
  return runs
}

/** What some text is set with. @param all every word of the sheet */
export async function sheetType(all: string): Promise<Type> {
  own ??= ownFonts()
  const { families, fonts } = await otherFonts(all)
  const every = [...(await own), ...fonts]
  const found = new Map<number, fontkit.Font | undefined>()
  const fontFor = (code: number) => {
    if (!found.has(code))
      found.set(
        code,
        every.find((f) => f.hasGlyphForCodePoint(code)),
      )
    return found.get(code)
  }
  const known = new Map<string, number>()
  /** Ems across. */
  const wide = (text: string): number => {
    let w = known.get(text)
    if (w === undefined) {
      w = runsOf(text, fontFor).reduce(
        (sum, run) =>
          sum +
          (run.font ? run.font.layout(run.text).advanceWidth / run.font.unitsPerEm : 0.6 * run.text.length),
        0,
      )
      known.set(text, w)
    }
    return w
  }
  return {
    text: ['Figtree', ...families],
    display: ['Bricolage', 'Figtree', ...families],
    measure: (text, size) => wide(text) * size * 1.02,
    missing: (text) => [...new Set(text)].filter((c) => c.trim() && !fontFor(c.codePointAt(0) ?? 32)),
  }
}
