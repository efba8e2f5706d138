import { readFile } from 'node:fs/promises'
import path from 'node:path'
import subsetFont from 'subset-font'
import * as v from 'valibot'
import { foreignLetters, inRanges, type Letters, lettersFor } from '@/core/writing'

/* Hand-outs carry the letters that their words need, and no more: cut from the faces the app is shipped with. */

/** A piece of a face: some letters of it, in two weights. */
export interface LetterFont {
  letters: string
  regular: Buffer
  bold: Buffer
}

const packages = (file: string) => path.resolve(/* turbopackIgnore: true */ 'node_modules', file)

/** Ranges of code points by the slice of a face that has them. */
const rangesOf = async (name: string) =>
  v.parse(
    v.record(v.string(), v.string()),
    JSON.parse(await readFile(packages(`${name}/unicode.json`), 'utf8')),
  )

/** Files name their slices plainly, the list of ranges has numbers in brackets. */
const sliceFile = (face: Letters, slice: string) =>
  packages(
    `@fontsource-variable/${face.name}/files/${face.name}-${slice.replace(/[[\]]/g, '')}-wght-normal.woff2`,
  )

/** Letters that the app's own type has not. */
async function withoutOwn(text: string): Promise<string[]> {
  const { latin = '' } = await rangesOf('@fontsource/figtree')
  return [...foreignLetters(text)].filter((c) => c.trim() && !inRanges(c.codePointAt(0) ?? 0, latin))
}

/**
 * The fonts a text needs beside the app's own, each with the letters of the text alone, in the order in which a letter is
 * looked for. Letters of scripts that the app does not ship are in none.
 * @param format sfnt for paper, woff2 for pages
 */
export async function letterFonts(text: string, format: 'sfnt' | 'woff2'): Promise<LetterFont[]> {
  let wanted = await withoutOwn(text)
  const fonts: LetterFont[] = []
  for (const face of wanted.length ? lettersFor(text) : []) {
    for (const [slice, ranges] of Object.entries(await rangesOf(`@fontsource-variable/${face.name}`))) {
      const letters = wanted.filter((c) => inRanges(c.codePointAt(0) ?? 0, ranges)).join('')
      if (!letters) continue
      wanted = wanted.filter((c) => !letters.includes(c))
      const file = await readFile(sliceFile(face, slice))
      const cut = (wght: number) =>
        subsetFont(file, letters, { targetFormat: format, variationAxes: { wght } })
      fonts.push({ letters, regular: await cut(400), bold: await cut(700) })
    }
  }
  return fonts
}
